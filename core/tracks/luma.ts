/** Brightness of a picture, a byte a pixel, rows without gaps. */
export interface Luma {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8Array;
}

/** A picture at half its size again and again: level 0 is the picture itself. */
export type Pyramid = readonly Luma[];

/** A picture with its smaller ones, down to `levels` halvings or to 16 pixels. */
export function pyramidOf(picture: Luma, levels: number): Pyramid {
  const all: Luma[] = [picture];
  while (all.length <= levels) {
    const last = all[all.length - 1]!;
    if (Math.min(last.width, last.height) < 32) break;
    all.push(halved(last));
  }
  return all;
}

/** Means of two by two pixels; a last odd row or column is left out. */
export function halved({ width, height, data }: Luma): Luma {
  const [w, h] = [width >> 1, height >> 1];
  const out = new Uint8Array(w * h);
  for (let y = 0; y < h; y++) {
    const top = 2 * y * width;
    const bottom = top + width;
    const to = y * w;
    for (let x = 0; x < w; x++) {
      const i = 2 * x;
      out[to + x] =
        (data[top + i]! + data[top + i + 1]! + data[bottom + i]! + data[bottom + i + 1]! + 2) >> 2;
    }
  }
  return { width: w, height: h, data: out };
}
