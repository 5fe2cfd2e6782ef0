/**
 * Mattes: how much two pictures of a place differ, a byte for every two by two pixels, cleaned up and softened, and spread
 * over the picture again.
 */

/** Sums of eight times two by two bytes. */
function fours(top: usize, bottom: usize): v128 {
  return v128.add<i16>(v128.extadd_pairwise<u8>(v128.load(top)), v128.extadd_pairwise<u8>(v128.load(bottom)));
}

/** How far eight bytes are apart. */
function apart(a: usize, b: usize): v128 {
  return v128.abs<i16>(v128.sub<i16>(v128.load_ext<u8>(a), v128.load_ext<u8>(b)));
}

/** Four differences by `gain` 256ths. */
function some(d: v128, gain: i32): v128 {
  return v128.shr<i32>(v128.add<i32>(v128.mul<i32>(d, i32x4.splat(gain)), i32x4.splat(128)), 8);
}

/**
 * The difference of two pictures in BT.709 limited range (luma, and two colour differences of half the size): the greatest
 * of the three, in 876ths of the whole range, luma as the sum of two by two. Up to `low` there is none; then `gain` 256ths
 * for each.
 */
export function differ(
  ya: usize,
  ua: usize,
  va: usize,
  yb: usize,
  ub: usize,
  vb: usize,
  width: i32,
  height: i32,
  out: usize,
  low: i32,
  gain: i32,
): void {
  const across = (width + 1) >> 1;
  const down = (height + 1) >> 1;
  for (let row: i32 = 0; row < down; row++) {
    const top = 2 * row * width;
    const bottom = 2 * row + 1 < height ? top + width : top;
    let i: i32 = 0;
    for (; 2 * i + 16 <= width; i += 8) {
      const light = v128.abs<i16>(
        v128.sub<i16>(
          fours(ya + top + 2 * i, ya + bottom + 2 * i),
          fours(yb + top + 2 * i, yb + bottom + 2 * i),
        ),
      );
      const at = row * across + i;
      const colour = v128.max<i16>(apart(ua + at, ub + at), apart(va + at, vb + at));
      const d = v128.max<i16>(
        v128.sub<i16>(v128.max<i16>(light, v128.shl<i16>(colour, 2)), i16x8.splat(<i16>low)),
        i16x8.splat(0),
      );
      const words = v128.narrow<i32>(
        some(v128.extend_low<i16>(d), gain),
        some(v128.extend_high<i16>(d), gain),
      );
      v128.store64_lane(out + at, i8x16.narrow_i16x8_u(words, words), 0);
    }
    for (; i < across; i++) {
      const left = 2 * i;
      const right = left + 1 < width ? left + 1 : left;
      const light =
        <i32>load<u8>(ya + top + left) +
        load<u8>(ya + top + right) +
        load<u8>(ya + bottom + left) +
        load<u8>(ya + bottom + right) -
        (<i32>load<u8>(yb + top + left) +
          load<u8>(yb + top + right) +
          load<u8>(yb + bottom + left) +
          load<u8>(yb + bottom + right));
      const at = row * across + i;
      const blue = 4 * (<i32>load<u8>(ua + at) - <i32>load<u8>(ub + at));
      const red = 4 * (<i32>load<u8>(va + at) - <i32>load<u8>(vb + at));
      const d = max(max(abs(light), abs(blue)), abs(red)) - low;
      store<u8>(out + at, d <= 0 ? 0 : min(255, (d * gain + 128) >> 8));
    }
  }
}

/** A sum over so many, by `part`, which is 2^32 over that and one more: exactly the whole part of it. */
function over(sum: i32, part: u64): i32 {
  return <i32>((<u64>sum * part) >> 32);
}

/** Means over `2 radius + 1` bytes of each row, edges going on. */
export function meanAcross(a: usize, out: usize, width: i32, height: i32, radius: i32): void {
  const count = 2 * radius + 1;
  const half = count >> 1;
  const part = 4_294_967_296 / <u64>count + 1;
  const last = width - 1;
  for (let row: i32 = 0; row < height; row++) {
    const line = a + row * width;
    const to = out + row * width;
    let sum: i32 = 0;
    for (let k: i32 = -radius; k <= radius; k++) sum += <i32>load<u8>(line + min(last, max(0, k)));
    for (let x: i32 = 0; x < width; x++) {
      store<u8>(to + x, over(sum + half, part));
      sum +=
        <i32>load<u8>(line + min(last, x + radius + 1)) - <i32>load<u8>(line + max(0, min(last, x - radius)));
    }
  }
}

/** The same of each column; `sums` has a whole number for each. */
export function meanDown(a: usize, out: usize, width: i32, height: i32, radius: i32, sums: usize): void {
  const count = 2 * radius + 1;
  const half = count >> 1;
  const part = 4_294_967_296 / <u64>count + 1;
  const last = height - 1;
  for (let x: i32 = 0; x < width; x++) {
    let sum: i32 = 0;
    for (let k: i32 = -radius; k <= radius; k++) sum += <i32>load<u8>(a + min(last, max(0, k)) * width + x);
    store<i32>(sums + 4 * x, sum);
  }
  for (let row: i32 = 0; row < height; row++) {
    const below = a + min(last, row + radius + 1) * width;
    const above = a + max(0, min(last, row - radius)) * width;
    const to = out + row * width;
    for (let x: i32 = 0; x < width; x++) {
      const sum = load<i32>(sums + 4 * x);
      store<u8>(to + x, over(sum + half, part));
      store<i32>(sums + 4 * x, sum + <i32>load<u8>(below + x) - <i32>load<u8>(above + x));
    }
  }
}

/** Values about `level` pulled apart, `gain` times; `level` becomes the middle. */
export function steepen(a: usize, count: i32, level: i32, gain: i32): void {
  for (let i: i32 = 0; i < count; i++) {
    const v = (<i32>load<u8>(a + i) - level) * gain + 128;
    store<u8>(a + i, min(255, max(0, v)));
  }
}

/**
 * A matte over a picture of another size, between the four nearest: the value at (x, y) is read at (x sx + cx, y sy + cy),
 * 65536ths. Beyond its edges there is none where `beyond` is 0; else the edge goes on. `inverted` is 255 for the rest of it, or 0.
 * `line` has room for a whole number for each of its columns.
 */
export function spread(
  a: usize,
  width: i32,
  height: i32,
  out: usize,
  outWidth: i32,
  outHeight: i32,
  sx: i32,
  cx: i32,
  sy: i32,
  cy: i32,
  beyond: i32,
  inverted: i32,
  line: usize,
): void {
  const last = width - 1;
  for (let row: i32 = 0; row < outHeight; row++) {
    const py = row * sy + cy;
    const iy = py >> 16;
    const fy = (py >> 8) & 255;
    const to = out + row * outWidth;
    if (beyond === 0 && (iy < -1 || iy >= height)) {
      memory.fill(to, <u8>inverted, outWidth);
      continue;
    }
    // Down first, once for every column.
    const top = a + min(height - 1, max(0, iy)) * width;
    const bottom = a + min(height - 1, max(0, iy + 1)) * width;
    for (let i: i32 = 0; i < width; i++)
      store<i32>(line + 4 * i, <i32>load<u8>(top + i) * (256 - fy) + <i32>load<u8>(bottom + i) * fy);
    let px = cx;
    for (let x: i32 = 0; x < outWidth; x++, px += sx) {
      const ix = px >> 16;
      const fx = (px >> 8) & 255;
      let v: i32 = 0;
      if (<u32>ix < <u32>last) {
        const at = line + 4 * ix;
        v = (load<i32>(at) * (256 - fx) + load<i32>(at, 4) * fx + 32768) >> 16;
      } else if (beyond !== 0 || (ix >= -1 && ix < width)) {
        const left = load<i32>(line + 4 * min(last, max(0, ix)));
        const right = load<i32>(line + 4 * min(last, max(0, ix + 1)));
        v = (left * (256 - fx) + right * fx + 32768) >> 16;
      }
      store<u8>(to + x, v ^ inverted);
    }
  }
}

/** The part that two masks share, into the first. */
export function maskBoth(a: usize, b: usize, count: i32): void {
  for (let i: i32 = 0; i < count; i++) {
    const t = <i32>load<u8>(a + i) * <i32>load<u8>(b + i) + 128;
    store<u8>(a + i, (t + (t >> 8)) >> 8);
  }
}
