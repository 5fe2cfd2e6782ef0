/** Pictures as decoders give them, brought to planes of eight bits (`core/pixels/incoming.ts`). */

/** Pairs of bytes as two rows of bytes. */
export function apart(pairs: usize, first: usize, second: usize, count: i32): void {
  let i: i32 = 0;
  for (; i + 16 <= count; i += 16) {
    const a = v128.load(pairs + 2 * i);
    const b = v128.load(pairs + 2 * i, 16);
    v128.store(first + i, v128.shuffle<u8>(a, b, 0, 2, 4, 6, 8, 10, 12, 14, 16, 18, 20, 22, 24, 26, 28, 30));
    v128.store(second + i, v128.shuffle<u8>(a, b, 1, 3, 5, 7, 9, 11, 13, 15, 17, 19, 21, 23, 25, 27, 29, 31));
  }
  for (; i < count; i++) {
    store<u8>(first + i, load<u8>(pairs + 2 * i));
    store<u8>(second + i, load<u8>(pairs + 2 * i, 1));
  }
}

/** Words of more bits as bytes, rounded to the nearest. */
export function toBytes(words: usize, out: usize, count: i32, shift: i32): void {
  const half = i16x8.splat(<i16>((<i32>1) << (shift - 1)));
  let i: i32 = 0;
  for (; i + 16 <= count; i += 16) {
    const a = v128.shr<u16>(v128.add<i16>(v128.load(words + 2 * i), half), shift);
    const b = v128.shr<u16>(v128.add<i16>(v128.load(words + 2 * i, 16), half), shift);
    v128.store(out + i, i8x16.narrow_i16x8_u(a, b));
  }
  for (; i < count; i++) {
    const value = (<i32>load<u16>(words + 2 * i) + (1 << (shift - 1))) >> shift;
    store<u8>(out + i, <u8>min(255, value));
  }
}

/** Bytes as words of ten bits. */
export function toTen(bytes: usize, out: usize, count: i32): void {
  let i: i32 = 0;
  for (; i + 8 <= count; i += 8) v128.store(out + 2 * i, v128.shl<i16>(v128.load_ext<u8>(bytes + i), 2));
  for (; i < count; i++) store<u16>(out + 2 * i, (<u16>load<u8>(bytes + i)) << 2);
}

/** Colours by how much of each point is there, in place: round(c a / 255). */
export function premultiply(rgba: usize, pixels: i32): void {
  const half = i16x8.splat(128);
  const opaque = i32x4.splat(0xff000000);
  let i: i32 = 0;
  for (; i + 4 <= pixels; i += 4) {
    const four = v128.load(rgba + 4 * i);
    const alphas = v128.shuffle<u8>(four, four, 3, 3, 3, 3, 7, 7, 7, 7, 11, 11, 11, 11, 15, 15, 15, 15);
    const low = v128.add<i16>(v128.mul<i16>(v128.extend_low<u8>(four), v128.extend_low<u8>(alphas)), half);
    const high = v128.add<i16>(v128.mul<i16>(v128.extend_high<u8>(four), v128.extend_high<u8>(alphas)), half);
    const l = v128.shr<u16>(v128.add<i16>(low, v128.shr<u16>(low, 8)), 8);
    const h = v128.shr<u16>(v128.add<i16>(high, v128.shr<u16>(high, 8)), 8);
    // How much is there stays.
    v128.store(rgba + 4 * i, v128.bitselect(four, i8x16.narrow_i16x8_u(l, h), opaque));
  }
  for (; i < pixels; i++) {
    const at = rgba + 4 * i;
    const a = <u32>load<u8>(at, 3);
    store<u8>(at, share(load<u8>(at), a));
    store<u8>(at, share(load<u8>(at, 1), a), 1);
    store<u8>(at, share(load<u8>(at, 2), a), 2);
  }
}

function share(c: u32, a: u32): u8 {
  const t: u32 = c * a + 128;
  return <u8>((t + (t >> 8)) >> 8);
}

/** Sixteen bytes in the other order. */
function reversed(a: v128): v128 {
  return v128.shuffle<u8>(a, a, 15, 14, 13, 12, 11, 10, 9, 8, 7, 6, 5, 4, 3, 2, 1, 0);
}

/**
 * A plane with its rows as columns where `swaps` is set; then mirrored left to right, and top to bottom. `width` and
 * `height` are of what comes in.
 */
export function turn(
  from: usize,
  width: i32,
  height: i32,
  out: usize,
  swaps: i32,
  across: i32,
  down: i32,
): void {
  if (swaps) return swapped(from, width, height, out, across, down);
  for (let y: i32 = 0; y < height; y++) {
    const row = from + (down ? height - 1 - y : y) * width;
    const to = out + y * width;
    let x: i32 = 0;
    if (across) {
      for (; x + 16 <= width; x += 16) v128.store(to + x, reversed(v128.load(row + width - 16 - x)));
      for (; x < width; x++) store<u8>(to + x, load<u8>(row + width - 1 - x));
    } else memory.copy(to, row, width);
  }
}

/** Bytes of two rows, one of each in turn. */
function zippedLow(a: v128, b: v128): v128 {
  return v128.shuffle<u8>(a, b, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
}
function zippedHigh(a: v128, b: v128): v128 {
  return v128.shuffle<u8>(a, b, 8, 24, 9, 25, 10, 26, 11, 27, 12, 28, 13, 29, 14, 30, 15, 31);
}

function swapped(from: usize, width: i32, height: i32, out: usize, across: i32, down: i32): void {
  // A column of what comes in is a row of what goes out, `height` long.
  const wide = width & ~7;
  const tall = height & ~7;
  for (let y: i32 = 0; y < tall; y += 8)
    for (let x: i32 = 0; x < wide; x += 8) {
      const at = from + y * width + x;
      const a = zippedLow(v128.load64_zero(at), v128.load64_zero(at + 4 * width));
      const b = zippedLow(v128.load64_zero(at + width), v128.load64_zero(at + 5 * width));
      const c = zippedLow(v128.load64_zero(at + 2 * width), v128.load64_zero(at + 6 * width));
      const d = zippedLow(v128.load64_zero(at + 3 * width), v128.load64_zero(at + 7 * width));
      const ac = zippedLow(a, c);
      const ac2 = zippedHigh(a, c);
      const bd = zippedLow(b, d);
      const bd2 = zippedHigh(b, d);
      put(zippedLow(ac, bd), x, y, width, height, out, across, down);
      put(zippedHigh(ac, bd), x + 2, y, width, height, out, across, down);
      put(zippedLow(ac2, bd2), x + 4, y, width, height, out, across, down);
      put(zippedHigh(ac2, bd2), x + 6, y, width, height, out, across, down);
    }
  for (let y: i32 = 0; y < height; y++) {
    for (let x: i32 = y < tall ? wide : 0; x < width; x++) {
      const row = down ? width - 1 - x : x;
      const column = across ? height - 1 - y : y;
      store<u8>(out + row * height + column, load<u8>(from + y * width + x));
    }
  }
}

/** Two columns of eight, each a part of a row of what goes out. */
function put(two: v128, x: i32, y: i32, width: i32, height: i32, out: usize, across: i32, down: i32): void {
  let both = two;
  let column = y;
  if (across) {
    both = v128.shuffle<u8>(two, two, 7, 6, 5, 4, 3, 2, 1, 0, 15, 14, 13, 12, 11, 10, 9, 8);
    column = height - 8 - y;
  }
  const first = down ? width - 1 - x : x;
  const second = down ? first - 1 : first + 1;
  v128.store64_lane(out + first * height + column, both, 0);
  v128.store64_lane(out + second * height + column, both, 1);
}

/** Nodes of a cube of colours along light and along each difference; bytes from one difference to the next. */
const LIGHTS: usize = 33;
const SHADES: usize = 65;
const PITCH: usize = 8 * LIGHTS;
const SLICE: usize = PITCH * SHADES;

/** The two nodes beside a light in turn, between four differences by their weights: 64ths of what goes out. */
function mixed(base: usize, cell: i32, w00: v128, w01: v128, w10: v128, w11: v128): v128 {
  const at = base + ((<usize>cell) << 3);
  const sum = v128.add<i16>(
    v128.add<i16>(i16x8.q15mulr_sat_s(v128.load(at), w00), i16x8.q15mulr_sat_s(v128.load(at + PITCH), w01)),
    v128.add<i16>(
      i16x8.q15mulr_sat_s(v128.load(at + SLICE), w10),
      i16x8.q15mulr_sat_s(v128.load(at + SLICE + PITCH), w11),
    ),
  );
  return v128.shuffle<u16>(sum, sum, 0, 4, 1, 5, 2, 6, 3, 7);
}

/** How far a light lies between its two nodes, as weights of both. */
function shares(value: i32): v128 {
  const f = value & 31;
  return i32x4.splat((f << 16) | (32 - f));
}

/**
 * Planes of ten-bit words through a cube of colours into planes of bytes. The cube's nodes stand by the first difference
 * and the second, 16 apart, and by light, 32 apart: three 128ths of what goes out, and one that is not used. A difference
 * that goes out is the mean of its four points.
 */
export function throughCube(
  y: usize,
  u: usize,
  v: usize,
  outY: usize,
  outU: usize,
  outV: usize,
  width: i32,
  height: i32,
  cube: usize,
): void {
  const across = (width + 1) >> 1;
  const down = (height + 1) >> 1;
  for (let row: i32 = 0; row < down; row++) {
    const top: i32 = 2 * row * width;
    // The last of an odd number of rows or columns counts twice.
    const below: i32 = 2 * row + 1 < height ? top + width : top;
    for (let i: i32 = 0; i < across; i++) {
      const pair = row * across + i;
      const cb = <i32>load<u16>(u + 2 * pair) & 1023;
      const cr = <i32>load<u16>(v + 2 * pair) & 1023;
      const base = cube + <usize>(cb >> 4) * SLICE + <usize>(cr >> 4) * PITCH;
      const fb = cb & 15;
      const fr = cr & 15;
      const w00 = i16x8.splat(<i16>((16 - fb) * (16 - fr) * 64));
      const w01 = i16x8.splat(<i16>((16 - fb) * fr * 64));
      const w10 = i16x8.splat(<i16>(fb * (16 - fr) * 64));
      const w11 = i16x8.splat(<i16>(fb * fr * 64));
      const left: i32 = 2 * i;
      const right: i32 = left + 1 < width ? left + 1 : left;
      const a = <i32>load<u16>(y + 2 * (top + left)) & 1023;
      const b = <i32>load<u16>(y + 2 * (top + right)) & 1023;
      const c = <i32>load<u16>(y + 2 * (below + left)) & 1023;
      const d = <i32>load<u16>(y + 2 * (below + right)) & 1023;
      // Neighbours mostly lie between the same nodes.
      const cell = a >> 5;
      let nodes = mixed(base, cell, w00, w01, w10, w11);
      const first = v128.dot<i16>(nodes, shares(a));
      let last = cell;
      if (b >> 5 != last) {
        last = b >> 5;
        nodes = mixed(base, last, w00, w01, w10, w11);
      }
      const second = v128.dot<i16>(nodes, shares(b));
      if (c >> 5 != last) {
        last = c >> 5;
        nodes = mixed(base, last, w00, w01, w10, w11);
      }
      const third = v128.dot<i16>(nodes, shares(c));
      if (d >> 5 != last) nodes = mixed(base, d >> 5, w00, w01, w10, w11);
      const fourth = v128.dot<i16>(nodes, shares(d));
      store<u8>(outY + top + left, light(first));
      store<u8>(outY + top + right, light(second));
      store<u8>(outY + below + left, light(third));
      store<u8>(outY + below + right, light(fourth));
      const sum = v128.add<i32>(v128.add<i32>(first, second), v128.add<i32>(third, fourth));
      store<u8>(outU + pair, <u8>((i32x4.extract_lane(sum, 1) + 4096) >> 13));
      store<u8>(outV + pair, <u8>((i32x4.extract_lane(sum, 2) + 4096) >> 13));
    }
  }
}

function light(point: v128): u8 {
  return <u8>((i32x4.extract_lane(point, 0) + 1024) >> 11);
}
