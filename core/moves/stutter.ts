import { z } from 'zod';
import { tooMuch } from '../path/limits';
import { asPart } from '../path/makers';
import { type TimePath, cutToPath, joinPaths, pathLength, slicePath } from '../path/path';
import type { Move } from './move';
import { cutSlice, sliceLength, suggestSlice } from './slice';

const schema = z.object({
  at: z.number().min(0).max(1_000_000),
  slice: z.int().min(1).max(10_000),
  repeats: z.int().min(2).max(500),
  shorter: z.number().min(0).max(90),
});
type Values = z.infer<typeof schema>;

/** The same slice again and again; as a roll, each repeat shorter than the one before. */
export const stutter: Move<Values> = {
  id: 'stutter',
  name: 'Stutter',
  group: 'stop',
  also: 'repeat, glitch, roll',
  summary: 'Repeats a short slice; as a roll, each repeat shorter.',
  schema,
  defaults: { at: 20, slice: 6, repeats: 4, shorter: 0 },
  suggest: suggestSlice,
  shape: [0, 0.3, 0.6, 0.3, 0.6, 0.3, 0.6, 0.8, 1],
  fields: [
    {
      key: 'at',
      kind: 'place',
      label: 'At',
      help: 'Where the slice begins.',
      min: 0,
      max: 1_000_000,
    },
    { key: 'slice', kind: 'length', label: 'Slice', help: 'Length of the slice.', min: 1, max: 10_000 },
    {
      key: 'repeats',
      kind: 'count',
      label: 'Times it plays',
      help: 'The first time included.',
      min: 2,
      max: 500,
    },
    {
      key: 'shorter',
      kind: 'percent',
      label: 'Each shorter by',
      help: '0 repeats it whole; more makes a roll.',
      min: 0,
      max: 90,
    },
  ],
  partName: (part, { repeats }) =>
    part === 0 ? 'before the repeats' : part > repeats ? 'after the repeats' : `repeat ${part}`,
  lengthOf: (part, { repeats, slice }) => (part > 0 && part <= repeats ? sliceLength(slice) : undefined),
  apply(path, { at, slice: length, repeats, shorter }) {
    const { before, slice, after, notices } = cutSlice(path, at, length);
    const refused = tooMuch(slice, repeats);
    if (refused) return { path, notices: [refused] };
    const parts: TimePath[] = [asPart(before, 0)];
    for (let i = 0; i < repeats; i++) {
      const frames = Math.max(1, pathLength(slice) * (1 - shorter / 100) ** i);
      const repeat = slicePath(slice, 0, frames);
      parts.push(asPart(i === 0 ? repeat : cutToPath(repeat), i + 1));
    }
    const lastIsWhole = shorter === 0;
    parts.push(asPart(lastIsWhole ? after : cutToPath(after), repeats + 1));
    return { path: joinPaths(path.rate, parts), notices };
  },
};
