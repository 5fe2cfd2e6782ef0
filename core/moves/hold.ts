import { z } from 'zod';
import { warning } from '../notice';
import { instantAt, joinPaths, pathFrames, splitPath } from '../path/path';
import { holdSegment } from '../path/segment';
import type { Move } from './move';

const schema = z.object({ at: z.int().min(0).max(1_000_000), length: z.int().min(1).max(100_000) });
type Values = z.infer<typeof schema>;

/** One frame stands still; what comes after goes on exactly as it would have. */
export const hold: Move<Values> = {
  id: 'hold',
  name: 'Hold',
  summary: 'Freezes one frame; the rest goes on unchanged.',
  schema,
  defaults: { at: 30, length: 20 },
  suggest: (path) => ({ at: Math.floor(pathFrames(path) / 2) }),
  shape: [0, 0.25, 0.5, 0.5, 0.5, 0.75, 1],
  fields: [
    { key: 'at', kind: 'place', label: 'At', help: 'Frame that is held.', min: 0, max: 1_000_000 },
    {
      key: 'length',
      kind: 'length',
      label: 'For',
      help: 'How long, in frames or seconds.',
      min: 1,
      max: 100_000,
    },
  ],
  apply(path, { at, length }) {
    const last = pathFrames(path) - 1;
    const place = Math.min(at, last);
    const [head, tail] = splitPath(path, place);
    const still = { rate: path.rate, segments: [holdSegment(length, instantAt(path, place + 0.5))] };
    const notices =
      place < at
        ? [
            warning(
              'outside',
              `What comes in ends at frame ${last}; that one is held.`,
              'Choose an earlier frame.',
            ),
          ]
        : [];
    return { path: joinPaths(path.rate, [head, still, tail]), notices };
  },
};
