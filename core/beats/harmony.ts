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
