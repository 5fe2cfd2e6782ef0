import { z } from 'zod';
import { info, warning } from '../notice';
import { pathFrames, pathLength } from '../path/path';
import { knotsOf, warpPath } from '../path/warp';
import { percentText } from '../time/entry';
import type { Move } from './move';

const schema = z.object({
  from: z.number().min(1).max(3000),
  to: z.number().min(1).max(3000),
  over: z.int().min(2).max(100_000),
});
type Values = z.infer<typeof schema>;

/** The start speed, percent with one decimal, at which a coast to `to` percent over `over` frames uses no more than `total`. */
export function startThatFits(total: number, over: number, to: number): number {
  return Math.floor(((200 * total) / over - to) * 10) / 10;
}

/** Runs down, or up, from one speed to another over a given time, and ends there. */
export const coast: Move<Values> = {
  id: 'coast',
  name: 'Coast',
  group: 'pace',
  also: 'slow to a stop, inertia, brake',
  summary: 'Runs down from one speed to another, like a wheel let go.',
  schema,
  defaults: { from: 300, to: 2, over: 60 },
  suggest: (path) => ({ over: Math.max(2, Math.floor((pathFrames(path) * 2) / 3.02)) }),
  shape: [0, 0.36, 0.64, 0.84, 0.96, 1],
  fields: [
    { key: 'from', kind: 'percent', label: 'From', help: 'Speed it begins with.', min: 1, max: 3000 },
    {
      key: 'to',
      kind: 'percent',
      label: 'To',
      help: 'Speed it ends with; 1 % is nearly still.',
      min: 1,
      max: 3000,
    },
    { key: 'over', kind: 'length', label: 'Over', help: 'How long it takes.', min: 2, max: 100_000 },
  ],
  mends: (finding, { over, to }, { incoming }) => {
    const fits = startThatFits(incoming, over, to);
    return finding === 'ran-out' && fits >= 1 ? { words: 'Start slower', values: { from: fits } } : undefined;
  },
  lengthOf: (_, { over }) => ({
    ...{ key: 'over', value: over, min: 2, max: 100_000, whole: true, grows: true },
    set: (value) => ({ over: value }),
  }),
  apply(path, { from, to, over }, { table }) {
    const total = pathLength(path);
    const needs = ((from + to) / 200) * over;
    const result = warpPath(path, knotsOf([{ from: from / 100, to: to / 100, time: over }]), table);
    if (needs > total + 1e-6) {
      const fits = startThatFits(total, over, to);
      const wayOut =
        fits >= 1
          ? `A start at ${percentText(fits)} would fit, or a longer span.`
          : 'Give it a longer span, or less time.';
      return {
        path: result,
        notices: [warning('ran-out', `Ran out of frames: ${Math.ceil(needs - total)} short.`, wayOut)],
      };
    }
    const left = Math.floor(total - needs);
    return {
      path: result,
      notices: left > 0 ? [info('left-over', `${left} of ${pathFrames(path)} frames are not reached.`)] : [],
    };
  },
};
