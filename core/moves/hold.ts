import { z } from 'zod';
import { warning } from '../notice';
import { asPart } from '../path/makers';
import { cutToPath, instantAt, joinPaths, pathFrames, pathLength, splitPath } from '../path/path';
import { holdSegment } from '../path/segment';
import type { Move } from './move';

const schema = z.object({
  at: z.number().min(0).max(1_000_000),
  length: z.int().min(1).max(100_000),
  then: z.enum(['inserts', 'covers']).default('inserts'),
});
type Values = z.infer<typeof schema>;

const PARTS = ['before the hold', 'hold', 'after the hold'];

/** One frame stands still; what comes after goes on exactly as it would have, or is covered for as long. */
export const hold: Move<Values> = {
  id: 'hold',
  name: 'Hold',
  group: 'stop',
  also: 'freeze frame, pause, still, stop',
  summary: 'Freezes one frame; the rest goes on after it, or runs on under it.',
  schema,
  defaults: { at: 30, length: 20, then: 'inserts' },
  suggest: (path, { begins }) => ({ at: begins ?? Math.floor(pathFrames(path) / 2) }),
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
    {
      key: 'then',
      kind: 'choice',
      label: 'The rest',
      help: 'Goes on after it, so that the result is longer; or runs on under it, and the length stays.',
      options: [
        { value: 'inserts', label: 'waits' },
        { value: 'covers', label: 'runs on under it' },
      ],
    },
  ],
  partName: (part) => PARTS[part] ?? 'hold',
  lengthOf: (part, { length }) =>
    part === 1
      ? {
          ...{ key: 'length', value: length, min: 1, max: 100_000, whole: true, grows: true },
          set: (value) => ({ length: value }),
        }
      : undefined,
  apply(path, { at, length, then }, { instants }) {
    const last = pathFrames(path) - 1;
    const place = Math.min(at, last);
    const [head, rest] = splitPath(path, place);
    const covers = then === 'covers';
    const lasts = covers ? Math.min(length, pathLength(path) - place) : length;
    const tail = covers ? splitPath(rest, lasts)[1] : rest;
    const instant = instants?.['at'] ?? instantAt(path, place + 0.5);
    const still = asPart({ rate: path.rate, segments: [holdSegment(lasts, instant)] }, 1);
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
    // What runs on under it is met again with a jump that is meant.
    const after = covers ? cutToPath(tail) : tail;
    return { path: joinPaths(path.rate, [head, still, asPart(after, 2)]), notices };
  },
};
