import { z } from 'zod';
import { frameAt, startOf } from '../clip/frame-table';
import { warning } from '../notice';
import { instantAt, joinPaths, pathFrames, pathLength, splitPath } from '../path/path';
import { evenSegment, speedAt } from '../path/segment';
import { toNumber } from '../time/rational';
import { frame, seconds } from '../time/units';
import type { Move } from './move';

const schema = z.object({
  from: z.enum(['end', 'frame']),
  at: z.int().min(1).max(1_000_000),
  to: z.int().min(0).max(10_000_000),
  percent: z.number().min(5).max(3000),
});
type Values = z.infer<typeof schema>;

/** At one instant of the result, back to a frame of the clip, and on from there to where it was. */
export const rewind: Move<Values> = {
  id: 'rewind',
  name: 'Rewind',
  summary: 'Runs back to a frame of the clip, then plays on.',
  schema,
  defaults: { from: 'end', at: 30, to: 0, percent: 200 },
  suggest: (path, { table }) => {
    const to = frameAt(table, seconds(instantAt(path, pathLength(path) / 2)));
    return { to, at: Math.max(1, Math.floor(pathFrames(path) / 2)) };
  },
  shape: [0, 0.25, 0.5, 0.75, 1, 0.45, 0.7, 1],
  fields: [
    {
      key: 'from',
      kind: 'choice',
      label: 'Rewinds',
      help: 'At the end of what comes in, or earlier.',
      options: [
        { value: 'end', label: 'at the end' },
        { value: 'frame', label: 'at a frame' },
      ],
    },
    {
      key: 'at',
      kind: 'place',
      label: 'At',
      help: 'Result frame at which it turns.',
      min: 1,
      max: 1_000_000,
      when: (v) => v.from === 'frame',
    },
    {
      key: 'to',
      kind: 'count',
      label: 'Back to source frame',
      help: 'Frame of the clip it runs back to.',
      min: 0,
      max: 10_000_000,
    },
    { key: 'percent', kind: 'percent', label: 'Speed back', help: '100 % is real time.', min: 5, max: 3000 },
  ],
  elsewhere: ({ to }, { source }) => ({ to: source(to) }),
  apply(path, values, { table }) {
    const { rate } = path;
    const at = values.from === 'end' ? pathLength(path) : Math.min(values.at, pathLength(path));
    const [head, tail] = splitPath(path, at);
    const turn = head.segments[head.segments.length - 1]!;
    const target = startOf(table, frame(values.to));
    const distance = turn.to - target;
    if (distance <= 1e-9)
      return {
        path,
        notices: [
          warning(
            'nothing-back',
            `Frame ${values.to} is not before the frame it rewinds from.`,
            'Choose an earlier frame.',
          ),
        ],
      };
    const forward = Math.abs(speedAt(turn, turn.length, rate)) || 1;
    const frames = (speed: number) => (distance / speed) * toNumber(rate);
    const back = evenSegment(frames(values.percent / 100), turn.to, target, rate);
    const on = evenSegment(frames(forward), target, turn.to, rate);
    return { path: joinPaths(rate, [head, { rate, segments: [back, on] }, tail]), notices: [] };
  },
};
