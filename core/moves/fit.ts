import { z } from 'zod';
import { type Notice, info } from '../notice';
import { type TimePath, joinPaths, pathFrames, slicePath } from '../path/path';
import { knotsOf, warpPath } from '../path/warp';
import { percentText } from '../time/entry';
import type { Move } from './move';

const schema = z.object({
  length: z.int().min(1).max(1_000_000),
  by: z.enum(['repeats', 'speed', 'trimming']),
});
type Values = z.infer<typeof schema>;

const WAYS: Record<Values['by'], (path: TimePath, length: number) => { path: TimePath; notice: Notice }> = {
  repeats(path, length) {
    const one = pathFrames(path);
    const whole = Math.floor(length / one);
    const rest = length - whole * one;
    const parts: TimePath[] = Array.from({ length: whole }, () => path);
    if (rest > 0) parts.push(slicePath(path, 0, rest));
    const times = `${whole} whole repeat${whole === 1 ? '' : 's'}`;
    const text =
      rest === 0
        ? `${times}, nothing cut.`
        : whole === 0
          ? `Cut after ${rest} of ${one} frames.`
          : `${times}, then ${rest} of ${one} frames.`;
    return { path: joinPaths(path.rate, parts), notice: info('fitted', text) };
  },
  speed(path, length) {
    const one = pathFrames(path);
    const pace = one / length;
    const fitted = warpPath(path, knotsOf([{ from: pace, to: pace, old: one }]));
    const frames = pathFrames(fitted);
    const text = `The speed is now ${percentText(pace * 100)} of what it was.`;
    return {
      path: fitted,
      notice: info(
        'fitted',
        frames === length ? text : `${frames} frames: it has that many joins, a frame each.`,
      ),
    };
  },
  trimming(path, length) {
    const one = pathFrames(path);
    const text =
      length < one
        ? `${one - length} frames were cut off the end.`
        : `It has ${one} frames; trimming cannot make it longer.`;
    return { path: slicePath(path, 0, length), notice: info('fitted', text) };
  },
};

/** An exact length: by repeating, by speed, or by cutting the end off. Says which it changed and how. */
export const fit: Move<Values> = {
  id: 'fit',
  name: 'Fit',
  summary: 'Brings everything before it to an exact length.',
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
    {
      key: 'by',
      kind: 'choice',
      label: 'By',
      help: 'What may change to make it fit.',
      options: [
        { value: 'repeats', label: 'repeats' },
        { value: 'speed', label: 'speed' },
        { value: 'trimming', label: 'trimming' },
      ],
    },
  ],
  apply(path, { length, by }) {
    const { path: fitted, notice } = WAYS[by](path, length);
    return { path: fitted, notices: [notice] };
  },
};
