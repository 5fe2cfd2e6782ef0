import { roundHalfUp, seconds } from '../time/units';
import { type TimePath, instantAt, pathFrames } from './path';
import { type Rational, toNumber } from '../time/rational';
import { type Segment, cutTo, speedAt } from './segment';

/**
 * A change of pace: at `time` frames of the new result the old result stands at `old` frames and runs
 * at `pace` old frames a new frame. Between knots the pace changes evenly. Knots ascend in both.
 */
export interface Knot {
  readonly time: number;
  readonly old: number;
  readonly pace: number;
}

/** A stretch from one pace to another, either for so many old frames or so many new ones. */
export type Stretch = { readonly from: number; readonly to: number } & (
  { readonly old: number } | { readonly time: number }
);

/** Knots from stretches, each from one pace to another, either for so many old frames or so many new ones. */
export function knotsOf(stretches: readonly Stretch[]): Knot[] {
  let time = 0;
  let old = 0;
  const knots: Knot[] = [];
  for (const stretch of stretches) {
    const mean = (stretch.from + stretch.to) / 2;
    const lasts = 'time' in stretch ? stretch.time : stretch.old / mean;
    if (lasts <= 1e-9) continue;
    knots.push({ time, old, pace: stretch.from });
    time += lasts;
    old += lasts * mean;
    knots.push({ time, old, pace: stretch.to });
  }
  return knots;
}

/**
 * The path played along the knots, from old frame 0 up to the last knot or the path's own end. Each old
 * join and each knot becomes a join on the nearest whole frame (at least one frame apart), so the source
 * stays covered without gaps; speeds are scaled to the whole frames.
 */
export function warpPath(path: TimePath, knots: readonly Knot[]): TimePath {
  const end = pathFrames(path);
  const joins: { at: number; cut: boolean }[] = [];
  let sum = 0;
  for (const segment of path.segments) {
    joins.push({ at: sum, cut: segment.cutBefore === true });
    sum += segment.frames;
  }
  const segments: Segment[] = [];
  let exact = 0;
  let whole = 0;
  for (let i = 0; i + 1 < knots.length; i += 2) {
    const a = knots[i]!;
    const b = knots[i + 1]!;
    const stops = joins
      .map((j) => j.at)
      .filter((at) => at > a.old + 1e-6 && at < Math.min(b.old, end) - 1e-6);
    const marks = [a.old, ...stops, Math.min(b.old, end)];
    for (let k = 0; k + 1 < marks.length; k++) {
      const from = marks[k]!;
      const to = marks[k + 1]!;
      if (to - from <= 1e-9) continue;
      exact += timeAt(a, b, to) - timeAt(a, b, from);
      const frames = Math.max(1, roundHalfUp(exact) - whole);
      const lasts = timeAt(a, b, to) - timeAt(a, b, from);
      const fitted = lasts / frames;
      const segment: Segment = {
        frames,
        from: seconds(instantJustAfter(path, from)),
        to: seconds(instantAt(path, to)),
        speedIn: oldSpeed(path, from, true) * paceAt(a, b, from) * fitted || 0,
        speedOut: oldSpeed(path, to, false) * paceAt(a, b, to) * fitted || 0,
      };
      const steady = keepMonotone(segment, path.rate);
      const cut = joins.some((j) => j.cut && Math.abs(j.at - from) < 1e-6);
      segments.push(cut ? cutTo(steady) : steady);
      whole += frames;
    }
  }
  return { rate: path.rate, segments };
}

/** Pace when the old result stands at `old`, between two knots: v² = v0² + 2 a s. */
function paceAt(a: Knot, b: Knot, old: number): number {
  const share = b.old === a.old ? 0 : (old - a.old) / (b.old - a.old);
  return Math.sqrt(Math.max(0, a.pace ** 2 + share * (b.pace ** 2 - a.pace ** 2)));
}

/** New frames from the first knot until the old result stands at `old`. */
function timeAt(a: Knot, b: Knot, old: number): number {
  return (2 * (old - a.old)) / Math.max(1e-12, a.pace + paceAt(a, b, old));
}

function segmentHolding(path: TimePath, at: number, after: boolean): { segment: Segment; start: number } {
  let start = 0;
  for (const segment of path.segments) {
    const end = start + segment.frames;
    if (after ? at < end - 1e-9 : at <= end + 1e-9) return { segment, start };
    start = end;
  }
  const segment = path.segments[path.segments.length - 1]!;
  return { segment, start: start - segment.frames };
}

function oldSpeed(path: TimePath, at: number, after: boolean): number {
  const { segment, start } = segmentHolding(path, at, after);
  return speedAt(segment, Math.min(segment.frames, Math.max(0, at - start)), path.rate);
}

/** The instant at a join as the segment after it has it: where a path jumps, the two differ. */
function instantJustAfter(path: TimePath, at: number): number {
  const { segment, start } = segmentHolding(path, at, true);
  return Math.abs(at - start) < 1e-9 ? segment.from : instantAt(path, at);
}

/** End speeds limited so that the cubic never turns back or overshoots (Fritsch and Carlson 1980). */
function keepMonotone(segment: Segment, rate: Rational): Segment {
  const mean = (segment.to - segment.from) / (segment.frames / toNumber(rate));
  const limit = (speed: number) =>
    Math.sign(speed) === Math.sign(mean)
      ? Math.sign(mean) * Math.min(Math.abs(speed), 3 * Math.abs(mean))
      : 0;
  return { ...segment, speedIn: limit(segment.speedIn), speedOut: limit(segment.speedOut) };
}
