import { z } from 'zod';
import { frameAt, startOf } from '../clip/frame-table';
import { type Notice, info, warning } from '../notice';
import { asPart } from '../path/makers';
import { instantAt, joinPaths, pathFrames, pathLength, splitPath } from '../path/path';
import { type Segment, evenSegment, holdSegment, isEven, speedAt } from '../path/segment';
import { percentText } from '../time/entry';
import type { SourcePlace } from '../places/place';
import { toNumber } from '../time/rational';
import { frame, seconds } from '../time/units';
import type { Move } from './move';

const schema = z.object({
  from: z.enum(['end', 'frame']),
  at: z.number().min(0).max(1_000_000),
  to: z.int().min(0).max(10_000_000),
  percent: z.number().min(5).max(3000),
});
type Values = z.infer<typeof schema>;

/** A place of the clip as a frame of it: which time it is shown says nothing. */
const frameOrMark = (place: SourcePlace | undefined): number | SourcePlace | undefined =>
  place && ('source' in place ? place.source : { mark: place.mark });

/** At one instant of the result, back to a frame of the clip, and on from there to where it was. */
export const rewind: Move<Values> = {
  id: 'rewind',
  name: 'Rewind',
  group: 'there',
  also: 'reverse, backwards, spin back',
  summary: 'Runs back to a frame of the clip, then plays on.',
  schema,
  defaults: { from: 'end', at: 30, to: 0, percent: 200 },
  suggest: (path, { table, begins }) => {
    const shown = (share: number) => frameAt(table, seconds(instantAt(path, pathLength(path) * share)));
    // From where one looks a third of the span back; at the end, back to where one looks.
    return { to: frameOrMark(begins) ?? shown(0.5), at: { source: shown(0.5) } };
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
      help: 'Where it turns: a frame of the clip, a mark, a beat.',
      counts: 'clip',
      min: 0,
      max: 10_000_000,
      when: (v) => v.from === 'frame',
    },
    {
      key: 'to',
      kind: 'source',
      label: 'Back to source frame',
      help: 'Frame of the clip it runs back to.',
      min: 0,
      max: 10_000_000,
    },
    { key: 'percent', kind: 'percent', label: 'Speed back', help: '100 % is real time.', min: 5, max: 3000 },
  ],
  elsewhere: ({ to }, { source }) => ({ to: source(to) }),
  partName: (part) => ['before the rewind', 'way back', 'way on again', 'after the rewind'][part] ?? 'rewind',
  lengthOf: (part, { percent }) =>
    part === 1
      ? {
          ...{ key: 'percent', value: percent, min: 5, max: 3000, whole: false, grows: false },
          set: (value) => ({ percent: value }),
        }
      : undefined,
  apply(path, values, { table }) {
    const { rate } = path;
    const at = values.from === 'end' ? pathLength(path) : Math.min(values.at, pathLength(path));
    const notices: Notice[] = [];
    if (values.from === 'frame' && values.at > pathLength(path) + 0.5)
      notices.push(
        warning(
          'outside',
          `What comes in ends at frame ${pathFrames(path) - 1}; it turns there.`,
          'Choose an earlier frame.',
        ),
      );
    const [head, tail] = splitPath(path, at);
    const turn = head.segments[head.segments.length - 1] ?? holdSegment(1, path.segments[0]!.from);
    const target = startOf(table, frame(values.to));
    const distance = turn.to - target;
    if (distance <= 1e-9)
      return {
        path,
        notices: [
          ...notices,
          warning(
            'nothing-back',
            `Frame ${values.to} is not before the frame it rewinds from.`,
            'Choose an earlier frame.',
          ),
        ],
      };
    // On as fast as it came, where that was one speed; what it happened to have in a change of it says nothing.
    const came = Math.abs(speedAt(turn, turn.length, rate));
    const forward = isEven(turn, rate) && came > 0 ? came : 1;
    if (forward === 1 && Math.abs(came - 1) > 0.01)
      notices.push(info('plays-on', `It plays on at ${percentText(100)}.`));
    const frames = (speed: number) => (distance / speed) * toNumber(rate);
    const back = evenSegment(frames(values.percent / 100), turn.to, target, rate);
    const on = evenSegment(frames(forward), target, turn.to, rate);
    const part = (segment: Segment, n: number) => asPart({ rate, segments: [segment] }, n);
    return {
      path: joinPaths(rate, [asPart(head, 0), part(back, 1), part(on, 2), asPart(tail, 3)]),
      notices,
    };
  },
};
