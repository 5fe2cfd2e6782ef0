import { type FrameTable, frameAndFraction, frameCount, instantOf, meanRateHz } from '../clip/frame-table';
import { toNumber, type Rational } from '../time/rational';
import { seconds } from '../time/units';
import type { TimePath } from './path';
import { type Segment, cutTo, evenSegment, isEven, sourceAt, speedAt } from './segment';

/**
 * A point of a path drawn by hand: at result position `at` (frames) the path stands at `source` (source frames, with
 * fractions, counted from where the path begins). Over `before` result frames its speed changes
 * towards the point's, over `after` frames away from it; 0 is a sharp bend.
 */
export interface DrawnPoint {
  readonly at: number;
  readonly source: number;
  readonly before: number;
  readonly after: number;
}

/** A place a path goes to, in result frames and source seconds. */
interface Stop {
  readonly at: number;
  readonly instant: number;
  readonly before: number;
  readonly after: number;
}

/** Mean speed between two stops, in source seconds a result frame. */
const chord = (a: Stop, b: Stop): number => (b.instant - a.instant) / (b.at - a.at);

/**
 * Speed at the stop between two stretches that run at `left` and `right`. Soft on both sides it is their
 * weighted harmonic mean, 0 where they turn, so the path never passes beyond its points (Fritsch and
 * Butland 1984); soft on one side only it is the speed of the sharp side.
 */
function speedAtStop(stop: Stop, left: number | undefined, right: number | undefined): number {
  if (left === undefined || right === undefined) return 0;
  if (left * right <= 0) return 0;
  if (stop.before === 0) return left;
  if (stop.after === 0) return right;
  return (2 * left * right) / (left + right);
}

/** The stretch from one stop to the next: a change of speed, an even stretch, a change of speed. */
function stretch(
  a: Stop,
  b: Stop,
  speeds: { readonly a: number; readonly b: number },
  rate: Rational,
): Segment[] {
  const width = b.at - a.at;
  const room = Math.min(1, width / Math.max(1e-9, a.after + b.before));
  const first = Math.floor(a.after * room);
  const last = Math.min(width - first, Math.floor(b.before * room));
  const mean = chord(a, b);
  const limit = (speed: number) =>
    speed * mean <= 0 ? 0 : Math.sign(mean) * Math.min(Math.abs(speed), 2 * Math.abs(mean));
  const begin = limit(speeds.a);
  const end = limit(speeds.b);
  const even = width - first / 2 - last / 2;
  const middle = even <= 0 ? mean : (b.instant - a.instant - (begin * first) / 2 - (end * last) / 2) / even;
  const hz = toNumber(rate);
  const parts = [
    { length: first, from: begin, to: middle },
    { length: width - first - last, from: middle, to: middle },
    { length: last, from: middle, to: end },
  ];
  let at = a.instant;
  return parts
    .filter((p) => p.length > 1e-9)
    .map((p, i, kept) => {
      const to = i === kept.length - 1 ? b.instant : at + ((p.from + p.to) / 2) * p.length;
      const segment: Segment =
        p.from === p.to
          ? evenSegment(p.length, at, to, rate)
          : {
              length: p.length,
              from: seconds(at),
              to: seconds(to),
              speedIn: p.from * hz || 0,
              speedOut: p.to * hz || 0,
            };
      at = to;
      return segment;
    });
}

/**
 * The path through points, in order of `at`, from the first to the last. Two points at one frame are a
 * jump that is meant. `origin` is the source frame that `source` counts from; points beyond the clip are
 * brought to its end, and `outside` counts the frames by which the furthest was. Points that are all at one
 * frame make no path: it has no segments.
 */
export function drawnPath(
  points: readonly DrawnPoint[],
  origin: number,
  table: FrameTable,
  rate: Rational,
): { path: TimePath; outside: number } {
  const count = frameCount(table);
  let outside = 0;
  const stops = points
    .toSorted((a, b) => a.at - b.at)
    .map((p): Stop => {
      const wanted = origin + p.source;
      const inside = Math.min(count, Math.max(0, wanted));
      outside = Math.max(outside, Math.abs(wanted - inside));
      return { at: p.at, instant: instantOf(table, inside), before: p.before, after: p.after };
    });
  const segments: Segment[] = [];
  for (let i = 0; i + 1 < stops.length; i++) {
    const [a, b] = [stops[i]!, stops[i + 1]!];
    if (b.at <= a.at) continue;
    const neighbour = (n: number, m: number) => {
      const [c, d] = [stops[n], stops[m]];
      return c && d && d.at > c.at ? chord(c, d) : undefined;
    };
    const here = chord(a, b);
    const speeds = {
      a: speedAtStop(a, neighbour(i - 1, i), here),
      b: speedAtStop(b, here, neighbour(i + 1, i + 2)),
    };
    const parts = stretch(a, b, speeds, rate);
    const jumps = i > 0 && stops[i - 1]!.at === a.at && stops[i - 1]!.instant !== a.instant;
    const made = parts.map((s) => ({ ...s, part: i }));
    segments.push(...(jumps ? [cutTo(made[0]!), ...made.slice(1)] : made));
  }
  return { path: { rate, segments }, outside };
}

/**
 * How far, in source frames, a straight line may be from what it stands for at the frames that are looked at; between
 * them it is a little more, at most a fifth of a frame.
 */
const CLOSE = 0.15;

/**
 * Points whose path follows a given one: exact where its speed is even, within a fifth of a source
 * frame where it changes. `origin` as in `drawnPath`: the source frame the path begins at.
 */
export function pointsOfPath(path: TimePath, table: FrameTable): { points: DrawnPoint[]; origin: number } {
  const source = (instant: number) => frameAndFraction(table, seconds(instant));
  const origin = source(path.segments[0]!.from);
  const points: DrawnPoint[] = [];
  const add = (at: number, instant: number) => {
    const point = { at, source: source(instant) - origin, before: 0, after: 0 };
    const last = points[points.length - 1];
    if (last && Math.abs(last.at - at) < 1e-6 && Math.abs(last.source - point.source) < 1e-6) return;
    const before = points[points.length - 2];
    // A point on the line between its neighbours says nothing.
    if (last && before && before.at < last.at && last.at < at) {
      const share = (last.at - before.at) / (at - before.at);
      if (Math.abs(before.source + share * (point.source - before.source) - last.source) < 1e-6) points.pop();
    }
    points.push(point);
  };
  let start = 0;
  for (const segment of path.segments) {
    add(start, segment.from);
    for (const at of bends(segment, path.rate, source)) add(start + at, sourceAt(segment, at, path.rate));
    start += segment.length;
    add(start, segment.to);
  }
  return { points, origin };
}

/** Half frames inside a segment at which straight lines through it must bend to stay close. */
function bends(segment: Segment, rate: Rational, source: (instant: number) => number): number[] {
  const at = (frame: number) => source(sourceAt(segment, frame, rate));
  const split = (from: number, to: number): number[] => {
    if (to - from <= 0.5) return [];
    let worst = from;
    let most = 0;
    for (let f = Math.floor(2 * from + 1) / 2; f < to; f += 0.5) {
      const line = at(from) + ((at(to) - at(from)) * (f - from)) / (to - from);
      const off = Math.abs(line - at(f));
      if (off > most) [worst, most] = [f, off];
    }
    return most <= CLOSE ? [] : [...split(from, worst), worst, ...split(worst, to)];
  };
  // A change of speed may be as fast at both ends and through its middle: only an even speed is a straight line.
  return isEven(segment, rate) ? [] : split(0, segment.length);
}

/**
 * The speed that the stretch up to a point runs at in its middle, in shares of real time: what it keeps between its soft
 * ends. Undefined where there is no stretch.
 */
export function speedUpTo(
  points: readonly DrawnPoint[],
  place: number,
  origin: number,
  table: FrameTable,
  rate: Rational,
): number | undefined {
  const [a, b] = [points[place - 1], points[place]];
  if (!a || !b || b.at <= a.at) return undefined;
  const { path } = drawnPath(points, origin, table, rate);
  const mine = path.segments.filter((s) => s.part === place - 1);
  const even = mine.find((s) => isEven(s, rate));
  if (even) return even.speedIn;
  // Soft all over, it is as fast as it gets in its middle.
  let left = (b.at - a.at) / 2;
  for (const segment of mine) {
    if (left <= segment.length) return speedAt(segment, left, rate);
    left -= segment.length;
  }
  return undefined;
}

/** Where a point would stand for the stretch up to it to run at a speed in its middle; `speed` as in `speedUpTo`. */
export function sourceForSpeed(
  points: readonly DrawnPoint[],
  place: number,
  speed: number,
  origin: number,
  table: FrameTable,
  rate: Rational,
): number {
  const at = (source: number) =>
    speedUpTo(points.with(place, { ...points[place]!, source }), place, origin, table, rate) ?? 0;
  const [a, b] = [points[place - 1]!, points[place]!];
  const perSpeed = ((b.at - a.at) * meanRateHz(table)) / toNumber(rate);
  // More source in the same time is faster: halve what lies between, from a span that surely holds it.
  const guess = a.source + speed * perSpeed;
  const reach = Math.max(20, 2 * Math.abs(speed) * perSpeed);
  let [low, high] = [guess - reach, guess + reach];
  for (let i = 0; i < 60; i++) {
    const middle = (low + high) / 2;
    if (at(middle) < speed) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
