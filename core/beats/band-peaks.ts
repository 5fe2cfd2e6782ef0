import type { Stereo } from '../sound/stereo';
import type { Band } from './grid';
import { LOW_TO_HZ, MID_TO_HZ } from './onsets';

/** How loud each band is, for drawing: the greatest sample of each stretch, 0 and up. */
export type BandPeaks = Readonly<Record<Band, Float32Array>>;

/** Parts a sound at a frequency, 12 dB an octave each way (state-variable filter, Chamberlin 1985). */
class Split {
  low = 0;
  high = 0;
  private band = 0;
  private readonly f: number;

  constructor(hz: number, rateHz: number) {
    this.f = 2 * Math.sin((Math.PI * hz) / rateHz);
  }

  put(value: number): void {
    this.low += this.f * this.band;
    this.high = value - this.low - Math.SQRT2 * this.band;
    this.band += this.f * this.high;
  }
}

/** Peaks of a sound in the three bands that accents are found in, one value for each `size` samples. */
export function bandPeaks(sound: Stereo, size: number): BandPeaks {
  const count = Math.ceil(sound.left.length / size);
  const out = { low: new Float32Array(count), mid: new Float32Array(count), high: new Float32Array(count) };
  const lows = new Split(LOW_TO_HZ, sound.rateHz);
  const mids = new Split(MID_TO_HZ, sound.rateHz);
  const highs = new Split(MID_TO_HZ, sound.rateHz);
  for (let p = 0, i = 0; p < count; p++) {
    let [low, mid, high] = [0, 0, 0];
    for (const end = Math.min(sound.left.length, (p + 1) * size); i < end; i++) {
      const value = (sound.left[i]! + sound.right[i]!) / 2;
      lows.put(value);
      mids.put(lows.high);
      highs.put(value);
      const [l, m, h] = [lows.low, mids.low, highs.high];
      if (l > low || -l > low) low = l < 0 ? -l : l;
      if (m > mid || -m > mid) mid = m < 0 ? -m : m;
      if (h > high || -h > high) high = h < 0 ? -h : h;
    }
    out.low[p] = low;
    out.mid[p] = mid;
    out.high[p] = high;
  }
  return out;
}
