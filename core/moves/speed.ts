import { z } from 'zod';
import { everyFrameOncePercent } from '../checks/smoothness';
import { info, type Notice } from '../notice';
import { pathFrames, pathLength, reversePath, speedUp } from '../path/path';
import { resolveTurns, settleTurns } from '../path/turns';
import { atLength } from './at-length';
import { percentText } from '../time/entry';
import type { Move } from './move';

const schema = z.object({
  by: z.enum(['percent', 'length']),
  percent: z.number().min(1).max(3000),
  length: z.int().min(1).max(1_000_000),
  direction: z.enum(['forward', 'backward']),
});
type Values = z.infer<typeof schema>;

/** Constant rate: everything before it in the chain, faster or slower, forward or backward. */
export const speed: Move<Values> = {
  id: 'speed',
  name: 'Speed',
  summary: 'Plays everything faster or slower, forward or backward.',
  schema,
  defaults: { by: 'percent', percent: 50, length: 60, direction: 'forward' },
  shape: [0, 0.25, 0.5, 0.75, 1],
  fields: [
    {
      key: 'by',
      kind: 'choice',
      label: 'Set by',
      help: 'Give the speed, or the length it should come to.',
      options: [
        { value: 'percent', label: 'speed' },
        { value: 'length', label: 'length' },
      ],
    },
    {
      key: 'percent',
      kind: 'percent',
      label: 'Speed',
      help: '100 % is real time.',
      min: 1,
      max: 3000,
      when: (v) => v.by === 'percent',
    },
    {
      key: 'length',
      kind: 'length',
      label: 'Length',
      help: 'The speed follows from it.',
      min: 1,
      max: 1_000_000,
      when: (v) => v.by === 'length',
    },
    {
      key: 'direction',
      kind: 'choice',
      label: 'Direction',
      help: 'Backward plays the same frames from the last to the first.',
      options: [
        { value: 'forward', label: 'forward' },
        { value: 'backward', label: 'backward' },
      ],
    },
  ],
  apply(path, values, { table }) {
    const before = pathLength(path);
    const fast =
      values.by === 'percent'
        ? resolveTurns(speedUp(path, values.percent / 100), table)
        : atLength((pace) => settleTurns(speedUp(path, pace), table), before, values.length);
    const after = pathFrames(fast);
    const actual = values.by === 'percent' ? values.percent : (before / pathLength(fast)) * 100;
    const notices: Notice[] = [];
    if (values.by === 'length')
      notices.push(info('true-speed', `${after} frames make it ${percentText(actual)}.`));
    const base = path.segments.every(
      (s) => s.speedIn === s.speedOut && Math.abs(Math.abs(s.speedIn) - 1) < 0.02,
    );
    const clean = everyFrameOncePercent(table, path.rate);
    if (base && actual < clean - 0.1)
      notices.push(info('repeats', `Frames repeat: ${percentText(clean)} shows each once.`));
    return { path: values.direction === 'backward' ? reversePath(fast) : fast, notices };
  },
};
