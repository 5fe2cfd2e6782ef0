/** Differences, in deviations of the patch, from which on a point counts for little: it is covered, or changed. */
export const OUTLIER = 0.9;

const { max, sqrt } = Math;

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

/** The brightness and contrast with which what was read is most like a patch, what does not fit counting for little. */
export function fitted(values: Float32Array, read: Float32Array): { mean: number; gain: number } | undefined {
  let mean = NaN;
  let gain = NaN;
  for (let round = 0; round < 3; round++) {
    let [w, sa, sb, ab, aa] = [0, 0, 0, 0, 0];
    for (let i = 0; i < read.length; i++) {
      const v = read[i]!;
      if (v !== v) continue;
      const a = values[i]!;
      const weight = round === 0 ? 1 : weightOf((v - mean) * gain - a);
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
    if (contrast < 0.3) return undefined;
    gain = 1 / contrast;
    mean = (sb - contrast * sa) / w;
  }
  return { mean, gain };
}
