import { PAD } from './padding';

/**
 * Motion between two pictures, compiled into the same module as `assembly.ts`; `along.ts` makes pictures of it. Dense inverse
 * search after Kroeger, Timofte, Dai and Van Gool, "Fast Optical Flow using Dense Inverse Search" (2016), with
 * patches less their mean, candidates from the coarser level and from neighbours, and both directions checked
 * against each other. Grey pictures have rows of `stride` bytes and `PAD` pixels repeated on every side, so that
 * patches may look beyond the border; pointers are to their first pixel. Arithmetic is integer, or 32-bit floating
 * point in a fixed order: equal everywhere.
 */

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
