import { z } from 'zod';
import { warning } from '../notice';
import { pathFrames, pathLength, slicePath } from '../path/path';
import type { Move } from './move';

const schema = z.object({ from: z.int().min(0).max(10_000_000), length: z.int().min(1).max(10_000_000) });
type Values = z.infer<typeof schema>;

/** Keeps one stretch of the result; what splitting a piece leaves in each half. */
export const trim: Move<Values> = {
  id: 'trim',
  name: 'Trim',
  summary: 'Keeps only a stretch of everything before it.',
  schema,
  defaults: { from: 0, length: 60 },
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
  ],
  apply(path, { from, length }) {
    const total = pathFrames(path);
    const first = Math.min(from, total - 1);
    const end = Math.min(total, first + length);
    const short = first < from || end - first < length;
    const notices = short
      ? [
          warning(
            'ran-out',
            `Only ${total} frames come in: it keeps ${end - first}.`,
            'Choose an earlier stretch.',
          ),
        ]
      : [];
    return { path: slicePath(path, first, end === total ? pathLength(path) : end), notices };
  },
};
