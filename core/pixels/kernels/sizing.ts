/**
 * Planes of another size: each value of several, by tables of where its sources begin and of their weights, which are
 * whole numbers that sum to 4096 (`core/pixels/resize.ts`).
 */

/** One row of the target's width out of a row of the source, kept as sums of weighed values without their last `shift` bits. */
function across(
  from: usize,
  starts: usize,
  weights: usize,
  pitch: i32,
  width: i32,
  out: usize,
  shift: i32,
  half: i32,
): void {
  const end = out + ((<usize>width) << 2);
  if (pitch === 2) {
    const halves = i32x4.splat(half);
    // Up to three too many, for which there is room.
    for (; out < end; out += 16, starts += 16, weights += 16) {
      let pairs = v128.load16_splat(from + load<u32>(starts));
      pairs = v128.load16_lane(from + load<u32>(starts, 4), pairs, 1);
      pairs = v128.load16_lane(from + load<u32>(starts, 8), pairs, 2);
      pairs = v128.load16_lane(from + load<u32>(starts, 12), pairs, 3);
      const sums = i32x4.dot_i16x8_s(i16x8.extend_low_i8x16_u(pairs), v128.load(weights));
      v128.store(out, i32x4.shr_s(i32x4.add(sums, halves), shift));
    }
    return;
  }
  for (; out < end; out += 4, starts += 4) {
    let at = from + load<u32>(starts);
    let sums = i32x4.splat(0);
    const last = at + pitch;
    for (; at < last; at += 8, weights += 16)
      sums = i32x4.add(sums, i32x4.dot_i16x8_s(v128.load8x8_u(at), v128.load(weights)));
    const sum =
      i32x4.extract_lane(sums, 0) +
      i32x4.extract_lane(sums, 1) +
      i32x4.extract_lane(sums, 2) +
      i32x4.extract_lane(sums, 3);
    store<i32>(out, (sum + half) >> shift);
  }
}

/**
 * A plane of `stride` values a row into one of `width` by `height`. For each way `starts` (words) says where a value's sources begin,
 * never less than for the one before, and `weights` (half words) has `pitch` of them for it, two or a multiple of eight, of which
 * `reach` may be more than nothing. Sums across are kept without their last `shift` bits, rounded where `rounds`; `rows` has room
 * for as many rows of them as `reachDown`, each of `width` words made up to a multiple of eight.
 */
export function resize(
  from: usize,
  stride: i32,
  out: usize,
  startsAcross: usize,
  weightsAcross: usize,
  pitchAcross: i32,
  width: i32,
  startsDown: usize,
  weightsDown: usize,
  reachDown: i32,
  pitchDown: i32,
  height: i32,
  rows: usize,
  shift: i32,
  rounds: i32,
): void {
  const half: i32 = rounds ? (1 << shift) >> 1 : 0;
  const shiftDown: i32 = 24 - shift;
  const halfDown = i32x4.splat((1 << shiftDown) >> 1);
  const rowBytes: usize = (<usize>((width + 7) & ~7)) << 2;
  const rowsEnd = rows + reachDown * rowBytes;
  let next: i32 = 0;
  for (
    let d: i32 = 0;
    d < height;
    d++, out += width, startsDown += 4, weightsDown += (<usize>pitchDown) << 1
  ) {
    const start = load<i32>(startsDown);
    for (let row = max(next, start); row < start + reachDown; row++)
      across(
        from + row * stride,
        startsAcross,
        weightsAcross,
        pitchAcross,
        width,
        rows + (row % reachDown) * rowBytes,
        shift,
        half,
      );
    next = start + reachDown;
    const first = rows + (start % reachDown) * rowBytes;
    for (let i: i32 = 0; i < width; i += 8) {
      let low = halfDown;
      let high = halfDown;
      let row = first + ((<usize>i) << 2);
      for (let k: i32 = 0; k < reachDown; k++) {
        const weight = i32x4.splat(<i32>load<i16>(weightsDown + ((<usize>k) << 1)));
        low = i32x4.add(low, i32x4.mul(weight, v128.load(row)));
        high = i32x4.add(high, i32x4.mul(weight, v128.load(row, 16)));
        row += rowBytes;
        if (row >= rowsEnd) row -= rowsEnd - rows;
      }
      const words = i16x8.narrow_i32x4_s(i32x4.shr_s(low, shiftDown), i32x4.shr_s(high, shiftDown));
      const bytes = i8x16.narrow_i16x8_u(words, words);
      if (i + 8 <= width) v128.store64_lane(out + i, bytes, 0);
      else {
        let eight = i64x2.extract_lane(bytes, 0);
        for (let x = i; x < width; x++, eight >>= 8) store<u8>(out + x, <u8>eight);
      }
    }
  }
}
