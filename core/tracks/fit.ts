/** Differences, in deviations of the patch, from which on a point counts for little: it is covered, or changed. */
export const OUTLIER = 0.9;

const { abs, max, sqrt } = Math;

/** How much a point counts that is so far off (Geman and McClure). */
export const weightOf = (off: number): number => {
  const t = (off / OUTLIER) ** 2;
  return 1 / ((1 + t) * (1 + t));
};

/** Mean and deviation of what lies in the picture. */
export function statistics(values: Float32Array): [mean: number, deviation: number] {
  let [n, sum, squares] = [0, 0, 0];
  for (const v of values) {
    if (v !== v) continue;
    n++;
    sum += v;
    squares += v * v;
  }
  const mean = sum / max(1, n);
  return [mean, sqrt(max(0, squares / max(1, n) - mean * mean))];
}

/** With which brightness and contrast something is seen. */
export interface Fit {
  readonly mean: number;
  readonly gain: number;
}

/** Part of the weight above which there is nothing that might have led a fit astray. */
const ALL_FITS = 0.8;
/** Least contrast with which something is still taken for the patch. */
const LEAST = 0.3;

/**
 * The brightness and contrast with which what was read is most like a patch, what does not fit counting for little.
 * Begun from all points alike and, where that leaves many out, from their medians too: a part that turned over at
 * once (a number, a sign, a blink) leads the first astray.
 */
export function fitted(values: Float32Array, read: Float32Array): Fit | undefined {
  const one = refined(values, read);
  if (one && one.part > ALL_FITS) return one;
  const start = byMedians(values, read);
  const two = start && refined(values, read, start);
  return two && (!one || two.part > one.part) ? two : one;
}

/** Brightness and contrast by medians, which a part of strange points doesn't move (deviations after Hampel 1974). */
function byMedians(values: Float32Array, read: Float32Array): Fit | undefined {
  const [a, v]: [number[], number[]] = [[], []];
  // A quarter of the points says it as well.
  for (let i = 0; i < read.length; i += 4)
    if (read[i] === read[i]) {
      a.push(values[i]!);
      v.push(read[i]!);
    }
  if (a.length < 4) return undefined;
  const [middle, here] = [medianOf(a), medianOf(v)];
  const spread = medianOf(a.map((x) => abs(x - middle)));
  const contrast = medianOf(v.map((x) => abs(x - here))) / spread;
  return contrast >= LEAST && contrast < Infinity
    ? { gain: 1 / contrast, mean: here - contrast * middle }
    : undefined;
}

const medianOf = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[values.length >> 1]!;

/** A fit made better three times, and the part of the weight of all points that it has. */
function refined(
  values: Float32Array,
  read: Float32Array,
  start?: Fit,
): (Fit & { part: number }) | undefined {
  let { mean, gain } = start ?? { mean: NaN, gain: NaN };
  let part = 0;
  for (let round = 0; round < 3; round++) {
    let [w, sa, sb, ab, aa] = [0, 0, 0, 0, 0];
    for (let i = 0; i < read.length; i++) {
      const v = read[i]!;
      if (v !== v) continue;
      const a = values[i]!;
      const weight = round === 0 && !start ? 1 : weightOf((v - mean) * gain - a);
      w += weight;
      sa += weight * a;
      sb += weight * v;
      ab += weight * a * v;
      aa += weight * a * a;
    }
    if (w < 4) return undefined;
    // Read as contrast times the patch and some brightness.
    const variance = aa - (sa * sa) / w;
    const contrast = variance > 1e-6 ? (ab - (sa * sb) / w) / variance : 0;
    if (contrast < LEAST) return undefined;
    gain = 1 / contrast;
    mean = (sb - contrast * sa) / w;
    part = w / read.length;
  }
  return { mean, gain, part };
}
