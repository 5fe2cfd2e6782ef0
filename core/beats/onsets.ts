import FFT from 'fft.js';

/** How strongly something begins at each moment, evenly spaced. */
export interface OnsetCurves {
  /** Values a second. */
  readonly rateHz: number;
  /** Over all bands, standardised: mean 0, deviation 1, local average taken away. */
  readonly whole: Float32Array;
  /** In three bands, 0 and up, each scaled to its own strong hits (about 1). */
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly high: Float32Array;
  /** Logarithmic magnitudes, `BANDS` values for each moment: what sounds, for telling changes of harmony. */
  readonly bands: Float32Array;
}

/** Values a second of the curves: one each ten milliseconds. */
export const CURVE_RATE_HZ = 100;
/** Length of the analysed window in seconds: short, so that a hit is not smeared. */
const WINDOW_S = 0.046;
export const BANDS = 36;
const LOWEST_HZ = 30;
/** Where the low band ends, and the middle one. */
export const LOW_TO_HZ = 160;
export const MID_TO_HZ = 2500;

/**
 * Onset curves by spectral flux: the rise of the logarithmic magnitude from window to window, summed over
 * bands of equal musical width (Masri 1996; logarithmic compression after Klapuri et al. 2006). `progress`
 * hears from 0 to 1.
 */
export function onsetCurves(
  mono: Float32Array,
  sampleRateHz: number,
  progress: (share: number) => void = () => undefined,
): OnsetCurves {
  const size = 2 ** Math.round(Math.log2(WINDOW_S * sampleRateHz));
  const count = Math.max(1, Math.floor((mono.length / sampleRateHz) * CURVE_RATE_HZ));
  const hop = sampleRateHz / CURVE_RATE_HZ;
  const spectra = new PairedSpectra(mono, size);
  const edges = bandEdges(size, sampleRateHz);
  const middleHz = (b: number) => ((edges[b]! + edges[b + 1]!) / 2) * (sampleRateHz / size);
  const bandOf = Array.from({ length: BANDS }, (_, b) =>
    middleHz(b) < LOW_TO_HZ ? 0 : middleHz(b) < MID_TO_HZ ? 1 : 2,
  );
  const curves = [0, 1, 2].map(() => new Float32Array(count));
  const flux = new Float32Array(count);
  const bands = new Float32Array(count * BANDS);
  const levels = [0, 1, 2].map(() => new Float64Array(BANDS));
  const startOf = (t: number) => Math.round(t * hop - size / 2);
  for (let t = 0; t < count; t++) {
    if (t % 2 === 0) spectra.load(startOf(t), startOf(t + 1));
    const power = spectra.powers[t % 2]!;
    const now = levels[t % 3]!;
    const before = levels[(t + 2) % 3]!;
    const earlier = levels[(t + 1) % 3]!;
    for (let b = 0; b < BANDS; b++) {
      const [from, to] = [edges[b]!, edges[b + 1]!];
      let sum = 0;
      for (let k = from; k < to; k++) sum += power[k]!;
      const level = Math.log1p((400 * Math.sqrt(sum / (to - from))) / size);
      now[b] = level;
      bands[t * BANDS + b] = level;
      // Against the window two before: a rise that takes 20 ms counts whole.
      const rise = Math.max(0, level - Math.max(earlier[b]!, Math.min(before[b]!, level) * 0.5));
      flux[t]! += rise;
      curves[bandOf[b]!]![t]! += rise;
    }
    if (t % 500 === 0) progress(t / count);
  }
  const [low, mid, high] = curves.map(scaledToHits);
  return { rateHz: CURVE_RATE_HZ, whole: standardised(flux), low: low!, mid: mid!, high: high!, bands };
}

/** Powers of two windows at a time: one goes through the transform as the real part, the other as the imaginary. */
class PairedSpectra {
  /** Of the first window and the second, for each bin up to half the size. */
  readonly powers: readonly [Float64Array, Float64Array];
  private readonly fft: FFT;
  private readonly both: Float64Array;
  private readonly out: Float64Array;
  private readonly window: Float64Array;

  constructor(
    private readonly mono: Float32Array,
    private readonly size: number,
  ) {
    this.fft = new FFT(size);
    this.both = new Float64Array(2 * size);
    this.out = new Float64Array(2 * size);
    this.window = Float64Array.from(
      { length: size },
      (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / size),
    );
    this.powers = [new Float64Array(size / 2), new Float64Array(size / 2)];
  }

  /** Transforms the windows that begin at two samples; silence lies beyond the sound. */
  load(first: number, second: number): void {
    this.put(first, 0);
    this.put(second, 1);
    const { size, out } = this;
    this.fft.transform(out, this.both);
    const [a, b] = this.powers;
    for (let k = 1; k < size / 2; k++) {
      const [zr, zi] = [out[2 * k]!, out[2 * k + 1]!];
      const [yr, yi] = [out[2 * (size - k)]!, out[2 * (size - k) + 1]!];
      // Products, not powers: those are a call each.
      const [ar, ai, br, bi] = [zr + yr, zi - yi, zr - yr, zi + yi];
      a[k] = (ar * ar + ai * ai) / 4;
      b[k] = (br * br + bi * bi) / 4;
    }
  }

  private put(start: number, part: 0 | 1): void {
    const { size, mono, both, window } = this;
    const inside = start >= 0 && start + size <= mono.length;
    for (let i = 0; i < size; i++)
      both[2 * i + part] = (inside ? mono[start + i]! : (mono[start + i] ?? 0)) * window[i]!;
  }
}

/** FFT bins that begin the bands, equally wide in the logarithm of frequency, at least a bin each. */
function bandEdges(size: number, sampleRateHz: number): number[] {
  const top = Math.min(16_000, sampleRateHz / 2);
  const edges: number[] = [];
  for (let b = 0; b <= BANDS; b++) {
    const hz = LOWEST_HZ * (top / LOWEST_HZ) ** (b / BANDS);
    const bin = Math.round((hz * size) / sampleRateHz);
    edges.push(Math.min(size / 2, Math.max(bin, (edges[b - 1] ?? 0) + 1)));
  }
  return edges;
}

/** The curve with its average over a second taken away, in deviations. */
function standardised(curve: Float32Array): Float32Array {
  const reach = CURVE_RATE_HZ / 2;
  const sums = new Float64Array(curve.length + 1);
  curve.forEach((v, i) => (sums[i + 1] = sums[i]! + v));
  const out = curve.map((v, i) => {
    const from = Math.max(0, i - reach);
    const to = Math.min(curve.length, i + reach);
    return Math.max(0, v - (sums[to]! - sums[from]!) / (to - from));
  });
  const deviation = Math.sqrt(out.reduce((s, v) => s + v * v, 0) / Math.max(1, out.length));
  return deviation > 0 ? out.map((v) => v / deviation) : out;
}

/** Scaled so that the strong hits of the band (its 99th percentile of peaks) are about 1. */
function scaledToHits(curve: Float32Array): Float32Array {
  const peaks = Array.from(curve).filter(
    (v, i) => v > 0 && v >= (curve[i - 1] ?? 0) && v >= (curve[i + 1] ?? 0),
  );
  peaks.sort((a, b) => a - b);
  const strong = peaks[Math.floor(peaks.length * 0.97)] ?? 0;
  return strong > 0 ? curve.map((v) => v / strong) : curve;
}
