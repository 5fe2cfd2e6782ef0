import { PAD } from './padding';

/**
 * Pictures along the motion between two, compiled into the same module as `assembly.ts`: what `motion.ts` found is checked
 * both ways, carried to an instant, judged there, and the planes warped by it. Grey pictures are padded as there.
 */

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
 * of them shows is taken from that one where its surroundings are trusted. `maps` holds 16 bytes a cell. Returns of how
 * many in 65536 cells that change motion was needed and not trusted, so that what is there is seen twice.
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
      store<u16>(along + 2 * k, trust);
      store<u16>(still + 2 * k, first);
    }
  boxed(along, w, h, 1, alongSum, spare);
  boxed(still, w, h, 1, stillSum, spare);
  for (let y: i32 = 0; y < h; y++)
    for (let x: i32 = 0; x < w; x++) {
      const at = y * stride + x;
      store<u16>(seen + 2 * (y * w + x), 256 + <i32>load<u8>(a + at) - <i32>load<u8>(b + at));
    }
  boxed(seen, w, h, 1, seenSum, spare);
  let lost: i32 = 0;
  let moving: i32 = 0;
  for (let y: i32 = 0; y < h; y++) {
    const rows = min(h - 1, y + 1) - max(0, y - 1) + 1;
    for (let x: i32 = 0; x < w; x++) {
      const k = y * w + x;
      const n = rows * (min(w - 1, x + 1) - max(0, x - 1) + 1);
      const cell = cells + k * CELL;
      const changed = abs(<i32>load<u16>(seenSum + 2 * k) / n - 256);
      if (changed > CHANGED) moving++;
      if (changed > SEEN_TWICE && load<u16>(along + 2 * k) < 128) lost++;
      store<u8>(cell, <i32>load<u16>(alongSum + 2 * k) / n, 4);
      store<u8>(cell, min(255, <i32>load<u16>(stillSum + 2 * k) / n), 5);
    }
  }
  return <i32>(((<i64>lost) << 16) / max(moving, count / LEAST_MOVING));
}

/** Brightness by which a place and what lies around it have to change for something to move there. */
const CHANGED: i32 = 8;
/** And from which on what is mixed is seen twice: less, as of leaves in the wind, looks as good mixed as moved. */
const SEEN_TWICE: i32 = 32;
/** What moves in less than this part of the picture counts as if it were that much. */
const LEAST_MOVING: i32 = 256;

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
