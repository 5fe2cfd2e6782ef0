import { FREE_FROM, sharedKernels } from './kernels/shared';
import { type Planes, halfOf, planesBytes, planesIn } from './planes';

const aligned = (bytes: number): number => 16 * Math.ceil(bytes / 16);

/** Colour differences that lie in pairs where both planes are, as decoders of graphics cards give them, brought apart in place. */
export function splitPairs({ width, height, u, v }: Planes): void {
  const count = halfOf(width) * halfOf(height);
  const pairs = new Uint8Array(u.buffer, u.byteOffset, 2 * count);
  const out = FREE_FROM + aligned(2 * count);
  const { kernels, buffer } = sharedKernels(out + 2 * count);
  new Uint8Array(buffer, FREE_FROM, 2 * count).set(pairs);
  kernels.apart(FREE_FROM, out, out + count, count);
  u.set(new Uint8Array(buffer, out, count));
  v.set(new Uint8Array(buffer, out + count, count));
}

/** Words of more than eight bits as bytes, rounded to the nearest. */
export function toEightBits(words: Uint16Array, bits: number, out: Uint8Array): void {
  const at = FREE_FROM + aligned(words.byteLength);
  const { kernels, buffer } = sharedKernels(at + words.length);
  new Uint16Array(buffer, FREE_FROM, words.length).set(words);
  kernels.toBytes(FREE_FROM, at, words.length, bits - 8);
  out.set(new Uint8Array(buffer, at, words.length));
}

/** Quarter turns clockwise, and whether it is mirrored left to right afterwards. */
export interface Turn {
  readonly rotation: 0 | 90 | 180 | 270;
  readonly flip: boolean;
}

/**
 * The picture turned clockwise by so many degrees, then mirrored left to right where it is flipped, written into `into`
 * where that is given; one that is upright already is given back as it is.
 */
export function turned(picture: Planes, { rotation, flip }: Turn, into?: Uint8Array): Planes {
  if (rotation === 0 && !flip) return picture;
  const swaps = rotation === 90 || rotation === 270;
  const [width, height] = swaps ? [picture.height, picture.width] : [picture.width, picture.height];
  const to = planesIn(into ?? new Uint8Array(planesBytes(width, height)), width, height);
  const across = (rotation === 90 || rotation === 180) !== flip;
  const down = rotation === 180 || rotation === 270;
  const out = FREE_FROM + aligned(picture.width * picture.height);
  const { kernels, buffer } = sharedKernels(out + picture.width * picture.height);
  const plane = (from: Uint8Array, w: number, h: number, target: Uint8Array) => {
    new Uint8Array(buffer, FREE_FROM, w * h).set(from);
    kernels.turn(FREE_FROM, w, h, out, Number(swaps), Number(across), Number(down));
    target.set(new Uint8Array(buffer, out, w * h));
  };
  const [w, h] = [halfOf(picture.width), halfOf(picture.height)];
  plane(picture.y, picture.width, picture.height, to.y);
  plane(picture.u, w, h, to.u);
  plane(picture.v, w, h, to.v);
  return to;
}

/**
 * Red, green, blue and how much of each point is there, as planes in BT.709 limited range; where points may be
 * transparent, colours are multiplied by that first, so that what is not there is black.
 */
export function fromRgba(rgba: Uint8Array, transparent: boolean, to: Planes): void {
  const { width, height } = to;
  const pixels = width * height;
  const out = FREE_FROM + aligned(4 * pixels);
  const { kernels, buffer } = sharedKernels(out + planesBytes(width, height));
  new Uint8Array(buffer, FREE_FROM, 4 * pixels).set(rgba);
  if (transparent) kernels.premultiply(FREE_FROM, pixels);
  const made = planesIn(new Uint8Array(buffer, out, planesBytes(width, height)), width, height);
  kernels.fromRgba(FREE_FROM, out, made.u.byteOffset, made.v.byteOffset, width, height);
  for (const plane of ['y', 'u', 'v'] as const) to[plane].set(made[plane]);
}
