/**
 * Masks of a byte a pixel from shapes, and pictures mixed by them. A mask is 255 inside and 0 outside; over `feather`
 * pixels (at least one) around the edge, moved out by `grow`, it goes softly from one to the other. Distances are 32-bit
 * floats, worked out in one fixed order, so that every machine gives the same bytes. Rows of a mask begin `stride` bytes apart.
 */

/** Softly from 255 to 0 over four distances from the edge. */
function faded(d: v128, scale: v128, inverted: v128): v128 {
  const half = f32x4.splat(0.5);
  const t = v128.min<f32>(
    f32x4.splat(1),
    v128.max<f32>(f32x4.splat(0), v128.sub<f32>(half, v128.mul<f32>(d, scale))),
  );
  // 3t² - 2t³
  const s = v128.mul<f32>(v128.mul<f32>(t, t), v128.sub<f32>(f32x4.splat(3), v128.add<f32>(t, t)));
  const byte = i32x4.trunc_sat_f32x4_s(v128.add<f32>(v128.mul<f32>(s, f32x4.splat(255)), half));
  return v128.xor(byte, inverted);
}

/** Writes up to four bytes of a row. */
function put(out: usize, four: v128, left: i32): void {
  const words = i16x8.narrow_i32x4_u(four, four);
  const bytes = i8x16.narrow_i16x8_u(words, words);
  if (left >= 4) {
    v128.store32_lane(out, bytes, 0);
    return;
  }
  const packed = v128.extract_lane<i32>(bytes, 0);
  for (let k: i32 = 0; k < left; k++) store<u8>(out + k, <u8>(packed >> (8 * k)));
}

const LANES: v128 = f32x4(0.5, 1.5, 2.5, 3.5);

/**
 * An ellipse of half axes rx and ry about (cx, cy), turned; its distance is that of the first order, exact on the edge
 * (Quilez's form of Taubin 1994).
 */
export function ellipse(
  out: usize,
  width: i32,
  height: i32,
  stride: i32,
  cx: f32,
  cy: f32,
  cos: f32,
  sin: f32,
  rx: f32,
  ry: f32,
  grow: f32,
  feather: f32,
  inverted: i32,
): void {
  const scale = f32x4.splat(<f32>1 / max<f32>(1, feather));
  const flip = i32x4.splat(inverted !== 0 ? 255 : 0);
  const ix = f32x4.splat(<f32>1 / rx);
  const iy = f32x4.splat(<f32>1 / ry);
  const c = f32x4.splat(cos);
  const s = f32x4.splat(sin);
  const g = f32x4.splat(grow);
  const inner = f32x4.splat(-min<f32>(rx, ry));
  const tiny = f32x4.splat(<f32>1e-6);
  for (let y: i32 = 0; y < height; y++) {
    const dy = f32x4.splat(<f32>y + <f32>0.5 - cy);
    for (let x: i32 = 0; x < width; x += 4) {
      const dx = v128.sub<f32>(v128.add<f32>(f32x4.splat(<f32>x), LANES), f32x4.splat(cx));
      const u = v128.mul<f32>(v128.add<f32>(v128.mul<f32>(c, dx), v128.mul<f32>(s, dy)), ix);
      const v = v128.mul<f32>(v128.sub<f32>(v128.mul<f32>(c, dy), v128.mul<f32>(s, dx)), iy);
      const k0 = v128.sqrt<f32>(v128.add<f32>(v128.mul<f32>(u, u), v128.mul<f32>(v, v)));
      const a = v128.mul<f32>(u, ix);
      const b = v128.mul<f32>(v, iy);
      const k1 = v128.sqrt<f32>(v128.add<f32>(v128.mul<f32>(a, a), v128.mul<f32>(b, b)));
      const d = v128.div<f32>(v128.mul<f32>(k0, v128.sub<f32>(k0, f32x4.splat(1))), v128.max<f32>(k1, tiny));
      // In its very middle the first order says nothing.
      const safe = v128.bitselect(d, inner, v128.gt<f32>(k1, tiny));
      put(out + y * stride + x, faded(v128.sub<f32>(safe, g), scale, flip), width - x);
    }
  }
}

/** A rectangle of half sides rx and ry about (cx, cy), turned. */
export function rectangle(
  out: usize,
  width: i32,
  height: i32,
  stride: i32,
  cx: f32,
  cy: f32,
  cos: f32,
  sin: f32,
  rx: f32,
  ry: f32,
  grow: f32,
  feather: f32,
  inverted: i32,
): void {
  const scale = f32x4.splat(<f32>1 / max<f32>(1, feather));
  const flip = i32x4.splat(inverted !== 0 ? 255 : 0);
  const c = f32x4.splat(cos);
  const s = f32x4.splat(sin);
  const g = f32x4.splat(grow);
  const zero = f32x4.splat(0);
  for (let y: i32 = 0; y < height; y++) {
    const dy = f32x4.splat(<f32>y + <f32>0.5 - cy);
    for (let x: i32 = 0; x < width; x += 4) {
      const dx = v128.sub<f32>(v128.add<f32>(f32x4.splat(<f32>x), LANES), f32x4.splat(cx));
      const u = v128.sub<f32>(
        v128.abs<f32>(v128.add<f32>(v128.mul<f32>(c, dx), v128.mul<f32>(s, dy))),
        f32x4.splat(rx),
      );
      const v = v128.sub<f32>(
        v128.abs<f32>(v128.sub<f32>(v128.mul<f32>(c, dy), v128.mul<f32>(s, dx))),
        f32x4.splat(ry),
      );
      const a = v128.max<f32>(u, zero);
      const b = v128.max<f32>(v, zero);
      const beyond = v128.sqrt<f32>(v128.add<f32>(v128.mul<f32>(a, a), v128.mul<f32>(b, b)));
      const d = v128.add<f32>(beyond, v128.min<f32>(zero, v128.max<f32>(u, v)));
      put(out + y * stride + x, faded(v128.sub<f32>(d, g), scale, flip), width - x);
    }
  }
}

/**
 * A polygon of `count` corners, pairs of 32-bit floats; where it goes around more than once it is inside still (its
 * winding is not zero).
 */
export function polygon(
  out: usize,
  width: i32,
  height: i32,
  stride: i32,
  corners: usize,
  count: i32,
  grow: f32,
  feather: f32,
  inverted: i32,
): void {
  const scale = f32x4.splat(<f32>1 / max<f32>(1, feather));
  const flip = i32x4.splat(inverted !== 0 ? 255 : 0);
  const g = f32x4.splat(grow);
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  for (let y: i32 = 0; y < height; y++) {
    const py: f32 = <f32>y + <f32>0.5;
    for (let x: i32 = 0; x < width; x += 4) {
      const px = v128.add<f32>(f32x4.splat(<f32>x), LANES);
      let nearest = f32x4.splat(<f32>1e30);
      let winding = i32x4.splat(0);
      let bx = load<f32>(corners + 8 * (count - 1));
      let by = load<f32>(corners + 8 * (count - 1), 4);
      for (let k: i32 = 0; k < count; k++) {
        const ax = bx;
        const ay = by;
        bx = load<f32>(corners + 8 * k);
        by = load<f32>(corners + 8 * k, 4);
        const ex = bx - ax;
        const ey = by - ay;
        const length = max<f32>(<f32>1e-12, ex * ex + ey * ey);
        const dx = v128.sub<f32>(px, f32x4.splat(ax));
        const dy: f32 = py - ay;
        const along = v128.div<f32>(
          v128.add<f32>(v128.mul<f32>(dx, f32x4.splat(ex)), f32x4.splat(dy * ey)),
          f32x4.splat(length),
        );
        const t = v128.min<f32>(one, v128.max<f32>(zero, along));
        const ox = v128.sub<f32>(dx, v128.mul<f32>(t, f32x4.splat(ex)));
        const oy = v128.sub<f32>(f32x4.splat(dy), v128.mul<f32>(t, f32x4.splat(ey)));
        nearest = v128.min<f32>(nearest, v128.add<f32>(v128.mul<f32>(ox, ox), v128.mul<f32>(oy, oy)));
        // On which side of the edge, where the row crosses it.
        const side = v128.sub<f32>(
          v128.mul<f32>(f32x4.splat(ex), f32x4.splat(dy)),
          v128.mul<f32>(dx, f32x4.splat(ey)),
        );
        if (ay <= py && by > py) winding = v128.sub<i32>(winding, v128.gt<f32>(side, zero));
        else if (ay > py && by <= py) winding = v128.add<i32>(winding, v128.lt<f32>(side, zero));
      }
      const away = v128.sqrt<f32>(nearest);
      const inside = v128.ne<i32>(winding, i32x4.splat(0));
      const d = v128.bitselect(v128.neg<f32>(away), away, inside);
      put(out + y * stride + x, faded(v128.sub<f32>(d, g), scale, flip), width - x);
    }
  }
}

/** What of `b` is seen through a mask of a byte a pixel, the rest from `a`; into `b`. RGBA. */
export function maskMix(a: usize, b: usize, pixels: i32, mask: usize): void {
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
    const y = v128.load(b + 4 * i);
    const first = v128.add<i16>(
      v128.add<i16>(
        v128.mul<i16>(v128.extend_low<u8>(x), v128.sub<i16>(whole, wl)),
        v128.mul<i16>(v128.extend_low<u8>(y), wl),
      ),
      half,
    );
    const second = v128.add<i16>(
      v128.add<i16>(
        v128.mul<i16>(v128.extend_high<u8>(x), v128.sub<i16>(whole, wh)),
        v128.mul<i16>(v128.extend_high<u8>(y), wh),
      ),
      half,
    );
    v128.store(b + 4 * i, i8x16.narrow_i16x8_u(v128.shr<u16>(first, 8), v128.shr<u16>(second, 8)));
  }
  for (; i < pixels; i++) {
    const m = <i32>load<u8>(mask + i);
    const w = m + (m >> 7);
    for (let k: i32 = 0; k < 4; k++) {
      const at = 4 * i + k;
      store<u8>(b + at, (<i32>load<u8>(a + at) * (256 - w) + <i32>load<u8>(b + at) * w + 128) >> 8);
    }
  }
}
