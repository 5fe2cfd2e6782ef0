/** Pictures with transparency laid over others. Their colours are multiplied by how much of them is there already. */

/** The value that stands for x / 255, rounded, of words up to 65,025. */
function by255(x: v128): v128 {
  const t = v128.add<i16>(x, i16x8.splat(128));
  return v128.shr<u16>(v128.add<i16>(t, v128.shr<u16>(t, 8)), 8);
}

/** Eight values laid over eight, `s` and `a` as weighed already. 0 is normal, 1 add, 2 screen, 3 multiply, 4 darken, 5 lighten. */
function laid(p: v128, s: v128, a: v128, kind: i32): v128 {
  if (kind === 1) return v128.add<i16>(p, s);
  if (kind === 2) return v128.sub<i16>(v128.add<i16>(p, s), by255(v128.mul<i16>(p, s)));
  const rest = by255(v128.mul<i16>(p, v128.sub<i16>(i16x8.splat(255), a)));
  if (kind === 0) return v128.add<i16>(rest, s);
  if (kind === 3) return v128.add<i16>(rest, by255(v128.mul<i16>(p, s)));
  const here = by255(v128.mul<i16>(p, a));
  return v128.add<i16>(rest, kind === 4 ? v128.min<u16>(here, s) : v128.max<u16>(here, s));
}

/** A value by `weight` 256ths. */
function weighed(x: v128, weight: v128): v128 {
  return v128.shr<u16>(v128.add<i16>(v128.mul<i16>(x, weight), i16x8.splat(128)), 8);
}

/** The picture `b`, whose last channel says how much of each point is there, `weight` 256ths of it over `a`, into `a`. */
export function lay(a: usize, b: usize, pixels: i32, kind: i32, weight: i32): void {
  const w = i16x8.splat(<i16>weight);
  const opaque = i32x4.splat(<i32>0xff000000);
  let i: i32 = 0;
  for (; i + 4 <= pixels; i += 4) {
    const p = v128.load(a + 4 * i);
    v128.store(a + 4 * i, v128.or(four(p, v128.load(b + 4 * i), kind, w), opaque));
  }
  for (; i < pixels; i++) {
    const r = four(v128.load32_zero(a + 4 * i), v128.load32_zero(b + 4 * i), kind, w);
    store<u32>(a + 4 * i, <u32>v128.extract_lane<i32>(r, 0) | 0xff000000);
  }
}

function four(p: v128, q: v128, kind: i32, w: v128): v128 {
  const alphas = v128.shuffle<u8>(q, q, 3, 3, 3, 3, 7, 7, 7, 7, 11, 11, 11, 11, 15, 15, 15, 15);
  const low = laid(
    v128.extend_low<u8>(p),
    weighed(v128.extend_low<u8>(q), w),
    weighed(v128.extend_low<u8>(alphas), w),
    kind,
  );
  const high = laid(
    v128.extend_high<u8>(p),
    weighed(v128.extend_high<u8>(q), w),
    weighed(v128.extend_high<u8>(alphas), w),
    kind,
  );
  return i8x16.narrow_i16x8_u(low, high);
}

/** How much of each point is there: the first channel of `from` as the last of `to`. */
export function takeAlpha(to: usize, from: usize, pixels: i32): void {
  for (let i: i32 = 0; i < pixels; i++) store<u8>(to + 4 * i, load<u8>(from + 4 * i), 3);
}

/** Nothing is there outside columns [left, right) and rows [top, bottom). */
export function clearOutside(
  to: usize,
  width: i32,
  height: i32,
  left: i32,
  top: i32,
  right: i32,
  bottom: i32,
): void {
  for (let y: i32 = 0; y < height; y++) {
    const row = to + 4 * y * width;
    const within = y >= top && y < bottom;
    for (let x: i32 = 0; x < width; x++) if (!within || x < left || x >= right) store<u32>(row + 4 * x, 0);
  }
}
