/** How colours that a palette does not have are stood for: by the nearest, by a pattern, or spread over their neighbours. */
export type Dither = 'none' | 'pattern' | 'diffused';

/** The thresholds of an 8 by 8 pattern, 0 to 63 (Bayer 1973). */
const BAYER = Uint8Array.from({ length: 64 }, (_, i) => {
  const [x, y] = [i & 7, i >> 3];
  let value = 0;
  for (let bit = 0; bit < 3; bit++) {
    const [a, b] = [(x >> bit) & 1, (y >> bit) & 1];
    value = (value << 2) | ((a ^ b) << 1) | b;
  }
  return value;
});

/** How much of an error is handed on: all of it would run away where the palette has nothing near. */
const HANDED_ON = 0.875;

/** Pictures as indices of one palette. Colours are looked up by five, six and five bits, as palettes are found. */
export class Palette {
  private readonly known = new Int16Array(1 << 16).fill(-1);
  private readonly spread: number;

  /** `colours` are red, green and blue, 0 to 255; at most 256 of them. */
  constructor(private readonly colours: readonly (readonly number[])[]) {
    this.spread = stepOf(colours);
  }

  /** The indices of a picture of RGBA, row by row. */
  indexed(rgba: Uint8Array, width: number, dither: Dither): Uint8Array {
    if (dither === 'diffused') return this.diffused(rgba, width);
    const out = new Uint8Array(rgba.length >> 2);
    for (let i = 0, p = 0; i < out.length; i++, p += 4) {
      const off =
        dither === 'pattern'
          ? (BAYER[(Math.floor(i / width) & 7) * 8 + ((i % width) & 7)]! / 63 - 0.5) * this.spread
          : 0;
      out[i] = this.nearest(rgba[p]! + off, rgba[p + 1]! + off, rgba[p + 2]! + off);
    }
    return out;
  }

  /** Floyd and Steinberg (1976), to and fro, so that errors do not drift to one side. */
  private diffused(rgba: Uint8Array, width: number): Uint8Array {
    const out = new Uint8Array(rgba.length >> 2);
    const height = out.length / width;
    let here = new Float32Array(3 * (width + 2));
    let below = new Float32Array(3 * (width + 2));
    for (let y = 0; y < height; y++) {
      const step = y % 2 === 0 ? 1 : -1;
      for (let n = 0, x = step > 0 ? 0 : width - 1; n < width; n++, x += step) {
        const p = 4 * (y * width + x);
        const e = 3 * (x + 1);
        const [r, g, b] = [rgba[p]! + here[e]!, rgba[p + 1]! + here[e + 1]!, rgba[p + 2]! + here[e + 2]!];
        const found = this.nearest(r, g, b);
        out[y * width + x] = found;
        const colour = this.colours[found]!;
        const errors = [r - colour[0]!, g - colour[1]!, b - colour[2]!];
        for (let c = 0; c < 3; c++) {
          const error = errors[c]! * HANDED_ON;
          here[e + 3 * step + c]! += (error * 7) / 16;
          below[e - 3 * step + c]! += (error * 3) / 16;
          below[e + c]! += (error * 5) / 16;
          below[e + 3 * step + c]! += error / 16;
        }
      }
      [here, below] = [below, here];
      below.fill(0);
    }
    return out;
  }

  private nearest(r: number, g: number, b: number): number {
    const [red, green, blue] = [clamped(r), clamped(g), clamped(b)];
    const key = ((red >> 3) << 11) | ((green >> 2) << 5) | (blue >> 3);
    const known = this.known[key]!;
    if (known >= 0) return known;
    // The middle of what the key stands for.
    const [x, y, z] = [(red & ~7) + 4, (green & ~3) + 2, (blue & ~7) + 4];
    let best = 0;
    let least = Infinity;
    for (let i = 0; i < this.colours.length; i++) {
      const c = this.colours[i]!;
      const distance = (c[0]! - x) ** 2 + (c[1]! - y) ** 2 + (c[2]! - z) ** 2;
      if (distance < least) [least, best] = [distance, i];
    }
    this.known[key] = best;
    return best;
  }
}

/** How far neighbouring colours of a palette lie apart in each channel, on the median. */
function stepOf(colours: readonly (readonly number[])[]): number {
  const apart = colours.map((a, i) =>
    colours.reduce(
      (least, b, k) =>
        k === i
          ? least
          : Math.min(least, Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!, a[2]! - b[2]!) / Math.sqrt(3)),
      255,
    ),
  );
  return apart.sort((a, b) => a - b)[apart.length >> 1] ?? 0;
}

const clamped = (v: number): number => (v < 0 ? 0 : v > 255 ? 255 : v | 0);

/** Indices with those that are as in the picture before replaced by `same`; gives how many are not. */
export function onlyChanged(
  indices: Uint8Array,
  before: Uint8Array,
  same: number,
): { out: Uint8Array; changed: number } {
  const out = indices.slice();
  let changed = 0;
  for (let i = 0; i < out.length; i++)
    if (out[i] === before[i]) out[i] = same;
    else changed++;
  return { out, changed };
}
