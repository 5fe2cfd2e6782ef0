/**
 * Motion between two pictures, and pictures along it, compiled into the same module as `assembly.ts`. Dense inverse
 * search after Kroeger, Timofte, Dai and Van Gool, "Fast Optical Flow using Dense Inverse Search" (2016), with
 * patches less their mean, candidates from the coarser level and from neighbours, and both directions checked
 * against each other. Grey pictures have rows of `stride` bytes and `PAD` pixels repeated on every side, so that
 * patches may look beyond the border; pointers are to their first pixel. Arithmetic is integer, or 32-bit floating
 * point in a fixed order: equal everywhere.
 */

/** Pixels repeated around a grey picture. */
const PAD: i32 = 24;
/** Side of a patch, and pixels from one to the next. */
const PATCH: i32 = 8;
const STEP: i32 = 4;
/** Bytes of a patch: u, v, error, unused; four bytes each. */
const RECORD: i32 = 16;
/** The squared difference of a patch, in 256ths, up to which it stands still: half a step of brightness each. */
const STILL: f32 = 64.0 * 256.0 * 0.25;

/** The mean of every `by` by `by` pixels, or of those there are, as a padded grey picture. */
export function shrink(
  from: usize,
  width: i32,
  height: i32,
  fromStride: i32,
  by: i32,
  out: usize,
  stride: i32,
): void {
  const w = (width + by - 1) / by;
  const h = (height + by - 1) / by;
  for (let y: i32 = 0; y < h; y++) {
    const top = y * by;
    const rows = min(by, height - top);
    let x: i32 = 0;
    if (by == 2 && rows == 2) {
      const line = from + top * fromStride;
      for (; 2 * x + 16 <= width; x += 8) {
        const sum = v128.add<i16>(
          i16x8.extadd_pairwise_i8x16_u(v128.load(line + 2 * x)),
          i16x8.extadd_pairwise_i8x16_u(v128.load(line + fromStride + 2 * x)),
        );
        const mean = v128.shr<u16>(v128.add<i16>(sum, i16x8.splat(2)), 2);
        v128.store64_lane(out + y * stride + x, i8x16.narrow_i16x8_u(mean, mean), 0);
      }
    }
    for (; x < w; x++) {
      const columns = min(by, width - x * by);
      let sum: i32 = 0;
      for (let j: i32 = 0; j < rows; j++) {
        const line = from + (top + j) * fromStride + x * by;
        for (let i: i32 = 0; i < columns; i++) sum += load<u8>(line + i);
      }
      const n = rows * columns;
      store<u8>(out + y * stride + x, (sum + (n >> 1)) / n);
    }
  }
  surround(out, w, h, stride);
}

/** Repeats a grey picture's border around it. */
export function surround(picture: usize, width: i32, height: i32, stride: i32): void {
  for (let y: i32 = 0; y < height; y++) {
    const line = picture + y * stride;
    memory.fill(line - PAD, load<u8>(line), PAD);
    memory.fill(line + width, load<u8>(line + width - 1), PAD);
  }
  const bytes = width + 2 * PAD;
  for (let y: i32 = 1; y <= PAD; y++) {
    memory.copy(picture - PAD - y * stride, picture - PAD, bytes);
    memory.copy(picture - PAD + (height - 1 + y) * stride, picture - PAD + (height - 1) * stride, bytes);
  }
}

// What `compare` found: sums of the difference, of its square, and of it times the gradients.
let sumR: i32 = 0;
let sumRR: i32 = 0;
let sumX: i32 = 0;
let sumY: i32 = 0;

/** Eight pixels between `at` and the next, `share` 128ths on, in 128ths. */
function across(at: usize, share: v128): v128 {
  const here = v128.extend_low<u8>(v128.load64_zero(at));
  const next = v128.extend_low<u8>(v128.load64_zero(at, 1));
  return v128.add<i16>(v128.shl<i16>(here, 7), v128.mul<i16>(v128.sub<i16>(next, here), share));
}

function total(v: v128): i32 {
  return (
    v128.extract_lane<i32>(v, 0) +
    v128.extract_lane<i32>(v, 1) +
    v128.extract_lane<i32>(v, 2) +
    v128.extract_lane<i32>(v, 3)
  );
}

/** The patch in `scratch` against picture `b` at (x, y); the difference is in 16ths. */
function compare(scratch: usize, b: usize, stride: i32, x: f32, y: f32): void {
  const left = <i32>floor(x);
  const top = <i32>floor(y);
  const fx = i16x8.splat(<i16>((x - <f32>left) * <f32>128));
  const fy = i16x8.splat(<i16>((<i32>((y - <f32>top) * <f32>128)) << 8));
  let at = b + top * stride + left;
  const ones = i16x8.splat(1);
  let r1 = i32x4.splat(0);
  let r2 = i32x4.splat(0);
  let rx = i32x4.splat(0);
  let ry = i32x4.splat(0);
  let upper = across(at, fx);
  for (let row: i32 = 0; row < PATCH; row++) {
    at += stride;
    const lower = across(at, fx);
    const value = v128.add<i16>(upper, i16x8.q15mulr_sat_s(v128.sub<i16>(lower, upper), fy));
    const from = scratch + row * 48;
    const r = v128.sub<i16>(v128.shr<i16>(value, 3), v128.load(from));
    r1 = v128.add<i32>(r1, v128.dot<i16>(r, ones));
    r2 = v128.add<i32>(r2, v128.dot<i16>(r, r));
    rx = v128.add<i32>(rx, v128.dot<i16>(r, v128.load(from, 16)));
    ry = v128.add<i32>(ry, v128.dot<i16>(r, v128.load(from, 32)));
    upper = lower;
  }
  sumR = total(r1);
  sumRR = total(r2);
  sumX = total(rx);
  sumY = total(ry);
}

/** The squared difference of the last comparison, less that of the means. */
function errorOf(): f32 {
  return <f32>sumRR - <f32>sumR * <f32>sumR * <f32>(1.0 / 64.0);
}

/** Where a patch may begin, so that it stays within the repeated border. */
function placed(at: f32, size: i32): f32 {
  return max(<f32>-23.0, min(<f32>(size + 14), at));
}

let bestU: f32 = 0.0;
let bestV: f32 = 0.0;
let bestError: f32 = 0.0;

/** Compares at a motion, and keeps it where it is better than the best so far. */
function attempt(
  scratch: usize,
  b: usize,
  stride: i32,
  x: i32,
  y: i32,
  w: i32,
  h: i32,
  u: f32,
  v: f32,
): void {
  const px = placed(<f32>x + u, w);
  const py = placed(<f32>y + v, h);
  compare(scratch, b, stride, px, py);
  const error = errorOf();
  if (error < bestError) {
    bestError = error;
    bestU = px - <f32>x;
    bestV = py - <f32>y;
  }
}

/** How many patches there are along a side. */
function patchesAlong(size: i32): i32 {
  return (size - PATCH + STEP - 1) / STEP + 1;
}

/**
 * For every patch of `a` where it is in `b`: into `out`, a record each. Begins from the records of the coarser level
 * (0: from an even search within `reach` pixels).
 */
export function search(
  a: usize,
  b: usize,
  w: i32,
  h: i32,
  stride: i32,
  coarse: usize,
  coarseW: i32,
  coarseH: i32,
  out: usize,
  scratch: usize,
  reach: i32,
  iterations: i32,
): void {
  const nx = patchesAlong(w);
  const ny = patchesAlong(h);
  const cx = patchesAlong(coarseW);
  const cy = patchesAlong(coarseH);
  for (let pass: i32 = 0; pass < 2; pass++) {
    for (let n: i32 = 0; n < nx * ny; n++) {
      const k = pass == 0 ? n : nx * ny - 1 - n;
      const i = k % nx;
      const j = k / nx;
      const x = min(i * STEP, w - PATCH);
      const y = min(j * STEP, h - PATCH);
      // The patch, in 16ths, and its gradients, doubled.
      const ones = i16x8.splat(1);
      let xx = i32x4.splat(0);
      let xy = i32x4.splat(0);
      let yy = i32x4.splat(0);
      let x1 = i32x4.splat(0);
      let y1 = i32x4.splat(0);
      for (let row: i32 = 0; row < PATCH; row++) {
        const at = a + (y + row) * stride + x;
        const to = scratch + row * 48;
        v128.store(to, v128.shl<i16>(v128.extend_low<u8>(v128.load64_zero(at)), 4));
        const gx = v128.sub<i16>(
          v128.extend_low<u8>(v128.load64_zero(at, 1)),
          v128.extend_low<u8>(v128.load64_zero(at - 1)),
        );
        const gy = v128.sub<i16>(
          v128.extend_low<u8>(v128.load64_zero(at + stride)),
          v128.extend_low<u8>(v128.load64_zero(at - stride)),
        );
        v128.store(to, gx, 16);
        v128.store(to, gy, 32);
        xx = v128.add<i32>(xx, v128.dot<i16>(gx, gx));
        xy = v128.add<i32>(xy, v128.dot<i16>(gx, gy));
        yy = v128.add<i32>(yy, v128.dot<i16>(gy, gy));
        x1 = v128.add<i32>(x1, v128.dot<i16>(gx, ones));
        y1 = v128.add<i32>(y1, v128.dot<i16>(gy, ones));
      }
      const gx1 = <f32>total(x1);
      const gy1 = <f32>total(y1);
      const hxx = <f32>total(xx) - gx1 * gx1 * <f32>(1.0 / 64.0) + <f32>64;
      const hxy = <f32>total(xy) - gx1 * gy1 * <f32>(1.0 / 64.0);
      const hyy = <f32>total(yy) - gy1 * gy1 * <f32>(1.0 / 64.0) + <f32>64;
      const det = hxx * hyy - hxy * hxy;

      bestError = Infinity;
      if (pass == 0) {
        // What stands still is not looked for elsewhere: the noise would be followed.
        attempt(scratch, b, stride, x, y, w, h, 0, 0);
        if (bestError < STILL) {
          const own = out + k * RECORD;
          store<f32>(own, 0);
          store<f32>(own, 0, 4);
          store<f32>(own, 0, 8);
          continue;
        }
        if (coarse == 0) {
          for (let v: i32 = -reach; v <= reach; v++)
            for (let u: i32 = -reach; u <= reach; u++) {
              const before = bestError;
              attempt(scratch, b, stride, x, y, w, h, <f32>u, <f32>v);
              // The nearer one wins where nothing tells them apart.
              if (bestError < before && u * u + v * v > 0 && bestError > before * <f32>0.98)
                bestError = before;
            }
        } else {
          const fi = min(<f32>(cx - 1), max(<f32>0, (<f32>(x + 4) * <f32>0.5 - <f32>4) / <f32>STEP));
          const fj = min(<f32>(cy - 1), max(<f32>0, (<f32>(y + 4) * <f32>0.5 - <f32>4) / <f32>STEP));
          const i0 = <i32>floor(fi);
          const j0 = <i32>floor(fj);
          for (let dj: i32 = 0; dj < 2; dj++)
            for (let di: i32 = 0; di < 2; di++) {
              const from = coarse + (min(cy - 1, j0 + dj) * cx + min(cx - 1, i0 + di)) * RECORD;
              attempt(scratch, b, stride, x, y, w, h, <f32>2 * load<f32>(from), <f32>2 * load<f32>(from, 4));
            }
        }
        if (i > 0) neighbour(out, k - 1, scratch, b, stride, x, y, w, h);
        if (j > 0) neighbour(out, k - nx, scratch, b, stride, x, y, w, h);
      } else {
        const own = out + k * RECORD;
        bestU = load<f32>(own);
        bestV = load<f32>(own, 4);
        bestError = load<f32>(own, 8);
        const before = bestError;
        if (before == 0) continue;
        if (i < nx - 1) neighbour(out, k + 1, scratch, b, stride, x, y, w, h);
        if (j < ny - 1) neighbour(out, k + nx, scratch, b, stride, x, y, w, h);
        if (bestError == before) continue;
      }
      // Newton's steps on the patch's own gradients.
      const startU = bestU;
      const startV = bestV;
      let u = bestU;
      let v = bestV;
      for (let step: i32 = 0; step < iterations; step++) {
        const px = placed(<f32>x + u, w);
        const py = placed(<f32>y + v, h);
        compare(scratch, b, stride, px, py);
        const error = errorOf();
        if (step > 0) {
          if (error >= bestError) break;
          bestError = error;
          bestU = u;
          bestV = v;
        }
        const bx = <f32>sumX - gx1 * <f32>sumR * <f32>(1.0 / 64.0);
        const by = <f32>sumY - gy1 * <f32>sumR * <f32>(1.0 / 64.0);
        // Gradients are doubled and the difference is in 16ths: an eighth.
        const du = ((hyy * bx - hxy * by) / det) * <f32>0.125;
        const dv = ((hxx * by - hxy * bx) / det) * <f32>0.125;
        u = px - <f32>x - du;
        v = py - <f32>y - dv;
        if (abs(du) + abs(dv) < <f32>0.02) break;
        if (abs(u - startU) + abs(v - startV) > <f32>PATCH) break;
      }
      const to = out + k * RECORD;
      store<f32>(to, bestU);
      store<f32>(to, bestV, 4);
      store<f32>(to, bestError, 8);
    }
  }
}

function neighbour(
  out: usize,
  k: i32,
  scratch: usize,
  b: usize,
  stride: i32,
  x: i32,
  y: i32,
  w: i32,
  h: i32,
): void {
  const from = out + k * RECORD;
  attempt(scratch, b, stride, x, y, w, h, load<f32>(from), load<f32>(from, 4));
}

/** A padded grey picture between its pixels. */
function grey(picture: usize, stride: i32, w: i32, h: i32, x: f32, y: f32): f32 {
  const cx = max(<f32>-PAD, min(<f32>(w + PAD - 2), x));
  const cy = max(<f32>-PAD, min(<f32>(h + PAD - 2), y));
  const left = <i32>floor(cx);
  const top = <i32>floor(cy);
  const fx = cx - <f32>left;
  const fy = cy - <f32>top;
  const at = picture + top * stride + left;
  const upper = <f32>load<u8>(at) * (<f32>1 - fx) + <f32>load<u8>(at, 1) * fx;
  const below = at + stride;
  const lower = <f32>load<u8>(below) * (<f32>1 - fx) + <f32>load<u8>(below, 1) * fx;
  return upper * (<f32>1 - fy) + lower * fy;
}

/**
 * A motion for every pixel, of the patches that cover it: the better a patch's motion explains it, the more. Pairs of
 * floats; `sums` holds three floats a pixel.
 */
export function densify(
  a: usize,
  b: usize,
  w: i32,
  h: i32,
  stride: i32,
  patches: usize,
  out: usize,
  sums: usize,
): void {
  const nx = patchesAlong(w);
  const ny = patchesAlong(h);
  const plane = 4 * w * h;
  memory.fill(sums, 0, 3 * plane);
  const one = f32x4.splat(1);
  for (let j: i32 = 0; j < ny; j++)
    for (let i: i32 = 0; i < nx; i++) {
      const from = patches + (j * nx + i) * RECORD;
      const u = load<f32>(from);
      const v = load<f32>(from, 4);
      const us = f32x4.splat(u);
      const vs = f32x4.splat(v);
      const x = min(i * STEP, w - PATCH);
      const y = min(j * STEP, h - PATCH);
      const px = placed(<f32>x + u, w);
      const py = placed(<f32>y + v, h);
      const left = <i32>floor(px);
      const top = <i32>floor(py);
      const fx = i16x8.splat(<i16>((px - <f32>left) * <f32>128));
      const fy = i16x8.splat(<i16>((<i32>((py - <f32>top) * <f32>128)) << 8));
      let at = b + top * stride + left;
      let upper = across(at, fx);
      for (let row: i32 = 0; row < PATCH; row++) {
        at += stride;
        const lower = across(at, fx);
        const value = v128.add<i16>(upper, i16x8.q15mulr_sat_s(v128.sub<i16>(lower, upper), fy));
        const own = v128.shl<i16>(v128.extend_low<u8>(v128.load64_zero(a + (y + row) * stride + x)), 4);
        const off = v128.sub<i16>(v128.shr<i16>(value, 3), own);
        let to = sums + 4 * ((y + row) * w + x);
        for (let half: i32 = 0; half < 2; half++, to += 16) {
          const words = half == 0 ? v128.extend_low<i16>(off) : v128.extend_high<i16>(off);
          const d = v128.mul<f32>(v128.convert<i32>(words), f32x4.splat(0.0625));
          const weight = v128.div<f32>(one, v128.add<f32>(one, v128.mul<f32>(d, d)));
          v128.store(to, v128.add<f32>(v128.load(to), weight));
          v128.store(to + plane, v128.add<f32>(v128.load(to + plane), v128.mul<f32>(weight, us)));
          v128.store(to + 2 * plane, v128.add<f32>(v128.load(to + 2 * plane), v128.mul<f32>(weight, vs)));
        }
        upper = lower;
      }
    }
  for (let k: i32 = 0; k < w * h; k++) {
    const sum = load<f32>(sums + 4 * k);
    store<f32>(out + 8 * k, load<f32>(sums + plane + 4 * k) / sum);
    store<f32>(out + 8 * k, load<f32>(sums + 2 * plane + 4 * k) / sum, 4);
  }
}

/** The middle one of nine, lane by lane. */
function middleOf(
  p0: v128,
  p1: v128,
  p2: v128,
  p3: v128,
  p4: v128,
  p5: v128,
  p6: v128,
  p7: v128,
  p8: v128,
): v128 {
  // The usual network of exchanges.
  let t = v128.min<f32>(p1, p2);
  p2 = v128.max<f32>(p1, p2);
  p1 = t;
  t = v128.min<f32>(p4, p5);
  p5 = v128.max<f32>(p4, p5);
  p4 = t;
  t = v128.min<f32>(p7, p8);
  p8 = v128.max<f32>(p7, p8);
  p7 = t;
  t = v128.min<f32>(p0, p1);
  p1 = v128.max<f32>(p0, p1);
  p0 = t;
  t = v128.min<f32>(p3, p4);
  p4 = v128.max<f32>(p3, p4);
  p3 = t;
  t = v128.min<f32>(p6, p7);
  p7 = v128.max<f32>(p6, p7);
  p6 = t;
  t = v128.min<f32>(p1, p2);
  p2 = v128.max<f32>(p1, p2);
  p1 = t;
  t = v128.min<f32>(p4, p5);
  p5 = v128.max<f32>(p4, p5);
  p4 = t;
  t = v128.min<f32>(p7, p8);
  p8 = v128.max<f32>(p7, p8);
  p7 = t;
  p3 = v128.max<f32>(p0, p3);
  p5 = v128.min<f32>(p5, p8);
  t = v128.min<f32>(p4, p7);
  p7 = v128.max<f32>(p4, p7);
  p4 = t;
  p6 = v128.max<f32>(p3, p6);
  p4 = v128.max<f32>(p1, p4);
  p2 = v128.min<f32>(p2, p5);
  p4 = v128.min<f32>(p4, p7);
  t = v128.min<f32>(p4, p2);
  p2 = v128.max<f32>(p4, p2);
  p4 = t;
  p4 = v128.max<f32>(p6, p4);
  p4 = v128.min<f32>(p4, p2);
  return p4;
}

/** The middle one of the nine around every pixel, each component by itself; pairs of floats. */
export function median(from: usize, w: i32, h: i32, out: usize): void {
  for (let y: i32 = 0; y < h; y++) {
    const up = from + max(0, y - 1) * w * 8;
    const own = from + y * w * 8;
    const down = from + min(h - 1, y + 1) * w * 8;
    const to = out + y * w * 8;
    for (let x: i32 = 0; x < w;) {
      const l = max(0, x - 1) * 8;
      const c = x * 8;
      const r = min(w - 1, x + 1) * 8;
      if (x > 0 && x + 2 < w) {
        // Two pixels at once.
        const two = middleOf(
          v128.load(up + l),
          v128.load(up + c),
          v128.load(up + r),
          v128.load(own + l),
          v128.load(own + c),
          v128.load(own + r),
          v128.load(down + l),
          v128.load(down + c),
          v128.load(down + r),
        );
        v128.store(to + c, two);
        x += 2;
        continue;
      }
      const one = middleOf(
        v128.load64_zero(up + l),
        v128.load64_zero(up + c),
        v128.load64_zero(up + r),
        v128.load64_zero(own + l),
        v128.load64_zero(own + c),
        v128.load64_zero(own + r),
        v128.load64_zero(down + l),
        v128.load64_zero(down + c),
        v128.load64_zero(down + r),
      );
      v128.store64_lane(to + c, one, 0);
      x++;
    }
  }
}

/** Bytes of a motion in a field: u and v in 32nds of a grid pixel, two bytes each. */
const MOTION: i32 = 4;
/** The farthest motion, in 32nds of a grid pixel. */
const FARTHEST: f32 = 16352.0;

/**
 * Writes a direction of a field: motions as `MOTION`s, and for each how far it is off in brightness (up to 127), with
 * 128 more where the way back does not lead back.
 */
export function check(
  a: usize,
  b: usize,
  w: i32,
  h: i32,
  stride: i32,
  own: usize,
  other: usize,
  motions: usize,
  marks: usize,
): void {
  for (let y: i32 = 0; y < h; y++)
    for (let x: i32 = 0; x < w; x++) {
      const k = y * w + x;
      const u = load<f32>(own + k * 8);
      const v = load<f32>(own + k * 8, 4);
      const tx = <f32>x + u;
      const ty = <f32>y + v;
      store<i16>(motions + k * MOTION, <i16>max(-FARTHEST, min(FARTHEST, nearest(u * <f32>32))));
      store<i16>(motions + k * MOTION, <i16>max(-FARTHEST, min(FARTHEST, nearest(v * <f32>32))), 2);
      const cx = max(<f32>0, min(<f32>(w - 1), tx));
      const cy = max(<f32>0, min(<f32>(h - 1), ty));
      const back = other + (<i32>nearest(cy) * w + <i32>nearest(cx)) * 8;
      const du = u + load<f32>(back);
      const dv = v + load<f32>(back, 4);
      const allowed = <f32>0.6 + <f32>0.02 * (u * u + v * v);
      const leads = du * du + dv * dv <= allowed;
      const off = abs(grey(b, stride, w, h, tx, ty) - <f32>load<u8>(a + y * stride + x));
      store<u8>(marks + k, <i32>min(<f32>127, off) + (leads ? 0 : 128));
    }
}

/** Bytes of what is known of a grid pixel at an instant: u, v (32nds, two bytes each), trust, share of the first, side, unused. */
const CELL: i32 = 8;

/** Clears cells and what their motion costs. */
export function clear(cells: usize, costs: usize, count: i32): void {
  memory.fill(cells, 0, count * CELL);
  memory.fill(costs, 255, count * 2);
}

/**
 * Carries one direction of a field to where its pixels are at an instant, `share` 32768ths from its own picture to the
 * other. The motion that explains its pixels best stays. `side`: 1 for motions of the first picture, 2 for those of
 * the second, which are turned round.
 */
export function carry(
  motions: usize,
  marks: usize,
  w: i32,
  h: i32,
  share: i32,
  side: i32,
  cells: usize,
  costs: usize,
): void {
  for (let y: i32 = 0; y < h; y++)
    for (let x: i32 = 0; x < w; x++) {
      const k = y * w + x;
      const u = <i32>load<i16>(motions + k * MOTION);
      const v = <i32>load<i16>(motions + k * MOTION, 2);
      const mark = <i32>load<u8>(marks + k);
      // 32nds times 32768ths.
      const left = (x << 5) + ((u * share) >> 15);
      const top = (y << 5) + ((v * share) >> 15);
      const x0 = left >> 5;
      const y0 = top >> 5;
      const fx = left & 31;
      const fy = top & 31;
      const single = mark >= 128;
      const base = (mark & 127) * 8 + (single ? 400 : 0);
      for (let dy: i32 = 0; dy < 2; dy++) {
        const ty = y0 + dy;
        if (ty < 0 || ty >= h) continue;
        for (let dx: i32 = 0; dx < 2; dx++) {
          const tx = x0 + dx;
          if (tx < 0 || tx >= w) continue;
          const far = (dx == 0 ? fx : 32 - fx) + (dy == 0 ? fy : 32 - fy);
          const cost = base + far;
          const t = ty * w + tx;
          if (cost >= <i32>load<u16>(costs + 2 * t)) continue;
          store<u16>(costs + 2 * t, cost);
          const cell = cells + t * CELL;
          store<i16>(cell, side == 1 ? u : -u);
          store<i16>(cell, side == 1 ? v : -v, 2);
          store<u8>(cell, single ? side : 3, 6);
        }
      }
    }
}

/** Sums of two-byte values over the square of `radius` around each, into `out`; `spare` holds as many. */
function boxed(from: usize, w: i32, h: i32, radius: i32, out: usize, spare: usize): void {
  for (let y: i32 = 0; y < h; y++) {
    const line = from + 2 * y * w;
    const to = spare + 2 * y * w;
    let sum: i32 = 0;
    for (let x: i32 = 0; x < min(w, radius); x++) sum += load<u16>(line + 2 * x);
    for (let x: i32 = 0; x < w; x++) {
      if (x + radius < w) sum += load<u16>(line + 2 * (x + radius));
      if (x > radius) sum -= load<u16>(line + 2 * (x - radius - 1));
      store<u16>(to + 2 * x, sum);
    }
  }
  for (let y: i32 = 0; y < h; y++) {
    const top = max(0, y - radius);
    const bottom = min(h - 1, y + radius);
    let x: i32 = 0;
    for (; x + 8 <= w; x += 8) {
      let sum = i16x8.splat(0);
      for (let j = top; j <= bottom; j++) sum = v128.add<i16>(sum, v128.load(spare + 2 * (j * w + x)));
      v128.store(out + 2 * (y * w + x), sum);
    }
    for (; x < w; x++) {
      let sum: i32 = 0;
      for (let j = top; j <= bottom; j++) sum += load<u16>(spare + 2 * (j * w + x));
      store<u16>(out + 2 * (y * w + x), sum);
    }
  }
}

function part(value: i32, none: i32, all: i32): i32 {
  return value <= none ? 0 : value >= all ? 255 : ((value - none) * 255) / (all - none);
}

/**
 * Says for every cell how far its motion is to be trusted at an instant, and how much the first picture has of it.
 * A motion is worth something where the pictures along it differ less than the pictures as they are; what only one
 * of them shows is taken from that one where its surroundings are trusted. `maps` holds 16 bytes a cell. Returns for
 * how many cells in 65536 motion was needed and not trusted.
 */
export function judge(
  a: usize,
  b: usize,
  w: i32,
  h: i32,
  stride: i32,
  share: i32,
  cells: usize,
  maps: usize,
): i32 {
  const count = w * h;
  const along = maps;
  const still = maps + 2 * count;
  const seen = maps + 4 * count;
  const alongSum = maps + 6 * count;
  const stillSum = maps + 8 * count;
  const seenSum = maps + 10 * count;
  const spare = maps + 12 * count;
  const neededSum = maps + 14 * count;
  const s = <f32>share / <f32>32768;
  // Cells that nothing reached take the motion of those around them.
  for (let pass: i32 = 0; pass < 2; pass++)
    for (let y: i32 = 0; y < h; y++)
      for (let x: i32 = 0; x < w; x++) {
        const cell = cells + (y * w + x) * CELL;
        if (load<u8>(cell, 6) != 0) continue;
        let u: i32 = 0;
        let v: i32 = 0;
        let n: i32 = 0;
        for (let j = max(0, y - 1); j <= min(h - 1, y + 1); j++)
          for (let i = max(0, x - 1); i <= min(w - 1, x + 1); i++) {
            const from = cells + (j * w + i) * CELL;
            const side = load<u8>(from, 6);
            if (side == 0 || side > 3) continue;
            u += load<i16>(from);
            v += load<i16>(from, 2);
            n++;
          }
        if (n == 0) continue;
        store<i16>(cell, u / n);
        store<i16>(cell, v / n, 2);
        store<u8>(cell, 4 + pass, 6);
      }
  for (let y: i32 = 0; y < h; y++)
    for (let x: i32 = 0; x < w; x++) {
      const k = y * w + x;
      const cell = cells + k * CELL;
      const u = <f32>load<i16>(cell) * <f32>(1.0 / 32.0);
      const v = <f32>load<i16>(cell, 2) * <f32>(1.0 / 32.0);
      const both = load<u8>(cell, 6) >= 3;
      const off = abs(
        grey(a, stride, w, h, <f32>x - s * u, <f32>y - s * v) -
          grey(b, stride, w, h, <f32>x + (<f32>1 - s) * u, <f32>y + (<f32>1 - s) * v),
      );
      const at = y * stride + x;
      store<u16>(along + 2 * k, both ? <i32>(off * <f32>8) : 0);
      store<u16>(still + 2 * k, both ? abs(<i32>load<u8>(a + at) - <i32>load<u8>(b + at)) * 8 : 0);
      store<u16>(seen + 2 * k, both ? 1 : 0);
    }
  boxed(along, w, h, 2, alongSum, spare);
  boxed(still, w, h, 2, stillSum, spare);
  boxed(seen, w, h, 2, seenSum, spare);
  // From here on: `along` what the motion is worth, `still` the trust, `seen` as it was.
  let lost: i32 = 0;
  for (let k: i32 = 0; k < count; k++) {
    const n = <i32>load<u16>(seenSum + 2 * k);
    const cell = cells + k * CELL;
    if (n == 0) {
      store<u16>(along + 2 * k, 0);
      store<u16>(still + 2 * k, 0);
      continue;
    }
    const f = <i32>load<u16>(alongSum + 2 * k) / n;
    const m = <i32>load<u16>(stillSum + 2 * k) / n;
    const good = 255 - part(f, GOOD_LOW + (m * 5) / 16, GOOD_HIGH + (m * 10) / 16);
    const needed = part(m - f, NEED_LOW + m / 8, NEED_HIGH + (m * 3) / 8);
    const both = load<u8>(cell, 6) >= 3;
    store<u16>(along + 2 * k, load<u8>(cell, 6) == 3 && good > 127 ? 1 : 0);
    store<u16>(still + 2 * k, both ? (good * needed) / 255 : 0);
    store<u8>(cell, both ? good : 0, 7);
  }
  // Where most of what lies around finds its way there and back, chance did not do it.
  boxed(along, w, h, AROUND, stillSum, spare);
  for (let k: i32 = 0; k < count; k++) store<u16>(along + 2 * k, load<u8>(cells + k * CELL, 7));
  boxed(along, w, h, 4, alongSum, spare);
  boxed(still, w, h, 4, neededSum, spare);
  boxed(seen, w, h, 4, seenSum, spare);
  for (let y: i32 = 0; y < h; y++)
    for (let x: i32 = 0; x < w; x++) {
      const k = y * w + x;
      const cell = cells + k * CELL;
      const u = <f32>load<i16>(cell) * <f32>(1.0 / 32.0);
      const v = <f32>load<i16>(cell, 2) * <f32>(1.0 / 32.0);
      const side = load<u8>(cell, 6);
      const outA = outside(<f32>x - s * u, <f32>y - s * v, w, h);
      const outB = outside(<f32>x + (<f32>1 - s) * u, <f32>y + (<f32>1 - s) * v, w, h);
      let trust = <i32>load<u16>(still + 2 * k);
      let first = (32768 - share + 64) >> 7;
      if (side < 3) {
        const n = <i32>load<u16>(seenSum + 2 * k);
        trust = n == 0 ? 0 : surrounding(alongSum, neededSum, k, n);
        trust = (trust * part(n, 12, 40)) / 255;
        if (side == 0) trust = 0;
        first = side == 1 ? 256 : 0;
        if (side == 1 ? outA : outB) trust = 0;
      } else if (outA && outB) trust = 0;
      else if (outA || outB) {
        const n = <i32>load<u16>(seenSum + 2 * k);
        trust = n == 0 ? 0 : surrounding(alongSum, neededSum, k, n);
        first = outA ? 0 : 256;
      }
      const columns = min(w - 1, x + AROUND) - max(0, x - AROUND) + 1;
      const rows = min(h - 1, y + AROUND) - max(0, y - AROUND) + 1;
      const agree = (<i32>load<u16>(stillSum + 2 * k) * 256) / (columns * rows);
      trust = (trust * part(agree, AGREE_LOW, AGREE_HIGH)) / 255;
      if (trust < 128) {
        const at = y * stride + x;
        if (abs(<i32>load<u8>(a + at) - <i32>load<u8>(b + at)) > 8) lost++;
      }
      store<u16>(along + 2 * k, trust);
      store<u16>(still + 2 * k, first);
    }
  boxed(along, w, h, 1, alongSum, spare);
  boxed(still, w, h, 1, stillSum, spare);
  for (let y: i32 = 0; y < h; y++) {
    const rows = min(h - 1, y + 1) - max(0, y - 1) + 1;
    for (let x: i32 = 0; x < w; x++) {
      const k = y * w + x;
      const n = rows * (min(w - 1, x + 1) - max(0, x - 1) + 1);
      const cell = cells + k * CELL;
      store<u8>(cell, <i32>load<u16>(alongSum + 2 * k) / n, 4);
      store<u8>(cell, min(255, <i32>load<u16>(stillSum + 2 * k) / n), 5);
    }
  }
  return <i32>(((<i64>lost) << 16) / count);
}

/** Brightness, in eighths, up to which a motion is good, and from which on it is not; and what it has to be better by. */
const GOOD_LOW: i32 = 24;
const GOOD_HIGH: i32 = 48;
const NEED_LOW: i32 = 12;
const NEED_HIGH: i32 = 32;

/** Cells around, each way, that have to agree, and how many of 256: none, and all of the trust. */
const AROUND: i32 = 14;
const AGREE_LOW: i32 = 130;
const AGREE_HIGH: i32 = 190;

/** Trust in what only one picture shows: as good as the motion around it, if something moves there at all. */
function surrounding(good: usize, needed: usize, k: i32, n: i32): i32 {
  return ((<i32>load<u16>(good + 2 * k) / n) * part(<i32>load<u16>(needed + 2 * k) / n, 6, 30)) / 255;
}

function outside(x: f32, y: f32, w: i32, h: i32): bool {
  return x < <f32>-0.5 || y < <f32>-0.5 || x > <f32>w - <f32>0.5 || y > <f32>h - <f32>0.5;
}

/** One byte of a plane between its pixels, times 256; the place in 128ths of a pixel, brought inside. */
function between(plane: usize, w: i32, h: i32, x: i32, y: i32): i32 {
  const left = x >> 7;
  const top = y >> 7;
  if (left < 0 || top < 0 || left >= w - 1 || top >= h - 1) return atBorder(plane, w, h, x, y);
  const at = plane + top * w + left;
  const fx = x & 127;
  const upper = <i32>load<u16>(at);
  const lower = <i32>load<u16>(at + w);
  const u = (upper & 255) * (128 - fx) + (upper >> 8) * fx;
  const l = (lower & 255) * (128 - fx) + (lower >> 8) * fx;
  return (u * 128 + (l - u) * (y & 127) + 32) >> 6;
}

function atBorder(plane: usize, w: i32, h: i32, x: i32, y: i32): i32 {
  const cx = max(0, min((w - 1) << 7, x));
  const cy = max(0, min((h - 1) << 7, y));
  const left = cx >> 7;
  const top = cy >> 7;
  const fx = cx & 127;
  const at = plane + top * w + left;
  const right: usize = left < w - 1 ? 1 : 0;
  const down: usize = top < h - 1 ? <usize>w : 0;
  const upper = <i32>load<u8>(at) * (128 - fx) + <i32>load<u8>(at + right) * fx;
  const lower = <i32>load<u8>(at + down) * (128 - fx) + <i32>load<u8>(at + down + right) * fx;
  return (upper * 128 + (lower - upper) * (cy & 127) + 32) >> 6;
}

/** A cell's u, v, trust and share as four words. */
function wide(cell: v128): v128 {
  const words = v128.shuffle<u8>(
    cell,
    i32x4.splat(0),
    0,
    1,
    2,
    3,
    4,
    16,
    5,
    16,
    16,
    16,
    16,
    16,
    16,
    16,
    16,
    16,
  );
  return v128.extend_low<i16>(words);
}

/**
 * A plane at an instant, `share` 32768ths from the first to the second: along the motion as far as the cells are
 * trusted, for the rest the mean of the two as they are. A cell is `by` pixels of the plane wide and high; `row` holds
 * sixteen bytes a cell of a row.
 */
export function warp(
  a: usize,
  b: usize,
  w: i32,
  h: i32,
  by: i32,
  share: i32,
  cells: usize,
  cellsW: i32,
  cellsH: i32,
  out: usize,
  row: usize,
): void {
  const own = 32768 - share;
  const part = own >> 4;
  const step = (65536 + (by >> 1)) / by;
  for (let y: i32 = 0; y < h; y++) {
    // Places in the cells, in 256ths.
    const gy = max(0, min((cellsH - 1) << 8, (((2 * y + 1) * step) >> 9) - 128));
    const fy = gy & 255;
    const top = cells + (gy >> 8) * cellsW * CELL;
    const bottom = cells + min(cellsH - 1, (gy >> 8) + 1) * cellsW * CELL;
    // The cells between two rows of them: u, v, trust, share of the first, in 256ths.
    for (let i: i32 = 0; i < cellsW; i++) {
      const c0 = top + i * CELL;
      const c1 = bottom + i * CELL;
      const upper = v128.mul<i32>(wide(v128.load64_zero(c0)), i32x4.splat(256 - fy));
      const lower = v128.mul<i32>(wide(v128.load64_zero(c1)), i32x4.splat(fy));
      v128.store(row + 16 * i, v128.add<i32>(upper, lower));
    }
    for (let x: i32 = 0; x < w; x++) {
      const gx = max(0, min((cellsW - 1) << 8, (((2 * x + 1) * step) >> 9) - 128));
      const here = row + 16 * (gx >> 8);
      const next = row + 16 * min(cellsW - 1, (gx >> 8) + 1);
      const at = y * w + x;
      const pa = <i32>load<u8>(a + at);
      const pb = <i32>load<u8>(b + at);
      if ((load<i32>(here, 8) | load<i32>(next, 8)) == 0) {
        store<u8>(out + at, (pa * own + pb * share + 16384) >> 15);
        continue;
      }
      const fx = gx & 255;
      const cell = v128.shr<i32>(
        v128.add<i32>(
          v128.mul<i32>(v128.load(here), i32x4.splat(256 - fx)),
          v128.mul<i32>(v128.load(next), i32x4.splat(fx)),
        ),
        8,
      );
      const trust = (v128.extract_lane<i32>(cell, 2) + 127) >> 8;
      let first = v128.extract_lane<i32>(cell, 3) >> 8;
      if (first > 253) first = 256;
      // In 128ths of a pixel.
      const pu = (v128.extract_lane<i32>(cell, 0) * by) >> 6;
      const pv = (v128.extract_lane<i32>(cell, 1) * by) >> 6;
      const bu = (pu * part) >> 11;
      const bv = (pv * part) >> 11;
      const px = (x << 7) + bu;
      const py = (y << 7) + bv;
      let moved: i32 = 0;
      if (first > 0) moved = between(a, w, h, px - pu, py - pv) * first;
      if (first < 256) moved += between(b, w, h, px, py) * (256 - first);
      const still = (pa * own + pb * share) >> 7;
      const t = trust + (trust >> 7);
      store<u8>(out + at, max(0, min(255, ((moved >> 8) * t + still * (256 - t) + 32768) >> 16)));
    }
  }
}
