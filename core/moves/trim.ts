import { z } from 'zod';
import { warning } from '../notice';
import { type TimePath, pathFrames, pathLength, slicePath } from '../path/path';
import type { Move } from './move';

const schema = z.object({
  from: z.int().min(0).max(10_000_000),
  length: z.int().min(1).max(10_000_000),
  looks: z.enum(['here', 'whole']).default('here'),
});
type Values = z.infer<typeof schema>;

/** What is kept of a path: result positions [first, end). */
function kept(path: TimePath, from: number, length: number): { first: number; end: number } {
  const total = pathFrames(path);
  const first = Math.min(from, total - 1);
  const end = Math.min(total, first + length);
  return { first, end: end === total ? pathLength(path) : end };
}

/** Keeps one stretch of the result; what splitting a piece leaves in each half. */
export const trim: Move<Values> = {
  id: 'trim',
  name: 'Trim',
  group: 'hand',
  also: 'cut off, shorten, crop in time',
  summary: 'Keeps only a stretch of everything before it.',
  schema,
  defaults: { from: 0, length: 60, looks: 'here' },
  suggest: (path) => ({ length: pathFrames(path) }),
  shape: [0.3, 0.35, 0.4, 0.45, 0.5, 0.55, 0.6, 0.65, 0.7],
  fields: [
    {
      key: 'from',
      kind: 'place',
      label: 'From',
      help: 'First result frame that is kept.',
      min: 0,
      max: 10_000_000,
    },
    { key: 'length', kind: 'length', label: 'Length', help: 'How much is kept.', min: 1, max: 10_000_000 },
    {
      key: 'looks',
      kind: 'choice',
      label: 'Looks count',
      help: 'From what is kept, or as if the whole were still there: so a piece that is cut in two looks as before.',
      options: [
        { value: 'here', label: 'from here' },
        { value: 'whole', label: 'from the whole' },
      ],
    },
  ],
  onlyCuts: true,
  skips: ({ from }) => from,
  leavesOut(path, { from, length, looks }) {
    if (looks === 'here') return undefined;
    const { first, end } = kept(path, from, length);
    return { before: slicePath(path, 0, first), after: slicePath(path, end, pathLength(path)) };
  },
  apply(path, { from, length }) {
    const total = pathFrames(path);
    const { first, end } = kept(path, from, length);
    const short = first < from || Math.min(end, total) - first < length;
    const notices = short
      ? [
          warning(
            'ran-out',
            `Only ${total} frames come in: it keeps ${Math.min(end, total) - first}.`,
            'Choose an earlier stretch.',
          ),
        ]
      : [];
    return { path: slicePath(path, first, end), notices };
  },
};
