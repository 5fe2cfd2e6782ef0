import { z } from 'zod';
import { type Notice, info } from '../notice';
import type { FrameTable } from '../clip/frame-table';
import { tooMuch } from '../path/limits';
import { asPart } from '../path/makers';
import { type TimePath, joinPaths, pathFrames, pathLength, slicePath, speedUp } from '../path/path';
import { settleTurns, settledPath } from '../path/turns';
import { atLength } from './at-length';
import { percentText } from '../time/entry';
import type { Move } from './move';

const schema = z.object({
  length: z.int().min(1).max(1_000_000),
  by: z.enum(['repeats', 'speed', 'trimming']),
});
type Values = z.infer<typeof schema>;

type Way = (path: TimePath, length: number, table: FrameTable) => { path: TimePath; notice: Notice };

const rounded = (frames: number) => Number(frames.toFixed(2));

const WAYS: Record<Values['by'], Way> = {
  repeats(path, length) {
    const one = pathLength(path);
    const whole = Math.floor(length / one + 1e-6);
    const rest = Math.max(0, length - whole * one);
    const refused = tooMuch(path, whole + 1);
    if (refused) return { path, notice: refused };
    const parts: TimePath[] = Array.from({ length: whole }, (_, i) => asPart(path, i));
    if (rest > 1e-6) parts.push(asPart(slicePath(path, 0, rest), whole));
    const times = `${whole} whole repeat${whole === 1 ? '' : 's'}`;
    const text =
      rest <= 1e-6
        ? `${times}, nothing cut.`
        : whole === 0
          ? `Cut after ${rounded(rest)} of ${rounded(one)} frames.`
          : `${times}, then ${rounded(rest)} of ${rounded(one)} frames.`;
    // Its turns are resolved already: to do so anew would take or give frames.
    return { path: settledPath(joinPaths(path.rate, parts)), notice: info('fitted', text) };
  },
  speed(path, length, table) {
    const one = pathLength(path);
    const fitted = atLength((pace) => settleTurns(speedUp(path, pace), table), one, length);
    const text = `The speed is now ${percentText((100 * one) / length)} of what it was.`;
    return { path: fitted, notice: info('fitted', text) };
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
  group: 'pace',
  also: 'length, duration, stretch to time',
  summary: 'Brings everything before it to an exact length.',
  schema,
  defaults: { length: 240, by: 'repeats' },
  shape: [0, 0.5, 1, 0, 0.5, 1, 0, 0.5],
  fields: [
    {
      key: 'length',
      kind: 'length',
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
  mends: (finding, { by }) =>
    finding === 'skip' && by === 'repeats'
      ? { words: 'Repeat there and back', before: { move: 'boomerang', values: { trips: 1 } } }
      : undefined,
  partName: (part, { by }) => (by === 'repeats' ? `repeat ${part + 1}` : 'what is fitted'),
  lengthOf: (_, { length, by }) =>
    by === 'speed'
      ? {
          ...{ key: 'length', value: length, min: 1, max: 1_000_000, whole: true, grows: true },
          set: (value) => ({ length: value }),
        }
      : undefined,
  apply(path, { length, by }, { table }) {
    const { path: fitted, notice } = WAYS[by](path, length, table);
    return { path: fitted, notices: [notice] };
  },
};
