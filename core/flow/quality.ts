/** The peak signal to noise ratio of two rows of bytes, in dB; 60 at most. */
export function psnr(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2;
  return Math.min(60, 10 * Math.log10((255 * 255 * a.length) / sum));
}

/** Side of the windows that `ssim` compares, and pixels from one to the next. */
const WINDOW = 8;
const STEP = 4;

/**
 * The structural similarity of two grey pictures, 0 to 1: the mean over even windows of eight by eight (Wang, Bovik,
 * Sheikh and Simoncelli 2004, without the weighing by distance).
 */
export function ssim(a: Uint8Array, b: Uint8Array, width: number, height: number): number {
  const [c1, c2] = [(0.01 * 255) ** 2, (0.03 * 255) ** 2];
  let sum = 0;
  let windows = 0;
  for (let y = 0; y + WINDOW <= height; y += STEP)
    for (let x = 0; x + WINDOW <= width; x += STEP, windows++) {
      let [sa, sb, saa, sbb, sab] = [0, 0, 0, 0, 0];
      for (let j = 0; j < WINDOW; j++)
        for (let i = 0; i < WINDOW; i++) {
          const at = (y + j) * width + x + i;
          const [p, q] = [a[at]!, b[at]!];
          sa += p;
          sb += q;
          saa += p * p;
          sbb += q * q;
          sab += p * q;
        }
      const n = WINDOW * WINDOW;
      const [ma, mb] = [sa / n, sb / n];
      const [va, vb, vab] = [saa / n - ma * ma, sbb / n - mb * mb, sab / n - ma * mb];
      sum += ((2 * ma * mb + c1) * (2 * vab + c2)) / ((ma * ma + mb * mb + c1) * (va + vb + c2));
    }
  return sum / windows;
}
