import type { TimePath } from '../path/path';
import { type Segment, sourceAt, speedAt } from '../path/segment';
import type { Rational } from '../time/rational';

/** Result positions [from, to) at which a path shows a stretch of the clip. */
export interface Showing {
  readonly from: number;
  readonly to: number;
}

/** Positions closer than this are one, result frames; and instants, seconds. */
const SAME = 1e-7;

/** Positions inside a segment at which it turns round, ends included: between two it goes one way only. */
function turningPoints(segment: Segment, rate: Rational): number[] {
  const { length } = segment;
  const [first, middle, last] = [0, length / 2, length].map((at) => speedAt(segment, at, rate)) as [
    number,
    number,
    number,
  ];
  // Its speed is a parabola through these three.
  const a = 2 * (first - 2 * middle + last);
  const b = 4 * middle - 3 * first - last;
  const inside = (u: number) => u > 1e-9 && u < 1 - 1e-9;
  const roots =
    Math.abs(a) < 1e-12
      ? Math.abs(b) < 1e-12
        ? []
        : [-first / b]
      : b * b - 4 * a * first < 0
        ? []
        : [-1, 1].map((sign) => (-b + sign * Math.sqrt(b * b - 4 * a * first)) / (2 * a));
  const turns = roots
    .filter(inside)
    .sort((x, y) => x - y)
    .map((u) => u * length);
  return [0, ...turns, length];
}

/** The position between two, one way, at which a segment stands at an instant. */
function reaches(segment: Segment, low: number, high: number, instant: number, rate: Rational): number {
  const up = sourceAt(segment, high, rate) >= sourceAt(segment, low, rate);
  let [a, b] = [low, high];
  for (let i = 0; i < 60 && b - a > 1e-11; i++) {
    const middle = (a + b) / 2;
    if (sourceAt(segment, middle, rate) < instant === up) a = middle;
    else b = middle;
  }
  return (a + b) / 2;
}

/** Where a segment lies inside source instants [first, end), in positions from its beginning. */
function showingsIn(segment: Segment, first: number, end: number, rate: Rational): Showing[] {
  const { length, from, to, speedIn, speedOut } = segment;
  const even = Math.abs(speedIn - speedOut) < 1e-12 * Math.max(1, Math.abs(speedIn));
  if (even && Math.max(from, to) <= first + SAME && !(from === to && from >= first)) return [];
  if (even && Math.min(from, to) >= end - SAME) return [];
  if (from === to && even) return from >= first - SAME && from < end - SAME ? [{ from: 0, to: length }] : [];
  const points = turningPoints(segment, rate);
  return points.slice(1).flatMap((high, i) => {
    const low = points[i]!;
    const [a, b] = [sourceAt(segment, low, rate), sourceAt(segment, high, rate)];
    const [least, most] = [Math.min(a, b), Math.max(a, b)];
    if (most <= first + SAME || least >= end - SAME) return [];
    const at = (instant: number, otherwise: number) =>
      instant <= least + SAME || instant >= most - SAME
        ? otherwise
        : reaches(segment, low, high, instant, rate);
    return [
      b >= a ? { from: at(first, low), to: at(end, high) } : { from: at(end, low), to: at(first, high) },
    ];
  });
}

/** Every time a path shows source instants [first, end), seconds: stretches that touch are one. */
export function showingsOf(path: TimePath, first: number, end: number): Showing[] {
  const all: { from: number; to: number }[] = [];
  let start = 0;
  for (const segment of path.segments) {
    for (const { from, to } of showingsIn(segment, first, end, path.rate)) {
      if (to - from <= SAME) continue;
      const last = all[all.length - 1];
      if (last && start + from - last.to <= 1e-6) last.to = start + to;
      else all.push({ from: start + from, to: start + to });
    }
    start += segment.length;
  }
  return all;
}

/** The position at which a path comes nearest to an instant that it never shows, the first of them. */
export function nearestTo(path: TimePath, instant: number): number {
  let best = { at: 0, off: Infinity };
  let start = 0;
  for (const segment of path.segments) {
    for (const at of turningPoints(segment, path.rate)) {
      const off = Math.abs(sourceAt(segment, at, path.rate) - instant);
      if (off < best.off - 1e-9) best = { at: start + at, off };
    }
    start += segment.length;
  }
  return best.at;
}
