import { z } from 'zod';
import {
  type FrameTable,
  durationOf,
  frameAt,
  frameCount,
  frameDurationAt,
  shotOf,
  startOf,
} from '../clip/frame-table';
import { frame, seconds } from '../time/units';

/**
 * How a picture is made at an instant between two source frames: the frame whose interval holds it, both mixed, or
 * both moved along the motion between them.
 */
export const BetweenSchema = z.enum(['repeat', 'mix', 'flow']);
export type Between = z.infer<typeof BetweenSchema>;

/** Degrees a shutter may be open: twice a frame's length. */
export const WIDEST_SHUTTER = 720;

/** Source frames that go into one picture, ascending, and how much each has of it; one alone where it is not the one shown. */
export interface Gather {
  readonly frames: readonly number[];
  /** In `WHOLE` parts, each at least 1, together exactly that. */
  readonly weights: readonly number[];
  /**
   * Instants of pictures along the motion whose mean it is, in 32768ths of a frame from the first of `frames`, which
   * then lie in a row; `weights` are for where the motion is not known.
   */
  readonly along?: readonly number[];
  /** The source whose frames they are (`broughtId`); missing for the picture's own. */
  readonly of?: string;
}

/** Frames of a clip [from, to): between each of them and the next, what would be flow is mixed. */
export interface MixedStretch {
  readonly from: number;
  readonly to: number;
}

/** What a picture is made of, in a text: equal texts, equal pictures; `from` is added to its frames. */
export const gatherKey = ({ frames, weights, along }: Gather, from = 0): string =>
  `${frames.map((f) => from + f).join()}:${weights.join()}${along ? `:${along.join()}` : ''}`;

/** What the weights of a picture come to. */
export const WHOLE = 32_768;

/** Frames gathered at most; of a longer window that many, evenly spread. */
export const MOST_GATHERED = 64;

/** Pictures along the motion that one is the mean of: to a whole frame of the window, and at least. */
const ALONG_A_FRAME = 16;
const FEWEST_ALONG = 4;

/** Parts of a frame below which it has none of a picture. */
const NOTHING = 1e-6;

/**
 * The source frames of the picture at an instant, `speed` source seconds a result second, at so many pictures a
 * second; undefined where it is the frame shown there, as it is.
 *
 * A frame's picture stands for the middle of its interval. Where the shutter's window, `speed * angle / 360`
 * pictures long, is longer than a frame, it is the mean over the window, by how much of it each frame covers. Of
 * what lies outside the clip nothing is taken, and the weights are scaled to come to the whole. Nor of another shot:
 * over a cut the nearer frame stands.
 */
export function gatherAt(
  table: FrameTable,
  at: number,
  speed: number,
  { between, shutter, mixed }: Making,
  rateHz: number,
): Gather | undefined {
  const n = frameAt(table, seconds(at));
  const frameS = frameDurationAt(table, n);
  const window = (Math.abs(speed) * shutter) / 360 / rateHz;
  const shot = shotOf(table, n);
  if (window > frameS * (1 + NOTHING)) return over(table, at - window / 2, at + window / 2, shot);
  if (between === 'repeat') return undefined;
  const place = (instant: number) => within(shot, placeOf(table, instant));
  if (between === 'mix') return made([place(at)]);
  const samples =
    window > NOTHING * frameS
      ? Math.max(FEWEST_ALONG, Math.ceil((ALONG_A_FRAME * window) / frameS - NOTHING))
      : 1;
  const places = Array.from({ length: samples }, (_, i) => place(at + window * ((i + 0.5) / samples - 0.5)));
  return made(places, mixed ?? []);
}

/** Frames [first, end) of a clip. */
interface Shot {
  readonly first: number;
  readonly end: number;
}

/** A place no farther than a shot's first and last frame. */
const within = ({ first, end }: Shot, place: number): number => Math.min(end - 1, Math.max(first, place));

/** How pictures are made: between frames, over how many degrees of a picture's time, and where flow is mixed. */
interface Making {
  readonly between: Between;
  readonly shutter: number;
  readonly mixed?: readonly MixedStretch[];
}

/**
 * An instant as a place in the clip's row of frames: n on the middle of the n-th, n + s on the way from there to the
 * next middle; no farther than the first and last middle.
 */
function placeOf(table: FrameTable, at: number): number {
  const n = frameAt(table, seconds(Math.min(Math.max(0, at), durationOf(table))));
  const middle = (f: number) => startOf(table, frame(f)) + frameDurationAt(table, frame(f)) / 2;
  const off = at - middle(n);
  if (Math.abs(off) < NOTHING * frameDurationAt(table, n)) return n;
  const first = off < 0 ? n - 1 : n;
  if (first < 0) return 0;
  if (first + 1 >= frameCount(table)) return frameCount(table) - 1;
  return first + (at - middle(first)) / (middle(first + 1) - middle(first));
}

/** One frame of a clip as it is. */
export const wholeFrame = (frame: number): Gather => ({ frames: [frame], weights: [WHOLE] });

/** The picture of a frame smeared along the motion over so many frames of its shot around it. */
export function smearedAlong(frame: number, over: number, shot: Shot): Gather {
  const samples = Math.min(ALONG_A_FRAME, Math.max(FEWEST_ALONG, Math.ceil(FEWEST_ALONG * over)));
  const places = Array.from({ length: samples }, (_, i) =>
    within(shot, frame + over * ((i + 0.5) / samples - 0.5)),
  );
  return made(places, []) ?? wholeFrame(frame);
}

/** The mean of pictures at places between frames: along the motion but in `mixed` stretches, if those are given. */
function made(places: readonly number[], mixed?: readonly MixedStretch[]): Gather | undefined {
  const first = Math.floor(Math.min(...places));
  const last = Math.ceil(Math.max(...places));
  const frames = Array.from({ length: last - first + 1 }, (_, i) => first + i);
  const parts = frames.map((f) => places.reduce((sum, p) => sum + Math.max(0, 1 - Math.abs(p - f)), 0));
  const gather = weighed(frames, parts);
  const moves = mixed && !mixed.some((m) => last > m.from && first < m.to);
  if (!gather || !moves || gather.frames.length < frames.length) return gather;
  return { ...gather, along: places.map((p) => Math.round((p - first) * WHOLE)) };
}

/**
 * How far a picture by flow is moved in time, source seconds: at a steady speed of a k-th of a frame a picture by so
 * much that every k-th is a source frame as it is, the same forward and backward; 0 at all other speeds.
 */
export function flowShift(table: FrameTable, at: number, speed: number, rateHz: number): number {
  const n = frameAt(table, seconds(at));
  const frameS = frameDurationAt(table, n);
  const step = Math.abs(speed) / rateHz;
  const k = Math.round(frameS / step);
  if (!(step > 0) || k < 2 || Math.abs(frameS / step - k) > 1e-4) return 0;
  const off = (startOf(table, n) + frameS / 2 - at) / step;
  const on = off - Math.floor(off);
  return (on > 0.5 + 1e-4 ? on - 1 : on) * step;
}

/** The mean over [from, to), by how much of it each frame of the shot covers. */
function over(table: FrameTable, from: number, to: number, shot: Shot): Gather | undefined {
  const first = within(shot, frameAt(table, seconds(Math.max(0, from))));
  const last = within(shot, frameAt(table, seconds(Math.min(durationOf(table), to))));
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
