import { z } from 'zod';
import { info } from '../notice';
import { type TimePath, joinPaths, pathFrames, slicePath } from '../path/path';
import type { Move } from './move';

const schema = z.object({
  length: z.int().min(1).max(1_000_000),
  by: z.enum(['repeats']),
});
type Values = z.infer<typeof schema>;

/** An exact length, by repeating what comes before it in the chain and cutting the last repeat. */
export const fit: Move<Values> = {
  id: 'fit',
  name: 'Fit',
  summary: 'Repeats the pattern to an exact length.',
  schema,
  defaults: { length: 240, by: 'repeats' },
  shape: [0, 0.5, 1, 0, 0.5, 1, 0, 0.5],
  fields: [
    {
      key: 'length',
      kind: 'frames',
      label: 'To',
      help: 'Frames, seconds or timecode.',
      min: 1,
      max: 1_000_000,
    },
  ],
  apply(path, values) {
    const one = pathFrames(path);
    const whole = Math.floor(values.length / one);
    const rest = values.length - whole * one;
    const parts: TimePath[] = Array.from({ length: whole }, () => path);
    if (rest > 0) parts.push(slicePath(path, 0, rest));
    const times = `${whole} whole repeat${whole === 1 ? '' : 's'}`;
    const text =
      rest === 0
        ? `${times}, nothing cut.`
        : whole === 0
          ? `Cut after ${rest} of ${one} frames.`
          : `${times}, then ${rest} of ${one} frames.`;
    return { path: joinPaths(path.rate, parts), notices: [info('fitted', text)] };
  },
};
