/**
 * Arithmetic on pictures, compiled to WebAssembly with SIMD (`npm run kernels`). Everything is integer, and each
 * function equals its plain twin in `kernels.test.ts` byte for byte, whatever the size. Pictures are RGBA, eight
 * bits a value, rows without gaps; pointers are byte offsets into the module's memory.
 */

import { mirrored } from './mirrored';

/** BT.709 limited range as RGBA; the factors are those of `convert.ts`, in 8192nds. */
export function toRgba(y: usize, u: usize, v: usize, out: usize, width: i32, height: i32): void {
  const across = (width + 1) >> 1;
  const yr = i16x8(9539, 14686, 9539, 14686, 9539, 14686, 9539, 14686);
  const yg = i16x8(9539, -1747, 9539, -1747, 9539, -1747, 9539, -1747);
  const vg = i16x8(-4366, 0, -4366, 0, -4366, 0, -4366, 0);
  const yb = i16x8(9539, 17305, 9539, 17305, 9539, 17305, 9539, 17305);
  const half = i32x4.splat(4096);
  const opaque = i8x16.splat(-1);
  const zero = i16x8.splat(0);
  for (let row: i32 = 0; row < height; row++) {
    const line = y + row * width;
    const chroma = (row >> 1) * across;
    const to = out + 4 * row * width;
    let x: i32 = 0;
    for (; x + 8 <= width; x += 8) {
      const l = v128.sub<i16>(v128.load_ext<u8>(line + x), i16x8.splat(16));
      const cu = twice(v128.load32_zero(u + chroma + (x >> 1)));
      const cv = twice(v128.load32_zero(v + chroma + (x >> 1)));
      const r = narrowed(
        v128.add<i32>(v128.dot<i16>(lower(l, cv), yr), half),
        v128.add<i32>(v128.dot<i16>(upper(l, cv), yr), half),
      );
      const b = narrowed(
        v128.add<i32>(v128.dot<i16>(lower(l, cu), yb), half),
        v128.add<i32>(v128.dot<i16>(upper(l, cu), yb), half),
      );
      const g = narrowed(
        v128.add<i32>(
          v128.add<i32>(v128.dot<i16>(lower(l, cu), yg), v128.dot<i16>(lower(cv, zero), vg)),
          half,
        ),
        v128.add<i32>(
          v128.add<i32>(v128.dot<i16>(upper(l, cu), yg), v128.dot<i16>(upper(cv, zero), vg)),
          half,
        ),
      );
      const rg = v128.shuffle<u8>(r, g, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
      const ba = v128.shuffle<u8>(b, opaque, 0, 16, 1, 17, 2, 18, 3, 19, 4, 20, 5, 21, 6, 22, 7, 23);
      v128.store(to + 4 * x, v128.shuffle<u16>(rg, ba, 0, 8, 1, 9, 2, 10, 3, 11));
      v128.store(to + 4 * x, v128.shuffle<u16>(rg, ba, 4, 12, 5, 13, 6, 14, 7, 15), 16);
    }
    for (; x < width; x++) {
      const l = <i32>load<u8>(line + x) - 16;
      const cu = <i32>load<u8>(u + chroma + (x >> 1)) - 128;
      const cv = <i32>load<u8>(v + chroma + (x >> 1)) - 128;
      const at = to + 4 * x;
      store<u8>(at, clamp((9539 * l + 14686 * cv + 4096) >> 13));
      store<u8>(at, clamp((9539 * l - 1747 * cu - 4366 * cv + 4096) >> 13), 1);
      store<u8>(at, clamp((9539 * l + 17305 * cu + 4096) >> 13), 2);
      store<u8>(at, 255, 3);
    }
  }
}

function twice(four: v128): v128 {
  const pairs = v128.shuffle<u8>(four, four, 0, 0, 1, 1, 2, 2, 3, 3, 0, 0, 0, 0, 0, 0, 0, 0);
  return v128.sub<i16>(v128.extend_low<u8>(pairs), i16x8.splat(128));
}
function lower(a: v128, b: v128): v128 {
  return v128.shuffle<u16>(a, b, 0, 8, 1, 9, 2, 10, 3, 11);
}
function upper(a: v128, b: v128): v128 {
  return v128.shuffle<u16>(a, b, 4, 12, 5, 13, 6, 14, 7, 15);
}
function narrowed(low: v128, high: v128): v128 {
  const words = v128.narrow<i32>(v128.shr<i32>(low, 13), v128.shr<i32>(high, 13));
  return i8x16.narrow_i16x8_u(words, words);
}
function clamp(value: i32): i32 {
  return value < 0 ? 0 : value > 255 ? 255 : value;
}

/** RGBA as BT.709 limited range; a colour difference is that of the mean of its four pixels, or of those there are. */
export function fromRgba(rgba: usize, y: usize, u: usize, v: usize, width: i32, height: i32): void {
  const across = (width + 1) >> 1;
  const light = i16x8(2992, 10063, 1016, 0, 2992, 10063, 1016, 0);
  const base = i32x4.splat((16 << 14) + 8192);
  for (let row: i32 = 0; row < height; row++) {
    const line = rgba + 4 * row * width;
    const to = y + row * width;
    let x: i32 = 0;
    for (; x + 4 <= width; x += 4) {
      const four = v128.load(line + 4 * x);
      const a = v128.dot<i16>(v128.extend_low<u8>(four), light);
      const b = v128.dot<i16>(v128.extend_high<u8>(four), light);
      const sum = v128.add<i32>(v128.shuffle<u32>(a, b, 0, 2, 4, 6), v128.shuffle<u32>(a, b, 1, 3, 5, 7));
      const words = v128.shr<i32>(v128.add<i32>(sum, base), 14);
      const bytes = v128.narrow<i32>(words, words);
      v128.store32_lane(to + x, i8x16.narrow_i16x8_u(bytes, bytes), 0);
    }
    for (; x < width; x++) {
      const at = line + 4 * x;
      const l =
        2992 * <i32>load<u8>(at) +
        10063 * <i32>load<u8>(at, 1) +
        1016 * <i32>load<u8>(at, 2) +
        (16 << 14) +
        8192;
      store<u8>(to + x, l >> 14);
    }
  }
  const ofBlue = i16x8(-1649, -5547, 7196, 0, -1649, -5547, 7196, 0);
  const ofRed = i16x8(7196, -6536, -660, 0, 7196, -6536, -660, 0);
  for (let row: i32 = 0; row < (height + 1) >> 1; row++) {
    const top = rgba + 8 * row * width;
    const bottom = 2 * row + 1 < height ? top + 4 * width : top;
    let i: i32 = 0;
    for (; 2 * i + 8 <= width; i += 4) {
      const first = fours(top + 8 * i, bottom + 8 * i);
      const second = fours(top + 8 * i + 16, bottom + 8 * i + 16);
      const at = row * across + i;
      v128.store32_lane(u + at, difference(first, second, ofBlue), 0);
      v128.store32_lane(v + at, difference(first, second, ofRed), 0);
    }
    for (; i < across; i++) {
      const left = 8 * i;
      const right = 2 * i + 1 < width ? left + 4 : left;
      const r =
        <i32>load<u8>(top + left) +
        load<u8>(top + right) +
        load<u8>(bottom + left) +
        load<u8>(bottom + right);
      const g =
        <i32>load<u8>(top + left, 1) +
        load<u8>(top + right, 1) +
        load<u8>(bottom + left, 1) +
        load<u8>(bottom + right, 1);
      const b =
        <i32>load<u8>(top + left, 2) +
        load<u8>(top + right, 2) +
        load<u8>(bottom + left, 2) +
        load<u8>(bottom + right, 2);
      const at = row * across + i;
      store<u8>(u + at, clamp((-1649 * r - 5547 * g + 7196 * b + (128 << 16) + 32768) >> 16));
      store<u8>(v + at, clamp((7196 * r - 6536 * g - 660 * b + (128 << 16) + 32768) >> 16));
    }
  }
}

/** The sums of two by two pixels, two of them. */
function fours(top: usize, bottom: usize): v128 {
  const a = v128.load(top);
  const b = v128.load(bottom);
  const low = v128.add<i16>(v128.extend_low<u8>(a), v128.extend_low<u8>(b));
  const high = v128.add<i16>(v128.extend_high<u8>(a), v128.extend_high<u8>(b));
  return v128.add<i16>(v128.shuffle<u64>(low, high, 0, 2), v128.shuffle<u64>(low, high, 1, 3));
}
/** A colour difference of four such sums, as bytes. */
function difference(first: v128, second: v128, shares: v128): v128 {
  const x = v128.dot<i16>(first, shares);
  const y = v128.dot<i16>(second, shares);
  const sum = v128.add<i32>(v128.shuffle<u32>(x, y, 0, 2, 4, 6), v128.shuffle<u32>(x, y, 1, 3, 5, 7));
  const words = v128.shr<i32>(v128.add<i32>(sum, i32x4.splat((128 << 16) + 32768)), 16);
  const narrow = v128.narrow<i32>(words, words);
  return i8x16.narrow_i16x8_u(narrow, narrow);
}

/** `b` over `a` by `weight` 256ths, into `out`. */
export function mix(a: usize, b: usize, out: usize, bytes: i32, weight: i32): void {
  const wb = i16x8.splat(<i16>weight);
  const wa = i16x8.splat(<i16>(256 - weight));
  const half = i16x8.splat(128);
  let i: i32 = 0;
  for (; i + 16 <= bytes; i += 16)
    v128.store(out + i, blended(v128.load(a + i), v128.load(b + i), wa, wb, half));
  for (; i < bytes; i++)
    store<u8>(out + i, (<i32>load<u8>(a + i) * (256 - weight) + <i32>load<u8>(b + i) * weight + 128) >> 8);
}

function blended(x: v128, y: v128, wx: v128, wy: v128, half: v128): v128 {
  const low = v128.add<i16>(
    v128.add<i16>(v128.mul<i16>(v128.extend_low<u8>(x), wx), v128.mul<i16>(v128.extend_low<u8>(y), wy)),
    half,
  );
  const high = v128.add<i16>(
    v128.add<i16>(v128.mul<i16>(v128.extend_high<u8>(x), wx), v128.mul<i16>(v128.extend_high<u8>(y), wy)),
    half,
  );
  return i8x16.narrow_i16x8_u(v128.shr<u16>(low, 8), v128.shr<u16>(high, 8));
}

/** One colour over a picture by `weight` 256ths, in place; `colour` is as it lies in memory. */
export function fill(a: usize, pixels: i32, colour: u32, weight: i32): void {
  const c = i32x4.splat(<i32>colour);
  const wb = i16x8.splat(<i16>weight);
  const wa = i16x8.splat(<i16>(256 - weight));
  const half = i16x8.splat(128);
  let i: i32 = 0;
  for (; i + 4 <= pixels; i += 4) v128.store(a + 4 * i, blended(v128.load(a + 4 * i), c, wa, wb, half));
  for (; i < pixels; i++)
    for (let k: i32 = 0; k < 4; k++) {
      const at = a + 4 * i + k;
      const one = <i32>((colour >> (8 * k)) & 255);
      store<u8>(at, (<i32>load<u8>(at) * (256 - weight) + one * weight + 128) >> 8);
    }
}

/** One colour over a picture, by a byte for each pixel: 255 is all of it. */
export function maskFill(a: usize, pixels: i32, mask: usize, colour: u32): void {
  const c = i32x4.splat(<i32>colour);
  const half = i16x8.splat(128);
  const whole = i16x8.splat(256);
  let i: i32 = 0;
  for (; i + 4 <= pixels; i += 4) {
    const four = v128.load32_zero(mask + i);
    const m = v128.shuffle<u8>(four, four, 0, 0, 0, 0, 1, 1, 1, 1, 2, 2, 2, 2, 3, 3, 3, 3);
    const low = v128.extend_low<u8>(m);
    const high = v128.extend_high<u8>(m);
    const wl = v128.add<i16>(low, v128.shr<u16>(low, 7));
    const wh = v128.add<i16>(high, v128.shr<u16>(high, 7));
    const x = v128.load(a + 4 * i);
    const first = v128.add<i16>(
      v128.add<i16>(
        v128.mul<i16>(v128.extend_low<u8>(x), v128.sub<i16>(whole, wl)),
        v128.mul<i16>(v128.extend_low<u8>(c), wl),
      ),
      half,
    );
    const second = v128.add<i16>(
      v128.add<i16>(
        v128.mul<i16>(v128.extend_high<u8>(x), v128.sub<i16>(whole, wh)),
        v128.mul<i16>(v128.extend_high<u8>(c), wh),
      ),
      half,
    );
    v128.store(a + 4 * i, i8x16.narrow_i16x8_u(v128.shr<u16>(first, 8), v128.shr<u16>(second, 8)));
  }
  for (; i < pixels; i++) {
    const m = <i32>load<u8>(mask + i);
    const w = m + (m >> 7);
    for (let k: i32 = 0; k < 4; k++) {
      const at = a + 4 * i + k;
      store<u8>(at, (<i32>load<u8>(at) * (256 - w) + <i32>((colour >> (8 * k)) & 255) * w + 128) >> 8);
    }
  }
}

/** Every value through a table of its channel: 256 bytes each for red, green, blue. */
export function lookUp(a: usize, pixels: i32, tables: usize): void {
  for (let i: i32 = 0; i < pixels; i++) {
    const at = a + 4 * i;
    store<u8>(at, load<u8>(tables + load<u8>(at)));
    store<u8>(at, load<u8>(tables + 256 + load<u8>(at, 1)), 1);
    store<u8>(at, load<u8>(tables + 512 + load<u8>(at, 2)), 2);
  }
}

/** Colours through a matrix: three rows of three 4096ths, 16 bits each with a fourth that is 0; rounded, clamped. */
export function matrix(a: usize, pixels: i32, rows: usize): void {
  const r = v128.load64_splat(rows);
  const g = v128.load64_splat(rows + 8);
  const b = v128.load64_splat(rows + 16);
  const half = i32x4.splat(2048);
  const alpha = i32x4.splat(<i32>0xff000000);
  let i: i32 = 0;
  for (; i + 4 <= pixels; i += 4) {
    const four = v128.load(a + 4 * i);
    const low = v128.extend_low<u8>(four);
    const high = v128.extend_high<u8>(four);
    const red = brought(low, high, r, half);
    const green = brought(low, high, g, half);
    const blue = brought(low, high, b, half);
    const rg = v128.or(red, v128.shl<i32>(green, 8));
    v128.store(a + 4 * i, v128.or(v128.or(rg, v128.shl<i32>(blue, 16)), v128.and(four, alpha)));
  }
  for (; i < pixels; i++) {
    const at = a + 4 * i;
    const x = <i32>load<u8>(at);
    const y = <i32>load<u8>(at, 1);
    const z = <i32>load<u8>(at, 2);
    for (let k: usize = 0; k < 3; k++) {
      const row = rows + 8 * k;
      store<u8>(
        at + k,
        clamp((x * load<i16>(row) + y * load<i16>(row, 2) + z * load<i16>(row, 4) + 2048) >> 12),
      );
    }
  }
}

function brought(low: v128, high: v128, row: v128, half: v128): v128 {
  const a = v128.dot<i16>(low, row);
  const b = v128.dot<i16>(high, row);
  const sum = v128.add<i32>(v128.shuffle<u32>(a, b, 0, 2, 4, 6), v128.shuffle<u32>(a, b, 1, 3, 5, 7));
  const shifted = v128.shr<i32>(v128.add<i32>(sum, half), 12);
  return v128.min<i32>(v128.max<i32>(shifted, i32x4.splat(0)), i32x4.splat(255));
}

/** Sums that do not lose: `b` added to `a` up to 255, into `a`. */
export function add(a: usize, b: usize, bytes: i32): void {
  let i: i32 = 0;
  for (; i + 16 <= bytes; i += 16) v128.store(a + i, v128.add_sat<u8>(v128.load(a + i), v128.load(b + i)));
  for (; i < bytes; i++) store<u8>(a + i, min(255, <i32>load<u8>(a + i) + <i32>load<u8>(b + i)));
}

/** `b` screened over `a`, into `a`: 255 - (255 - a)(255 - b) / 255, rounded as (x + 128 + ((x + 128) >> 8)) >> 8. */
export function screen(a: usize, b: usize, bytes: i32): void {
  const ones = i8x16.splat(-1);
  const half = i16x8.splat(128);
  let i: i32 = 0;
  for (; i + 16 <= bytes; i += 16) {
    const x = v128.xor(v128.load(a + i), ones);
    const y = v128.xor(v128.load(b + i), ones);
    const low = v128.add<i16>(v128.mul<i16>(v128.extend_low<u8>(x), v128.extend_low<u8>(y)), half);
    const high = v128.add<i16>(v128.mul<i16>(v128.extend_high<u8>(x), v128.extend_high<u8>(y)), half);
    const l = v128.shr<u16>(v128.add<i16>(low, v128.shr<u16>(low, 8)), 8);
    const h = v128.shr<u16>(v128.add<i16>(high, v128.shr<u16>(high, 8)), 8);
    v128.store(a + i, v128.xor(i8x16.narrow_i16x8_u(l, h), ones));
  }
  for (; i < bytes; i++) {
    const p = (255 - <i32>load<u8>(a + i)) * (255 - <i32>load<u8>(b + i)) + 128;
    store<u8>(a + i, 255 - ((p + (p >> 8)) >> 8));
  }
}

/**
 * A picture through an affine map, bilinear: the pixel at (x, y) of `out` is read at (ax x + bx y + cx, ay x + by y + cy),
 * 65536ths. `edges`: 0 black, 1 the edge goes on, 2 mirrored, 3 nothing. Only the bits of `mask` are written.
 */
export function affine(
  a: usize,
  out: usize,
  width: i32,
  height: i32,
  ax: i64,
  bx: i64,
  cx: i64,
  ay: i64,
  by: i64,
  cy: i64,
  edges: i32,
  mask: u32,
): void {
  const keep = ~mask;
  const whole = mask === 0xffffffff;
  const lastX = <u32>(width - 1);
  const lastY = <u32>(height - 1);
  const half = i16x8.splat(128);
  for (let row: i32 = 0; row < height; row++) {
    let px = bx * row + cx;
    let py = by * row + cy;
    let to = out + 4 * row * width;
    for (let x: i32 = 0; x < width; x++, px += ax, py += ay, to += 4) {
      const sx = <i32>(px >> 16);
      const sy = <i32>(py >> 16);
      const fx = <i32>((px >> 8) & 255);
      const fy = <i32>((py >> 8) & 255);
      if (<u32>sx < lastX && <u32>sy < lastY) {
        const from = a + 4 * (sy * width + sx);
        // Both pixels of a row at once: mixed down first, then across.
        const both = lerp(v128.load64_zero(from), v128.load64_zero(from + 4 * width), fy);
        const right = v128.shuffle<u64>(both, both, 1, 1);
        const words = v128.add<i16>(
          v128.add<i16>(
            v128.mul<i16>(both, i16x8.splat(<i16>(256 - fx))),
            v128.mul<i16>(right, i16x8.splat(<i16>fx)),
          ),
          half,
        );
        const bytes = v128.shr<u16>(words, 8);
        const value = <u32>v128.extract_lane<i32>(i8x16.narrow_i16x8_u(bytes, bytes), 0);
        store<u32>(to, whole ? value : (value & mask) | (load<u32>(to) & keep));
      } else {
        let value: u32;
        if ((edges === 0 || edges === 3) && (sx < -1 || sy < -1 || sx >= width || sy >= height))
          value = edges === 0 ? 0xff000000 : 0;
        else value = around(a, width, height, sx, sy, fx, fy, edges);
        store<u32>(to, (value & mask) | (load<u32>(to) & keep));
      }
    }
  }
}

/** The low eight bytes of two vectors, the second by `f` 256ths, as words. */
function lerp(x: v128, y: v128, f: i32): v128 {
  const words = v128.add<i16>(
    v128.add<i16>(
      v128.mul<i16>(v128.extend_low<u8>(x), i16x8.splat(<i16>(256 - f))),
      v128.mul<i16>(v128.extend_low<u8>(y), i16x8.splat(<i16>f)),
    ),
    i16x8.splat(128),
  );
  return v128.shr<u16>(words, 8);
}

/** A pixel between four, of which some may lie beyond the edges: mixed down first, then across. */
function around(a: usize, width: i32, height: i32, x: i32, y: i32, fx: i32, fy: i32, edges: i32): u32 {
  const left = between(pixel(a, width, height, x, y, edges), pixel(a, width, height, x, y + 1, edges), fy);
  const right = between(
    pixel(a, width, height, x + 1, y, edges),
    pixel(a, width, height, x + 1, y + 1, edges),
    fy,
  );
  return between(left, right, fx);
}

/**
 * A picture moved by a whole and a part of a pixel, bilinear: what `affine` makes of that, in a quarter of the time. The
 * pixel at (x, y) of `out` is read at (x + dx, y + dy), 65536ths. Only the bits of `mask` are written.
 */
export function shift(
  a: usize,
  out: usize,
  width: i32,
  height: i32,
  dx: i32,
  dy: i32,
  edges: i32,
  mask: u32,
): void {
  const sx = dx >> 16;
  const fx = (dx >> 8) & 255;
  const fy = (dy >> 8) & 255;
  const keep = ~mask;
  const masks = i32x4.splat(<i32>mask);
  const half = i16x8.splat(128);
  const right = i16x8.splat(<i16>fx);
  const left = i16x8.splat(<i16>(256 - fx));
  const below = i16x8.splat(<i16>fy);
  const above = i16x8.splat(<i16>(256 - fy));
  for (let row: i32 = 0; row < height; row++) {
    const sy = row + (dy >> 16);
    const inside = sy >= 0 && sy < height - 1;
    const line = a + 4 * sy * width;
    let to = out + 4 * row * width;
    for (let x: i32 = 0; x < width; x++, to += 4) {
      const px = x + sx;
      if (inside && px >= 0 && px + 5 <= width && x + 4 <= width) {
        const from = line + 4 * px;
        // Whole pixels need no mixing, and rows no mixing down: the same values in less time.
        let value = v128.load(from);
        if (fy !== 0) value = blended(value, v128.load(from + 4 * width), above, below, half);
        if (fx !== 0) {
          let second = v128.load(from, 4);
          if (fy !== 0) second = blended(second, v128.load(from + 4 * width, 4), above, below, half);
          value = blended(value, second, left, right, half);
        }
        v128.store(to, v128.bitselect(value, v128.load(to), masks));
        x += 3;
        to += 12;
        continue;
      }
      store<u32>(to, (around(a, width, height, px, sy, fx, fy, edges) & mask) | (load<u32>(to) & keep));
    }
  }
}

/** Two pixels mixed, four values at a time: (x (256 - f) + y f + 128) >> 8. */
function between(x: u32, y: u32, f: i32): u32 {
  const g = <u32>f;
  const odd = (((x >> 8) & 0x00ff00ff) * (256 - g) + ((y >> 8) & 0x00ff00ff) * g + 0x00800080) & 0xff00ff00;
  const even = (((x & 0x00ff00ff) * (256 - g) + (y & 0x00ff00ff) * g + 0x00800080) >> 8) & 0x00ff00ff;
  return odd | even;
}

function pixel(a: usize, width: i32, height: i32, x: i32, y: i32, edges: i32): u32 {
  if (edges === 0 || edges === 3) {
    if (x < 0 || y < 0 || x >= width || y >= height) return edges === 0 ? 0xff000000 : 0;
  } else if (edges === 1) {
    x = min(width - 1, max(0, x));
    y = min(height - 1, max(0, y));
  } else {
    x = mirrored(x, width);
    y = mirrored(y, height);
  }
  return load<u32>(a + 4 * (y * width + x));
}

/**
 * How much a picture changes from place to place: the greatest of its channels' differences over `reach` pixels
 * across and down, less `threshold`, times `gain` 16ths; the same in all channels. Beyond the edges the edge goes on.
 */
export function edges(
  a: usize,
  out: usize,
  width: i32,
  height: i32,
  reach: i32,
  threshold: i32,
  gain: i32,
): void {
  const less = i8x16.splat(<i8>threshold);
  const times = i16x8.splat(<i16>gain);
  const alpha = i32x4.splat(<i32>0xff000000);
  for (let row: i32 = 0; row < height; row++) {
    const up = a + 4 * max(0, row - reach) * width;
    const down = a + 4 * min(height - 1, row + reach) * width;
    const line = a + 4 * row * width;
    const to = out + 4 * row * width;
    for (let x: i32 = 0; x < width; x++) {
      if (x >= reach && x + reach + 4 <= width) {
        const dx = apart(v128.load(line + 4 * (x - reach)), v128.load(line + 4 * (x + reach)));
        const dy = apart(v128.load(up + 4 * x), v128.load(down + 4 * x));
        const d = v128.add_sat<u8>(dx, dy);
        const g = v128.shuffle<u8>(d, d, 1, 1, 1, 1, 5, 5, 5, 5, 9, 9, 9, 9, 13, 13, 13, 13);
        const r = v128.shuffle<u8>(d, d, 0, 0, 0, 0, 4, 4, 4, 4, 8, 8, 8, 8, 12, 12, 12, 12);
        const b = v128.shuffle<u8>(d, d, 2, 2, 2, 2, 6, 6, 6, 6, 10, 10, 10, 10, 14, 14, 14, 14);
        const most = v128.sub_sat<u8>(v128.max<u8>(v128.max<u8>(r, g), b), less);
        const low = v128.shr<u16>(v128.mul<i16>(v128.extend_low<u8>(most), times), 4);
        const high = v128.shr<u16>(v128.mul<i16>(v128.extend_high<u8>(most), times), 4);
        const brought = i8x16.narrow_i16x8_u(
          v128.min<u16>(low, i16x8.splat(255)),
          v128.min<u16>(high, i16x8.splat(255)),
        );
        v128.store(to + 4 * x, v128.or(brought, alpha));
        x += 3;
        continue;
      }
      const left = 4 * max(0, x - reach);
      const right = 4 * min(width - 1, x + reach);
      let most: i32 = 0;
      for (let k: i32 = 0; k < 3; k++) {
        const dx = abs(<i32>load<u8>(line + left + k) - <i32>load<u8>(line + right + k));
        const dy = abs(<i32>load<u8>(up + 4 * x + k) - <i32>load<u8>(down + 4 * x + k));
        most = max(most, min(255, dx + dy));
      }
      const e = <u32>min(255, (max(0, most - threshold) * gain) >> 4);
      store<u32>(to + 4 * x, 0xff000000 | (e << 16) | (e << 8) | e);
    }
  }
}

function apart(x: v128, y: v128): v128 {
  return v128.or(v128.sub_sat<u8>(x, y), v128.sub_sat<u8>(y, x));
}

/** `a` times `b` / 255, rounded, into `a`. */
export function multiply(a: usize, b: usize, bytes: i32): void {
  const half = i16x8.splat(128);
  let i: i32 = 0;
  for (; i + 16 <= bytes; i += 16) {
    const x = v128.load(a + i);
    const y = v128.load(b + i);
    const low = v128.add<i16>(v128.mul<i16>(v128.extend_low<u8>(x), v128.extend_low<u8>(y)), half);
    const high = v128.add<i16>(v128.mul<i16>(v128.extend_high<u8>(x), v128.extend_high<u8>(y)), half);
    const l = v128.shr<u16>(v128.add<i16>(low, v128.shr<u16>(low, 8)), 8);
    const h = v128.shr<u16>(v128.add<i16>(high, v128.shr<u16>(high, 8)), 8);
    v128.store(a + i, i8x16.narrow_i16x8_u(l, h));
  }
  for (; i < bytes; i++) {
    const p = <i32>load<u8>(a + i) * <i32>load<u8>(b + i) + 128;
    store<u8>(a + i, (p + (p >> 8)) >> 8);
  }
}

/**
 * The mean of a picture seen from two places, (dx0, dy0) and (dx1, dy1) pixels away; beyond the edges the edge goes
 * on. With `up` halves are rounded up, else down: taken in turn, passes do not brighten.
 */
export function meanOfTwo(
  a: usize,
  out: usize,
  width: i32,
  height: i32,
  dx0: i32,
  dy0: i32,
  dx1: i32,
  dy1: i32,
  up: i32,
): void {
  const one = i8x16.splat(1);
  for (let row: i32 = 0; row < height; row++) {
    const first = a + 4 * min(height - 1, max(0, row + dy0)) * width;
    const second = a + 4 * min(height - 1, max(0, row + dy1)) * width;
    const to = out + 4 * row * width;
    for (let x: i32 = 0; x < width; x++) {
      if (x + dx0 >= 0 && x + dx1 >= 0 && x + dx0 + 4 <= width && x + dx1 + 4 <= width && x + 4 <= width) {
        const p = v128.load(first + 4 * (x + dx0));
        const q = v128.load(second + 4 * (x + dx1));
        const mean = v128.avgr<u8>(p, q);
        v128.store(to + 4 * x, up ? mean : v128.sub<u8>(mean, v128.and(v128.xor(p, q), one)));
        x += 3;
        continue;
      }
      const from0 = first + 4 * min(width - 1, max(0, x + dx0));
      const from1 = second + 4 * min(width - 1, max(0, x + dx1));
      for (let k: i32 = 0; k < 4; k++)
        store<u8>(to + 4 * x + k, (<i32>load<u8>(from0 + k) + <i32>load<u8>(from1 + k) + up) >> 1);
    }
  }
}

/** The mean of 2 `radius` + 1 pixels across; beyond the edges the edge goes on. Rounded. */
export function boxAcross(a: usize, out: usize, width: i32, height: i32, radius: i32): void {
  const factor = i32x4.splat((4194304 + radius) / (2 * radius + 1));
  const half = i32x4.splat(1 << 21);
  for (let row: i32 = 0; row < height; row++) {
    const from = a + 4 * row * width;
    const to = out + 4 * row * width;
    let sum = i32x4.splat(0);
    for (let i: i32 = -radius; i <= radius; i++)
      sum = v128.add<i32>(sum, wide(from + 4 * min(width - 1, max(0, i))));
    for (let i: i32 = 0; i < width; i++) {
      v128.store32_lane(to + 4 * i, meanOf(sum, factor, half), 0);
      sum = v128.add<i32>(sum, wide(from + 4 * min(width - 1, i + radius + 1)));
      sum = v128.sub<i32>(sum, wide(from + 4 * max(0, i - radius)));
    }
  }
}

/** The same down, row by row; `sums` has room for 16 bytes a pixel of a row. */
export function boxDown(a: usize, out: usize, width: i32, height: i32, radius: i32, sums: usize): void {
  const factor = i32x4.splat((4194304 + radius) / (2 * radius + 1));
  const half = i32x4.splat(1 << 21);
  memory.fill(sums, 0, 16 * width);
  for (let i: i32 = -radius; i <= radius; i++) {
    const from = a + 4 * min(height - 1, max(0, i)) * width;
    for (let x: i32 = 0; x < width; x++)
      v128.store(sums + 16 * x, v128.add<i32>(v128.load(sums + 16 * x), wide(from + 4 * x)));
  }
  for (let i: i32 = 0; i < height; i++) {
    const comes = a + 4 * min(height - 1, i + radius + 1) * width;
    const goes = a + 4 * max(0, i - radius) * width;
    const to = out + 4 * i * width;
    for (let x: i32 = 0; x < width; x++) {
      const sum = v128.load(sums + 16 * x);
      v128.store32_lane(to + 4 * x, meanOf(sum, factor, half), 0);
      v128.store(sums + 16 * x, v128.sub<i32>(v128.add<i32>(sum, wide(comes + 4 * x)), wide(goes + 4 * x)));
    }
  }
}

function meanOf(sum: v128, factor: v128, half: v128): v128 {
  const words = v128.shr<u32>(v128.add<i32>(v128.mul<i32>(sum, factor), half), 22);
  const short = v128.narrow<i32>(words, words);
  return i8x16.narrow_i16x8_u(short, short);
}

function wide(at: usize): v128 {
  return v128.extend_low<u16>(v128.extend_low<u8>(v128.load32_zero(at)));
}

/** Colours through a cube of `n` x `n` x `n` entries of three bytes, red fastest; trilinear, by 256ths. */
export function cube(a: usize, pixels: i32, table: usize, n: i32): void {
  for (let i: i32 = 0; i < pixels; i++) {
    const at = a + 4 * i;
    const r = <i32>load<u8>(at) * (n - 1) * 257;
    const g = <i32>load<u8>(at, 1) * (n - 1) * 257;
    const b = <i32>load<u8>(at, 2) * (n - 1) * 257;
    const ri = min(n - 2, r >> 16);
    const gi = min(n - 2, g >> 16);
    const bi = min(n - 2, b >> 16);
    const fr = (r - (ri << 16) + 128) >> 8;
    const fg = (g - (gi << 16) + 128) >> 8;
    const fb = (b - (bi << 16) + 128) >> 8;
    const from = table + 3 * (ri + n * (gi + n * bi));
    for (let k: i32 = 0; k < 3; k++) {
      const p = from + k;
      const low = plane(p, n, fr, fg);
      const high = plane(p + 3 * n * n, n, fr, fg);
      store<u8>(at + k, <u32>(low * (256 - fb) + high * fb + (1 << 23)) >> 24);
    }
  }
}

function plane(p: usize, n: i32, fr: i32, fg: i32): i32 {
  const top = <i32>load<u8>(p) * (256 - fr) + <i32>load<u8>(p, 3) * fr;
  const bottom = <i32>load<u8>(p + 3 * n) * (256 - fr) + <i32>load<u8>(p + 3 * n, 3) * fr;
  return top * (256 - fg) + bottom * fg;
}

/**
 * The mean of `count` rows of bytes, the k-th at `sources + k * stride`, by weights of two bytes each in 32768ths that
 * come to the whole: (sum + 16384) >> 15.
 */
export function mean(sources: usize, stride: i32, weights: usize, count: i32, out: usize, bytes: i32): void {
  const half = i32x4.splat(16384);
  let i: i32 = 0;
  for (; i + 16 <= bytes; i += 16) {
    let a = half;
    let b = half;
    let c = half;
    let d = half;
    for (let k: i32 = 0; k < count; k++) {
      const v = v128.load(sources + k * stride + i);
      const w = v128.load_splat<u16>(weights + 2 * k);
      const low = v128.extend_low<u8>(v);
      const high = v128.extend_high<u8>(v);
      a = v128.add<i32>(a, v128.extmul_low<u16>(low, w));
      b = v128.add<i32>(b, v128.extmul_high<u16>(low, w));
      c = v128.add<i32>(c, v128.extmul_low<u16>(high, w));
      d = v128.add<i32>(d, v128.extmul_high<u16>(high, w));
    }
    const l = v128.narrow<i32>(v128.shr<u32>(a, 15), v128.shr<u32>(b, 15));
    const h = v128.narrow<i32>(v128.shr<u32>(c, 15), v128.shr<u32>(d, 15));
    v128.store(out + i, i8x16.narrow_i16x8_u(l, h));
  }
  for (; i < bytes; i++) {
    let sum: u32 = 16384;
    for (let k: i32 = 0; k < count; k++)
      sum += <u32>load<u8>(sources + k * stride + i) * <u32>load<u16>(weights + 2 * k);
    store<u8>(out + i, <u8>(sum >> 15));
  }
}

/** Sixteen bytes of `b` over `a`: 0 the darker, 1 the lighter, 2 screened, 3 added. */
function over(a: v128, b: v128, kind: i32): v128 {
  if (kind == 0) return v128.min<u8>(a, b);
  if (kind == 1) return v128.max<u8>(a, b);
  if (kind == 3) return v128.add_sat<u8>(a, b);
  const ones = i8x16.splat(-1);
  const half = i16x8.splat(128);
  const x = v128.xor(a, ones);
  const y = v128.xor(b, ones);
  const low = v128.add<i16>(v128.mul<i16>(v128.extend_low<u8>(x), v128.extend_low<u8>(y)), half);
  const high = v128.add<i16>(v128.mul<i16>(v128.extend_high<u8>(x), v128.extend_high<u8>(y)), half);
  const l = v128.shr<u16>(v128.add<i16>(low, v128.shr<u16>(low, 8)), 8);
  const h = v128.shr<u16>(v128.add<i16>(high, v128.shr<u16>(high, 8)), 8);
  return v128.xor(i8x16.narrow_i16x8_u(l, h), ones);
}

/** `b` laid over `a` in one of the ways of `over`, `weight` 256ths of it, into `a`. */
export function blend(a: usize, b: usize, bytes: i32, kind: i32, weight: i32): void {
  const w = i16x8.splat(<i16>weight);
  const rest = i16x8.splat(<i16>(256 - weight));
  const half = i16x8.splat(128);
  let i: i32 = 0;
  for (; i + 16 <= bytes; i += 16) {
    const p = v128.load(a + i);
    const q = over(p, v128.load(b + i), kind);
    const low = v128.add<i16>(
      v128.add<i16>(v128.mul<i16>(v128.extend_low<u8>(p), rest), v128.mul<i16>(v128.extend_low<u8>(q), w)),
      half,
    );
    const high = v128.add<i16>(
      v128.add<i16>(v128.mul<i16>(v128.extend_high<u8>(p), rest), v128.mul<i16>(v128.extend_high<u8>(q), w)),
      half,
    );
    v128.store(a + i, i8x16.narrow_i16x8_u(v128.shr<u16>(low, 8), v128.shr<u16>(high, 8)));
  }
  for (; i < bytes; i++) {
    const p = <i32>load<u8>(a + i);
    const q = <i32>load<u8>(b + i);
    let r = min(p, q);
    if (kind == 1) r = max(p, q);
    else if (kind == 3) r = min(255, p + q);
    else if (kind == 2) {
      const s = (255 - p) * (255 - q) + 128;
      r = 255 - ((s + (s >> 8)) >> 8);
    }
    store<u8>(a + i, (p * (256 - weight) + r * weight + 128) >> 8);
  }
}
