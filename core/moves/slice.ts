import { type Notice, warning } from '../notice';
import { type TimePath, pathFrames, pathLength, slicePath, splitPath } from '../path/path';

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
            `What comes in has ${total} frames; the slice is now ${first} to ${Math.min(total, first + length)}.`,
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

/** A middle for slices of a new move: a place a third in, a few frames long. */
export function suggestSlice(path: TimePath): { at: number; slice: number } {
  const total = pathFrames(path);
  return { at: Math.floor(total / 3), slice: Math.max(1, Math.min(6, Math.floor(total / 4))) };
}
