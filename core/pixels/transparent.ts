import { type Planes, halfOf } from './planes';

const { min, max } = Math;

/**
 * Multiplies colours by how much of each point is there, `clear`, 0 (nothing) to 255 (all), in place: what is not there is
 * `black`. Where colours lie at half the size, the mean of their four points counts.
 */
export function byTransparency({ width, height, y, u, v }: Planes, clear: Uint8Array, black: number): void {
  for (let i = 0; i < y.length; i++) y[i] = black + Math.round(((y[i]! - black) * clear[i]!) / 255);
  const across = halfOf(width);
  for (let i = 0; i < u.length; i++) {
    const [x0, y0] = [2 * (i % across), 2 * Math.floor(i / across)];
    const [x1, y1] = [min(width - 1, x0 + 1), min(height - 1, y0 + 1)];
    const a =
      clear[y0 * width + x0]! + clear[y0 * width + x1]! + clear[y1 * width + x0]! + clear[y1 * width + x1]!;
    u[i] = 128 + Math.round(((u[i]! - 128) * a) / 1020);
    v[i] = 128 + Math.round(((v[i]! - 128) * a) / 1020);
  }
}

/**
 * A picture whose colours are multiplied by what is there of them, with that as grey in limited range, as one that says both
 * apart: colours as they are, and of every point 0 (nothing) to 255 (all) is there. Colours of nothing are black. Where colours
 * lie at half the size, the mean of their four points counts. Written into `to`, the planes y, u, v, a in one buffer.
 */
export function withTransparency(picture: Planes, grey: Uint8Array, to: Uint8Array): void {
  const { width, height, y, u, v } = picture;
  const [across, down] = [halfOf(width), halfOf(height)];
  const luma = width * height;
  const chroma = across * down;
  const alphas = to.subarray(luma + 2 * chroma, 2 * luma + 2 * chroma);
  const lights = (LIGHTS ??= madeLights());
  for (let i = 0; i < luma; i++) {
    const a = ALPHAS[grey[i]!]!;
    alphas[i] = a;
    to[i] = lights[(a << 8) | y[i]!]!;
  }
  for (let row = 0; row < down; row++)
    for (let column = 0; column < across; column++) {
      const i = row * across + column;
      const [x0, y0] = [2 * column, 2 * row];
      const [x1, y1] = [min(width - 1, x0 + 1), min(height - 1, y0 + 1)];
      const a =
        alphas[y0 * width + x0]! +
        alphas[y0 * width + x1]! +
        alphas[y1 * width + x0]! +
        alphas[y1 * width + x1]!;
      to[luma + i] = apart(u[i]!, a);
      to[luma + chroma + i] = apart(v[i]!, a);
    }
}

/** How much of a point is there, by the grey that stands for it. */
const ALPHAS = Uint8Array.from({ length: 256 }, (_, grey) =>
  min(255, max(0, Math.round(((grey - 16) * 255) / 219))),
);

/** Brightness as it is, by how much is there and what it was multiplied to. */
let LIGHTS: Uint8Array | undefined;
const madeLights = (): Uint8Array =>
  Uint8Array.from({ length: 65_536 }, (_, i) => {
    const [a, light] = [i >> 8, i & 255];
    if (a === 255) return light;
    return a === 0 ? 16 : min(235, max(0, 16 + Math.round(((light - 16) * 255) / a)));
  });

/** A colour difference by how much of its four points is there, 0 to 1020. */
function apart(value: number, a: number): number {
  if (a === 0) return 128;
  if (a === 1020) return min(240, max(16, value));
  return min(240, max(16, 128 + Math.round(((value - 128) * 1020) / a)));
}

/** Bytes of the planes y, u, v, a of a picture of a size. */
export const transparentBytes = (width: number, height: number): number =>
  2 * width * height + 2 * halfOf(width) * halfOf(height);
