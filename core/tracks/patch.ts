import { type Fit, OUTLIER, fitted, statistics, weightOf } from './fit';
import type { Luma, Pyramid } from './luma';

/** Where something is in a picture: its middle in pixels, its size (1 as it was chosen) and its turn in degrees, clockwise. */
export interface Pose {
  readonly x: number;
  readonly y: number;
  readonly size: number;
  readonly turn: number;
}

/** Points of a patch at most, each way. */
const MOST_POINTS = 45;
/** Deviation of brightness below which there is nothing to hold on to. */
const LEAST_CONTRAST = 2.5;
/** Of the pull that a patch has along its best direction, the part that it needs in its worst. */
const LEAST_PULL = 0.004;

/** Part of a patch that has to lie in the picture for it to be compared. */
const LEAST_INSIDE = 0.4;
/** Part that fits from which on the rest of a patch may look like anything: it is a number, a sign, a blink on it. */
const MOSTLY = 0.72;
/** Looks in a row after which what does not fit is part of it. */
const STAYS = 6;
/** How strongly size and turn stay as they were where nothing says otherwise, in parts of the pull along. */
const STEADY = 0.1;

const { cos, sin, sqrt, floor, ceil, max, min, abs, hypot, PI } = Math;

/** What a rectangle of a picture looks like: points on a grid with their brightness, about their mean, in deviations. */
export class Patch {
  private readonly columns: number;
  private readonly rows: number;
  /** Level of the pyramid it was taken from, and is sought in. */
  private readonly level: number;
  private readonly values: Float32Array;
  /** Change of the values with each of the four ways a patch may go: across, down, larger, turned. */
  private ways: Float32Array;
  /** For how many looks in a row each point has not fitted. */
  private readonly strange: Uint8Array;
  private readonly read: Float32Array;
  private readonly xs: Float32Array;
  private readonly ys: Float32Array;
  /** Half the diagonal, pixels: what size and turn move its corners by. */
  private readonly reach: number;
  /** Whether it has anything to hold on to, in both directions. */
  readonly holds: boolean;

  /** A patch of `width` by `height` pixels as it is at `pose`; `coarser` levels up it is taken with as many points fewer. */
  constructor(
    pyramid: Pyramid,
    pose: Pose,
    readonly width: number,
    readonly height: number,
    coarser = 0,
  ) {
    const fine = max(0, floor(Math.log2(max(width, height) / MOST_POINTS) + 0.5));
    this.level = min(pyramid.length - 1, fine + coarser);
    const spacing = 2 ** this.level;
    this.columns = max(5, min(MOST_POINTS, floor(width / spacing)));
    this.rows = max(5, min(MOST_POINTS, floor(height / spacing)));
    this.reach = hypot(width, height) / 2;
    const count = this.columns * this.rows;
    this.xs = new Float32Array(count);
    this.ys = new Float32Array(count);
    for (let r = 0, i = 0; r < this.rows; r++)
      for (let c = 0; c < this.columns; c++, i++) {
        this.xs[i] = ((c + 0.5) / this.columns - 0.5) * width;
        this.ys[i] = ((r + 0.5) / this.rows - 0.5) * height;
      }
    this.read = new Float32Array(count);
    const read = this.readAt(pyramid, pose);
    const [mean, deviation] = statistics(read);
    this.values = read.map((v) => (v === v ? (v - mean) / max(deviation, 1e-6) : 0));
    this.strange = new Uint8Array(count);
    this.ways = this.waysOf();
    this.holds = deviation >= LEAST_CONTRAST && this.pull();
  }

  /** Brightness at the patch's points where it is at a pose; NaN outside the picture. */
  private sample({ width, height, data }: Luma, pose: Pose, into: Float32Array): void {
    const scale = 1 / 2 ** this.level;
    const turn = (pose.turn * PI) / 180;
    const [c, s] = [cos(turn) * pose.size * scale, sin(turn) * pose.size * scale];
    // Middles of pixels lie at halves.
    const [ox, oy] = [pose.x * scale - 0.5, pose.y * scale - 0.5];
    const { xs, ys } = this;
    for (let i = 0; i < into.length; i++) {
      const x = ox + c * xs[i]! - s * ys[i]!;
      const y = oy + s * xs[i]! + c * ys[i]!;
      if (x < -0.5 || y < -0.5 || x > width - 0.5 || y > height - 0.5) {
        into[i] = NaN;
        continue;
      }
      const cx = min(width - 1.001, max(0, x));
      const cy = min(height - 1.001, max(0, y));
      const [x0, y0] = [floor(cx), floor(cy)];
      const [fx, fy] = [cx - x0, cy - y0];
      const at = y0 * width + x0;
      const top = data[at]! + fx * (data[at + 1]! - data[at]!);
      const bottom = data[at + width]! + fx * (data[at + width + 1]! - data[at + width]!);
      into[i] = top + fy * (bottom - top);
    }
  }

  /**
   * Takes on what is seen at a pose: what fits at once, what does not only after it has stayed for some looks, so that
   * what passes before it leaves no trace.
   */
  renew(pyramid: Pyramid, pose: Pose): void {
    const { values, strange } = this;
    const read = this.readAt(pyramid, pose);
    const fit = fitted(values, read);
    if (!fit) return;
    for (let i = 0; i < read.length; i++) {
      const v = read[i]!;
      if (v !== v) continue;
      const seen = (v - fit.mean) * fit.gain;
      const fits = abs(seen - values[i]!) < OUTLIER;
      strange[i] = fits ? 0 : strange[i]! + 1;
      if (!fits && strange[i]! < STAYS) continue;
      values[i] = seen;
      strange[i] = 0;
    }
    this.ways = this.waysOf();
  }

  private waysOf(): Float32Array {
    const { columns, rows, values, xs, ys, reach } = this;
    const ways = new Float32Array(4 * values.length);
    const [stepX, stepY] = [this.width / columns, this.height / rows];
    for (let r = 0, i = 0; r < rows; r++)
      for (let c = 0; c < columns; c++, i++) {
        const [left, right] = [max(0, c - 1), min(columns - 1, c + 1)];
        const [up, down] = [max(0, r - 1), min(rows - 1, r + 1)];
        const gx = (values[r * columns + right]! - values[r * columns + left]!) / ((right - left) * stepX);
        const gy = (values[down * columns + c]! - values[up * columns + c]!) / ((down - up) * stepY);
        ways[4 * i] = gx;
        ways[4 * i + 1] = gy;
        ways[4 * i + 2] = (gx * xs[i]! + gy * ys[i]!) / reach;
        ways[4 * i + 3] = (gy * xs[i]! - gx * ys[i]!) / reach;
      }
    return ways;
  }

  /** Whether brightness changes enough in every direction (Shi and Tomasi 1994). */
  private pull(): boolean {
    let [xx, xy, yy] = [0, 0, 0];
    for (let i = 0; i < this.values.length; i++) {
      const [gx, gy] = [this.ways[4 * i]!, this.ways[4 * i + 1]!];
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
    }
    const middle = (xx + yy) / 2;
    const off = sqrt(((xx - yy) / 2) ** 2 + xy * xy);
    return middle > 0 && (middle - off) / (middle + off) > LEAST_PULL;
  }

  /**
   * Where the patch is in a picture, near a pose: steps that make it alike, its brightness and contrast free, points
   * that do not fit counting for little (inverse composition, Baker and Matthews 2004, with weights after Geman and
   * McClure). `turns` lets size and turn go too.
   */
  align(pyramid: Pyramid, from: Pose, turns: boolean, steps = 20): Found {
    const { values, ways, reach } = this;
    const unit = 2 ** this.level;
    let pose = from;
    const n = turns ? 4 : 2;
    const h = new Float64Array(16);
    const b = new Float64Array(4);
    for (let step = 0; step < steps; step++) {
      const read = this.readAt(pyramid, pose);
      const fit = fitted(values, read);
      if (!fit) break;
      h.fill(0);
      b.fill(0);
      for (let i = 0; i < values.length; i++) {
        const v = read[i]!;
        if (v !== v) continue;
        const off = (v - fit.mean) * fit.gain - values[i]!;
        const weight = weightOf(off);
        const at = 4 * i;
        for (let k = 0; k < n; k++) {
          const g = ways[at + k]! * weight;
          b[k]! += g * off;
          for (let l = k; l < n; l++) h[4 * k + l]! += g * ways[at + l]!;
        }
      }
      const along = h[0]! + h[5]! + 1e-9;
      h[0]! += 1e-5 * along;
      h[5]! += 1e-5 * along;
      // A round thing says nothing of its turn.
      h[10]! += STEADY * along;
      h[15]! += STEADY * along;
      b[2]! += STEADY * along * Math.log(pose.size / from.size) * reach;
      b[3]! += STEADY * along * (((pose.turn - from.turn) * PI) / 180) * reach;
      for (let k = 0; k < n; k++) for (let l = 0; l < k; l++) h[4 * k + l] = h[4 * l + k]!;
      const d = solved(h, b, n);
      if (!d) break;
      // No farther at once than a fifth of the patch.
      const far = hypot(d[0]!, d[1]!);
      const short = min(1, (0.2 * reach) / max(far, 1e-9));
      pose = stepped(pose, d[0]! * short, d[1]! * short, (d[2]! * short) / reach, (d[3]! * short) / reach);
      if (far < 0.01 * unit && abs(d[2]!) + abs(d[3]!) < 0.02 * unit) break;
    }
    return { pose, ...this.likeness(pyramid, pose) };
  }

  /** How alike the picture at a pose is, -1 to 1 (correlation), and the part of the patch that is in it and fits. */
  private likeness(pyramid: Pyramid, pose: Pose): Likeness {
    const read = this.readAt(pyramid, pose);
    const fit = fitted(this.values, read);
    let count = 0;
    if (fit)
      for (let i = 0; i < read.length; i++) {
        const v = read[i]!;
        if (v === v && abs((v - fit.mean) * fit.gain - this.values[i]!) < OUTLIER) count++;
      }
    const fits = count / read.length;
    const alike = this.correlation(read);
    return { alike: fit && fits > MOSTLY ? max(alike, this.correlation(read, fit)) : alike, fits };
  }

  /** What is seen at a pose; good until the next time. */
  private readAt(pyramid: Pyramid, pose: Pose): Float32Array {
    this.sample(pyramid[this.level]!, pose, this.read);
    return this.read;
  }

  /** How alike what was read is, -1 to 1; -1 where too little of it lies in the picture. With a fit, of what fits. */
  private correlation(read: Float32Array, fit?: Fit): number {
    const { values } = this;
    let [n, sa, sb, aa, bb, ab] = [0, 0, 0, 0, 0, 0];
    for (let i = 0; i < read.length; i++) {
      const [a, v] = [values[i]!, read[i]!];
      if (v !== v || (fit && !(abs((v - fit.mean) * fit.gain - a) < OUTLIER))) continue;
      n++;
      sa += a;
      sb += v;
      aa += a * a;
      bb += v * v;
      ab += a * v;
    }
    if (n < LEAST_INSIDE * read.length) return -1;
    const spread = (aa - (sa * sa) / n) * (bb - (sb * sb) / n);
    return spread > 1e-6 * n * n ? (ab - (sa * sb) / n) / sqrt(spread) : -1;
  }

  /** Best places for the patch as it is at `pose`, looked for within `radius` pixels of it; the best one first. */
  seek(pyramid: Pyramid, pose: Pose, radius: number, most = 1): (Pose & { readonly alike: number })[] {
    const unit = 2 ** this.level;
    const reach = ceil(radius / unit);
    const { width, height } = pyramid[this.level]!;
    const found: (Pose & { alike: number })[] = [];
    for (let dy = -reach; dy <= reach; dy++)
      for (let dx = -reach; dx <= reach; dx++) {
        const at = { ...pose, x: pose.x + dx * unit, y: pose.y + dy * unit };
        if (at.x < 0 || at.y < 0 || at.x > width * unit || at.y > height * unit) continue;
        const alike = this.correlation(this.readAt(pyramid, at));
        const near = found.findIndex((f) => abs(f.x - at.x) <= 2 * unit && abs(f.y - at.y) <= 2 * unit);
        if (near >= 0) {
          if (found[near]!.alike >= alike) continue;
          found.splice(near, 1);
        }
        found.push({ ...at, alike });
        found.sort((a, b) => b.alike - a.alike);
        if (found.length > most + 1) found.pop();
      }
    return found.slice(0, most + 1);
  }
}

export interface Likeness {
  readonly alike: number;
  readonly fits: number;
}
export interface Found extends Likeness {
  readonly pose: Pose;
}

/** A pose after a step the patch itself would have to take, taken back. */
function stepped(pose: Pose, dx: number, dy: number, larger: number, turned: number): Pose {
  // The step as a + ib: (1 + larger) + i turned, and its inverse.
  const [a, b] = [1 + larger, turned];
  const whole = a * a + b * b;
  const turn = (pose.turn * PI) / 180;
  const [c, s] = [cos(turn) * pose.size, sin(turn) * pose.size];
  const [ia, ib] = [a / whole, -b / whole];
  // The middle goes where the inverse step takes it.
  const [mx, my] = [-(ia * dx - ib * dy), -(ib * dx + ia * dy)];
  return {
    x: pose.x + c * mx - s * my,
    y: pose.y + s * mx + c * my,
    size: pose.size * hypot(ia, ib),
    turn: pose.turn + (Math.atan2(ib, ia) * 180) / PI,
  };
}

/** Solves a small symmetric system by elimination; undefined where it has no solution. */
function solved(h: Float64Array, b: Float64Array, n: number): Float64Array | undefined {
  const m = Float64Array.from(h);
  const x = Float64Array.from(b);
  for (let k = 0; k < n; k++) {
    const pivot = m[5 * k]!;
    if (!(abs(pivot) > 1e-12)) return undefined;
    for (let r = k + 1; r < n; r++) {
      const f = m[4 * r + k]! / pivot;
      for (let c = k; c < n; c++) m[4 * r + c]! -= f * m[4 * k + c]!;
      x[r]! -= f * x[k]!;
    }
  }
  for (let k = n - 1; k >= 0; k--) {
    for (let c = k + 1; c < n; c++) x[k]! -= m[4 * k + c]! * x[c]!;
    x[k]! /= m[5 * k]!;
  }
  return x;
}
