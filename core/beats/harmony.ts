import { BANDS, type OnsetCurves } from './onsets';

/** Time around an instant that is left out: the hit itself, seconds. */
const GAP_S = 0.02;
/** The first band that is too high for harmony. */
const HARMONY_TO = 26;

/**
 * How much of what sounds changes at each moment, 0 to 1: its bands in the `reachS` seconds after it against those
 * before. `fromBand` leaves lower bands out.
 */
export function harmonyChange(
  { bands, rateHz, whole: { length } }: OnsetCurves,
  reachS: number,
  fromBand: number,
): Float32Array {
  const out = new Float32Array(length);
  const reach = Math.round(reachS * rateHz);
  const gap = Math.round(GAP_S * rateHz);
  const total = new Float32Array(length);
  for (let b = fromBand; b < HARMONY_TO; b++) {
    const sums = new Float64Array(length + 1);
    for (let t = 0; t < length; t++) sums[t + 1] = sums[t]! + bands[t * BANDS + b]!;
    for (let t = reach; t + reach + gap + 3 < length; t++) {
      const before = (sums[t - gap]! - sums[t - gap - reach + 2]!) / (reach - 2);
      const after = (sums[t + gap + 3 + reach]! - sums[t + gap + 3]!) / reach;
      out[t]! += Math.abs(after - before);
      total[t]! += after + before;
    }
  }
  return out.map((v, t) => (total[t]! > 0.5 ? v / total[t]! : 0));
}

/** Sums of each band up to each moment, `BANDS` values for each, so that the mean of any time is two look-ups a band. */
export function bandSums({ bands, whole: { length } }: OnsetCurves): Float64Array {
  const sums = new Float64Array((length + 1) * BANDS);
  for (let i = 0; i < bands.length; i++) sums[i + BANDS] = sums[i]! + bands[i]!;
  return sums;
}

/** How long after a beat what sounds is listened to, and until how long before the next, seconds: between the hits. */
const AFTER_HIT_S = 0.06;
const BEFORE_HIT_S = 0.02;

/** What sounds from each beat to the next, beats in seconds: the mean of each band, between the hits at both ends. */
export function soundsBetween(beats: readonly number[], sums: Float64Array, rateHz: number): Float64Array[] {
  const length = sums.length / BANDS - 1;
  return beats.slice(0, -1).map((from, i) => {
    const first = Math.min(length, Math.max(0, Math.round((from + AFTER_HIT_S) * rateHz)));
    const end = Math.max(first, Math.min(length, Math.round((beats[i + 1]! - BEFORE_HIT_S) * rateHz)));
    const count = Math.max(1, end - first);
    return Float64Array.from(
      { length: BANDS },
      (_, b) => (sums[end * BANDS + b]! - sums[first * BANDS + b]!) / count,
    );
  });
}

/**
 * How much harmony changes at a beat: it and the next one against those two earlier, so that drums, which
 * alternate, fall out.
 */
export function changeAt(sounds: readonly Float64Array[], i: number): number {
  let sum = 0;
  for (const k of [i, i + 1]) {
    const [a, b] = [sounds[k - 2], sounds[k]];
    if (!a || !b) return 0;
    let [apart, level] = [0, 1e-6];
    for (let n = 0; n < a.length; n++) {
      apart += Math.abs(a[n]! - b[n]!);
      level += a[n]!;
    }
    sum += apart / level;
  }
  return sum;
}
