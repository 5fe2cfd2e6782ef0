import { type TempoPath, periodAt } from './tempo';

/** Taken out of the innermost loops. */
const { abs, log } = Math;

/** How strictly beats keep to the tempo: for single ones that are off, and for the whole way they go off together. */
const TIGHTNESS = 120;
const NO_SLIP = 100;

/**
 * Beats by dynamic programming: the row of moments that lie on onsets and keep the tempo best (Ellis 2007, with
 * the period following the tempo path, and a cost that does not fall when a slip is spread over many beats: else
 * beats would slide over to the half beats wherever those are louder). Gives places in the curve, with fractions.
 */
export function trackBeats(curve: Float32Array, tempo: TempoPath, rateHz: number): number[] {
  const n = curve.length;
  const smooth = smoothed(curve);
  const score = new Float64Array(n);
  const from = new Int32Array(n).fill(-1);
  let best = 0;
  for (let t = 0; t < n; t++) {
    const period = periodAt(tempo, t, rateHz);
    const first = Math.max(0, Math.floor(t - 1.6 * period));
    const last = Math.floor(t - 0.6 * period);
    let most = 0;
    for (let s = first; s <= last; s++) {
      const off = abs(log((t - s) / period));
      const value = score[s]! - TIGHTNESS * off * off - NO_SLIP * off;
      if (value > most) {
        most = value;
        from[t] = s;
      }
    }
    score[t] = smooth[t]! + most;
  }
  const lastPeriod = periodAt(tempo, n - 1, rateHz);
  best = Math.max(0, n - Math.ceil(lastPeriod * 1.5));
  for (let t = best; t < n; t++) if (score[t]! > score[best]!) best = t;
  const places: number[] = [];
  for (let t = best; t >= 0; t = from[t]!) places.push(t);
  return places.reverse().map((t) => peakNear(smooth, t));
}

/** A little blur, so that hits a few milliseconds apart count as one. */
export function smoothed(curve: Float32Array): Float32Array {
  const weights = [0.12, 0.44, 0.88, 1, 0.88, 0.44, 0.12];
  return curve.map((_, i) => weights.reduce((sum, w, k) => sum + w * (curve[i + k - 3] ?? 0), 0) / 2);
}

/** The top of the parabola through a value and its neighbours, where it is a peak. */
export function peakNear(curve: Float32Array, t: number): number {
  const [a, b, c] = [curve[t - 1] ?? 0, curve[t]!, curve[t + 1] ?? 0];
  const bend = a - 2 * b + c;
  return bend < 0 && b >= a && b >= c ? t + (0.5 * (a - c)) / bend : t;
}

/**
 * Beats evened out: each put on the line through the beats around it, by their median offset, so that single
 * hits that come early or late do not pull the grid, while slow drift stays. `reach` beats on either side.
 */
export function evened(beats: readonly number[], reach: number): number[] {
  if (beats.length < 4) return [...beats];
  return beats.map((_, i) => {
    const from = Math.max(0, Math.min(beats.length - 1 - 2 * reach, i - reach));
    const to = Math.min(beats.length - 1, Math.max(2 * reach, i + reach));
    // Slope and place by medians (Theil 1950, Sen 1968): half the hits may be off.
    const slopes: number[] = [];
    for (let a = from; a <= to; a++)
      for (let b = a + 1; b <= to; b++) slopes.push((beats[b]! - beats[a]!) / (b - a));
    const slope = median(slopes);
    const offsets: number[] = [];
    for (let a = from; a <= to; a++) offsets.push(beats[a]! + (i - a) * slope);
    return median(offsets);
  });
}

export function median(values: readonly number[]): number {
  const sorted = values.toSorted((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle]! : (sorted[middle - 1]! + sorted[middle]!) / 2;
}
