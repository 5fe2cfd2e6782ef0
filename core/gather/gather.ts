import { z } from 'zod';
import {
  type FrameTable,
  durationOf,
  frameAt,
  frameCount,
  frameDurationAt,
  startOf,
} from '../clip/frame-table';
import { frame, seconds } from '../time/units';

/** How a picture is made at an instant between two source frames: the frame whose interval holds it, or both mixed. */
export const BetweenSchema = z.enum(['repeat', 'mix']);
export type Between = z.infer<typeof BetweenSchema>;

/** Degrees a shutter may be open: twice a frame's length. */
export const WIDEST_SHUTTER = 720;

/** Source frames that go into one picture, ascending, and how much each has of it; one alone where it is not the one shown. */
export interface Gather {
  readonly frames: readonly number[];
  /** In `WHOLE` parts, each at least 1, together exactly that. */
  readonly weights: readonly number[];
}

/** What the weights of a picture come to. */
export const WHOLE = 32_768;

/** Frames gathered at most; of a longer window that many, evenly spread. */
export const MOST_GATHERED = 64;

/** Parts of a frame below which it has none of a picture. */
const NOTHING = 1e-6;

/**
 * The source frames of the picture at an instant, `speed` source seconds a result second, at so many pictures a
 * second; undefined where it is the frame shown there, as it is.
 *
 * A frame's picture stands for the middle of its interval. Where the shutter's window, `speed * angle / 360`
 * pictures long, is longer than a frame, it is the mean over the window, by how much of it each frame covers. Of
 * what lies outside the clip nothing is taken, and the weights are scaled to come to the whole.
 */
export function gatherAt(
  table: FrameTable,
  at: number,
  speed: number,
  { between, shutter }: { readonly between: Between; readonly shutter: number },
  rateHz: number,
): Gather | undefined {
  const n = frameAt(table, seconds(at));
  const frameS = frameDurationAt(table, n);
  const window = (Math.abs(speed) * shutter) / 360 / rateHz;
  if (window > frameS * (1 + NOTHING)) return over(table, at - window / 2, at + window / 2);
  return between === 'mix' ? mixed(table, at, n) : undefined;
}

/** The two frames between whose middles an instant lies; undefined on a middle, and beyond the clip's first and last. */
function mixed(table: FrameTable, at: number, n: number): Gather | undefined {
  const middle = (f: number) => startOf(table, frame(f)) + frameDurationAt(table, frame(f)) / 2;
  const off = at - middle(n);
  if (Math.abs(off) < NOTHING * frameDurationAt(table, frame(n))) return undefined;
  const first = off < 0 ? n - 1 : n;
  if (first < 0 || first + 1 >= frameCount(table)) return undefined;
  const share = (at - middle(first)) / (middle(first + 1) - middle(first));
  return weighed([first, first + 1], [1 - share, share]);
}

/** The mean over [from, to), by how much of it each frame covers. */
function over(table: FrameTable, from: number, to: number): Gather | undefined {
  const first = frameAt(table, seconds(Math.max(0, from)));
  const last = frameAt(table, seconds(Math.min(durationOf(table), to)));
  const frames: number[] = [];
  const covered: number[] = [];
  const step = Math.max(1, Math.ceil((last - first + 1) / MOST_GATHERED));
  for (let f: number = first; f <= last; f += step) {
    const start = startOf(table, frame(f));
    const end = startOf(table, frame(f + 1));
    const share = (Math.min(to, end) - Math.max(from, start)) / (end - start);
    if (share < NOTHING) continue;
    frames.push(f);
    covered.push(share * (end - start));
  }
  return frames.length > 1 ? weighed(frames, covered) : undefined;
}

/**
 * Whole weights in the shares' proportion: what rounding leaves goes to those it took most from. Undefined where less
 * than two frames have any.
 */
export function weighed(frames: readonly number[], shares: readonly number[]): Gather | undefined {
  const total = shares.reduce((a, b) => a + b, 0);
  const exact = shares.map((s) => (s / total) * WHOLE);
  const weights = exact.map(Math.floor);
  const missing = WHOLE - weights.reduce((a, b) => a + b, 0);
  const order = exact.map((e, i) => [e - weights[i]!, i] as const).sort((a, b) => b[0] - a[0] || a[1] - b[1]);
  for (const [, i] of order.slice(0, missing)) weights[i]!++;
  const kept = frames.flatMap((f, i) => (weights[i]! > 0 ? [[f, weights[i]!] as const] : []));
  if (kept.length < 2) return undefined;
  return { frames: kept.map((k) => k[0]), weights: kept.map((k) => k[1]) };
}
