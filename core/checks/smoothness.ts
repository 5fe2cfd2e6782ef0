import { type FrameTable, meanRateHz } from '../clip/frame-table';
import { type TimePath, pathFrames, shownBy } from '../path/path';
import { kindOf } from '../path/segment';
import { type Rational, toNumber } from '../time/rational';
import type { Frame } from '../time/units';

/** The speed, in percent, at which every frame of a clip is shown exactly once: its cleanest slow speed. */
export function everyFrameOncePercent(table: FrameTable, rate: Rational): number {
  return (100 * toNumber(rate)) / meanRateHz(table);
}

/** A stretch of the result and how many different source frames a second it shows. */
export interface Smoothness {
  readonly fromFrame: Frame;
  readonly toFrame: number;
  readonly distinctPerS: number;
}

/**
 * The choppiest moving stretch of a path: the segment, at least half a second long unless none is, with
 * the fewest different source frames a second. Holds do not count. Undefined when nothing moves.
 */
export function choppiest(path: TimePath, shown: Int32Array): Smoothness | undefined {
  const hz = toNumber(path.rate);
  const stretches: Smoothness[] = [];
  for (const [i, { first, end }] of shownBy(path).entries()) {
    const segment = path.segments[i]!;
    if (end <= first || (kindOf(segment) === 'hold' && !segment.stands)) continue;
    const distinct = new Set(shown.subarray(first, end)).size;
    stretches.push({ fromFrame: first, toFrame: end, distinctPerS: (distinct * hz) / (end - first) });
  }
  const least = Math.min(hz / 2, pathFrames(path));
  const long = stretches.filter((s) => s.toFrame - s.fromFrame >= least);
  return (long.length > 0 ? long : stretches).reduce<Smoothness | undefined>(
    (worst, s) => (!worst || s.distinctPerS < worst.distinctPerS ? s : worst),
    undefined,
  );
}

/** How many new pictures a second a result shows about one of its frames. */
export interface PaceAt {
  readonly atFrame: number;
  readonly newPerS: number;
}

/** How long the stretch is about a frame whose new pictures are counted, seconds. */
const PACE_S = 0.5;

/**
 * How many new pictures a second a result shows along it, at `most` frames at most, evenly spread: those that are
 * another than the one before, within half a second about each. `pictures` are equal where the pictures are.
 */
export function paceAlong(pictures: Int32Array, rate: Rational, most: number): readonly PaceAt[] {
  const hz = toNumber(rate);
  const total = pictures.length;
  if (total === 0) return [];
  /** How many of the first n are new. */
  const news = new Uint32Array(total + 1);
  for (let n = 0; n < total; n++)
    news[n + 1] = news[n]! + (n === 0 || pictures[n] !== pictures[n - 1] ? 1 : 0);
  const reach = Math.max(1, Math.round((PACE_S * hz) / 2));
  const points = Math.min(most, total);
  return Array.from({ length: points }, (_, i) => {
    const atFrame = points === 1 ? 0 : Math.round((i * (total - 1)) / (points - 1));
    // At the ends the stretch lies beside the frame rather than being shorter.
    const from = Math.max(0, Math.min(atFrame - reach, total - 2 * reach));
    const to = Math.min(total, from + 2 * reach);
    return { atFrame, newPerS: ((news[to]! - news[from]!) * hz) / (to - from) };
  });
}
