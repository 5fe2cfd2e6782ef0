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
