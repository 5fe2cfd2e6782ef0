import { type Notice, warning } from '../notice';
import type { SourcePlace } from '../places/place';
import { type TimePath, pathFrames, pathLength, slicePath, splitPath } from '../path/path';
import type { MoveContext, PartLength } from './move';

/** A path cut at a slice: what is before it, the slice, what comes after. */
export interface Sliced {
  readonly before: TimePath;
  readonly slice: TimePath;
  readonly after: TimePath;
  readonly notices: readonly Notice[];
}

/** Cuts out `length` frames from `at`, brought inside the path; says so when they had to be. */
export function cutSlice(path: TimePath, at: number, length: number): Sliced {
  const total = pathFrames(path);
  const first = Math.min(at, total - 1);
  const last = first + length >= total;
  const end = last ? pathLength(path) : first + length;
  const notices =
    first < at || first + length > total
      ? [
          warning(
            'outside',
            `What comes in has ${total} frames; the slice is now ${Math.round(first)} to ${Math.round(Math.min(total, first + length))}.`,
            'Choose an earlier frame or a shorter slice.',
          ),
        ]
      : [];
  return {
    before: splitPath(path, first)[0],
    slice: slicePath(path, first, end),
    after: splitPath(path, end)[1],
    notices,
  };
}

/** The slice as the value that says how long each time it plays is. */
export const sliceLength = (slice: number): PartLength<{ slice: number }> => ({
  ...{ key: 'slice', value: slice, min: 1, max: 10_000, whole: true, grows: true },
  set: (value) => ({ slice: value }),
});

/** A slice for a new move: where one looks, else a third in; a few frames long. */
export function suggestSlice(
  path: TimePath,
  { begins }: MoveContext,
): { at: number | SourcePlace; slice: number } {
  const total = pathFrames(path);
  return { at: begins ?? Math.floor(total / 3), slice: Math.max(1, Math.min(6, Math.floor(total / 4))) };
}
