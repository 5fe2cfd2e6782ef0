/**
 * How well beats were found: F-measure, the harmonic mean of the share of found beats that are true and of
 * true beats that were found, each within `toleranceS` and each used once (Dixon 2001; 70 ms is usual).
 */
export function fMeasure(found: readonly number[], truth: readonly number[], toleranceS = 0.07): number {
  if (found.length === 0 && truth.length === 0) return 1;
  let hits = 0;
  let next = 0;
  for (const t of truth) {
    while (next < found.length && found[next]! < t - toleranceS) next++;
    if (next < found.length && found[next]! <= t + toleranceS) {
      hits++;
      next++;
    }
  }
  return (2 * hits) / (found.length + truth.length);
}

/** Median of how late found beats are, in seconds, over those within `toleranceS` of a true one. */
export function biasOf(found: readonly number[], truth: readonly number[], toleranceS = 0.07): number {
  const offs = found.flatMap((f) => {
    const nearest = truth.reduce((a, b) => (Math.abs(b - f) < Math.abs(a - f) ? b : a), Infinity);
    return Math.abs(nearest - f) <= toleranceS ? [f - nearest] : [];
  });
  offs.sort((a, b) => a - b);
  return offs[offs.length >> 1] ?? 0;
}
