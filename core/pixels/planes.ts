/**
 * A picture in I420: brightness at full size, the two colour differences at half of it each way (rounded up),
 * rows without gaps. Eight bits a value.
 */
export interface Planes {
  readonly width: number;
  readonly height: number;
  readonly y: Uint8Array;
  readonly u: Uint8Array;
  readonly v: Uint8Array;
}

export const halfOf = (size: number): number => (size + 1) >> 1;

/** Bytes of a picture of a size. */
export const planesBytes = (width: number, height: number): number =>
  width * height + 2 * halfOf(width) * halfOf(height);

/** The planes of a picture in one buffer, in the order y, u, v. */
export function planesIn(buffer: Uint8Array, width: number, height: number): Planes {
  const luma = width * height;
  const chroma = halfOf(width) * halfOf(height);
  return {
    width,
    height,
    y: buffer.subarray(0, luma),
    u: buffer.subarray(luma, luma + chroma),
    v: buffer.subarray(luma + chroma, luma + 2 * chroma),
  };
}

/** Brightness of black in limited range. */
const BLACK = 16;

/** Makes a picture black, in limited range unless `black` is another brightness. */
export function blacken({ y, u, v }: Planes, black = BLACK): void {
  y.fill(black);
  u.fill(128);
  v.fill(128);
}
