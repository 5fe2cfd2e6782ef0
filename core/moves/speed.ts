import { z } from 'zod';
import { everyFrameOncePercent } from '../checks/smoothness';
import { info, type Notice } from '../notice';
import type { FrameTable } from '../clip/frame-table';
import { type TimePath, pathFrames, pathLength, reversePath, speedUp } from '../path/path';
import { knotsOf, warpPath } from '../path/warp';
import { resolveTurns, settleTurns } from '../path/turns';
import { atLength } from './at-length';
import { percentText } from '../time/entry';
import type { Move } from './move';

const schema = z.object({
  by: z.enum(['percent', 'length']),
  percent: z.number().min(1).max(3000),
  length: z.int().min(1).max(1_000_000),
  direction: z.enum(['forward', 'backward']),
  ease: z.int().min(0).max(1000).default(0),
});
type Values = z.infer<typeof schema>;

/** Constant rate: everything before it in the chain, faster or slower, forward or backward. */
export const speed: Move<Values> = {
  id: 'speed',
  name: 'Speed',
  group: 'pace',
  also: 'slow motion, slow-mo, fast, reverse, backward, half speed, time stretch, duration',
  summary: 'Plays everything faster or slower, forward or backward.',
  schema,
  defaults: { by: 'percent', percent: 50, length: 60, direction: 'forward', ease: 0 },
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
    {
      key: 'ease',
      kind: 'length',
      label: 'Eased over',
      help: 'Frames in which it comes from the speed before it, and goes to the one after: for a part of what comes in.',
      min: 0,
      max: 1000,
      when: (v, limited) => limited && v.direction === 'forward',
    },
  ],
  views: (_, key, to, { before, after }) =>
    key !== 'by'
      ? {}
      : to === 'length'
        ? { length: Math.max(1, Math.round(after)) }
        : { percent: Number(Math.min(3000, Math.max(1, (100 * before) / after)).toFixed(3)) },
  lengthOf: (_, { by, percent, length }) =>
    by === 'length'
      ? {
          ...{ key: 'length', value: length, min: 1, max: 1_000_000, whole: true, grows: true },
          set: (value) => ({ length: value }),
        }
      : {
          ...{ key: 'percent', value: percent, min: 1, max: 3000, whole: false, grows: false },
          set: (value) => ({ percent: value }),
        },
  apply(path, values, { table, limited }) {
    const before = pathLength(path);
    const eases = values.ease > 0 && values.direction === 'forward' && limited === true;
    const fast = eases
      ? easedSpeed(path, values, table)
      : values.by === 'percent'
        ? resolveTurns(speedUp(path, values.percent / 100), table)
        : atLength((pace) => settleTurns(speedUp(path, pace), table), before, values.length);
    const after = pathFrames(fast);
    const actual = values.by === 'percent' ? values.percent : (before / pathLength(fast)) * 100;
    const notices: Notice[] = [];
    if (limited && values.direction === 'backward')
      notices.push(
        info('jumps', 'A part that plays backward jumps at both its ends: Rewind and Spool come back to it.'),
      );
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

/** A path at another speed in its middle, from real time and back to it over `ease` frames each. */
function easedSpeed(path: TimePath, { by, percent, length, ease }: Values, table: FrameTable): TimePath {
  const total = pathLength(path);
  const speedFor = (eased: number) => (by === 'percent' ? percent / 100 : (total - eased) / (length - eased));
  // As much of the ease as there is room for, at both ends.
  const room = by === 'percent' ? total / (1 + percent / 100) : Math.min(length / 2, total);
  const eased = Math.min(ease, 0.98 * room);
  const pace = Math.min(30, Math.max(0.01, speedFor(eased)));
  const inside = Math.max(0, total - eased * (1 + pace));
  return warpPath(
    path,
    knotsOf([
      { from: 1, to: pace, time: eased },
      { from: pace, to: pace, old: inside },
      { from: pace, to: 1, time: eased },
    ]),
    table,
  );
}
