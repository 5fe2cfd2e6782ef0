import { type FrameTable, meanRateHz } from '../clip/frame-table';
import { toNumber } from '../time/rational';
import { seconds } from '../time/units';
import type { TimePath } from './path';
import { type Segment, isEven, sourceAt, speedAt } from './segment';

/**
 * A change of pace: at `time` frames of the new result the old result stands at `old` frames and runs
 * at `pace` old frames a new frame. Between knots the pace changes evenly. Knots ascend in both.
 */
export interface Knot {
  readonly time: number;
  readonly old: number;
  readonly pace: number;
  /** Which part of a move it is the beginning of. */
  readonly part?: number | undefined;
}

/** A stretch from one pace to another, either for so many old frames or so many new ones. */
export type Stretch = { readonly from: number; readonly to: number; readonly part?: number | undefined } & (
  | { readonly old: number }
  | { readonly time: number }
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
    knots.push({ time, old, pace: stretch.from, part: stretch.part });
    time += lasts;
    old += lasts * mean;
    knots.push({ time, old, pace: stretch.to });
  }
  return knots;
}

/** Stretches of an old path shorter than this, in frames, are left out. */
const NOTHING = 1e-7;
/** How far, in source frames, a new segment may be from the exact composition. */
const CLOSE = 0.002;
const MOST_HALVINGS = 6;

/**
 * The path played along the knots, from old frame 0 up to the last knot or the path's own end: the exact
 * composition. Old joins and knots become joins wherever they fall; a stretch whose speed changes already is
 * cut as finely as it needs to lie within two thousandths of a source frame. Cost grows with the segments.
 */
export function warpPath(path: TimePath, knots: readonly Knot[], table?: FrameTable): TimePath {
  const { rate } = path;
  const frameS = table ? 1 / meanRateHz(table) : 1 / toNumber(rate);
  const segments: Segment[] = [];
  let index = 0;
  let start = 0;
  for (let i = 0; i + 1 < knots.length; i += 2) {
    const [a, b] = [knots[i]!, knots[i + 1]!];
    let from = a.old;
    while (index < path.segments.length) {
      const old = path.segments[index]!;
      const end = start + old.length;
      const to = Math.min(b.old, end);
      if (to - from > NOTHING) {
        const composing = composed(old, from - start, to - start, { a, b, start }, rate, frameS);
        const begins = from - start <= NOTHING;
        const ends = end - to <= NOTHING;
        segments.push(
          ...composing.map((segment, k) =>
            keepEnds(segment, old, begins && k === 0, ends && k === composing.length - 1, a.part),
          ),
        );
      }
      if (end > b.old + NOTHING) break;
      from = Math.max(from, end);
      start = end;
      index++;
    }
  }
  return { rate, segments: segments.length > 0 ? segments : path.segments.slice(0, 1) };
}

/** What an old segment knew of its ends, kept by the new ones that have them. */
function keepEnds(
  segment: Segment,
  old: Segment,
  begins: boolean,
  ends: boolean,
  part: number | undefined,
): Segment {
  return {
    ...segment,
    ...(old.stands !== undefined && { stands: (old.stands * old.length) / Math.max(1e-9, segment.length) }),
    maker: old.maker,
    part: part ?? old.part,
    ...(begins && old.cutBefore && { cutBefore: true as const }),
    ...(begins && old.turnIn !== undefined && { turnIn: old.turnIn }),
    ...(ends && old.turnOut !== undefined && { turnOut: old.turnOut }),
  };
}

/** The pace between two knots, and where the old segment begins among the old frames. */
interface Pacing {
  readonly a: Knot;
  readonly b: Knot;
  readonly start: number;
}

/** Positions [from, to] of an old segment at the pace between two knots. */
function composed(
  old: Segment,
  from: number,
  to: number,
  pacing: Pacing,
  rate: TimePath['rate'],
  frameS: number,
  halvings = 0,
): Segment[] {
  const { a, b, start } = pacing;
  const [begin, end] = [timeAt(a, b, start + from), timeAt(a, b, start + to)];
  const segment: Segment = {
    length: end - begin,
    from: from <= NOTHING ? old.from : seconds(sourceAt(old, from, rate)),
    to: old.length - to <= NOTHING ? old.to : seconds(sourceAt(old, to, rate)),
    speedIn: speedAt(old, from, rate) * paceAt(a, b, start + from) || 0,
    speedOut: speedAt(old, to, rate) * paceAt(a, b, start + to) || 0,
  };
  // Even speed at a pace that changes evenly is a cubic, and so is any cubic at one pace.
  if (isEven(old, rate) || Math.abs(a.pace - b.pace) < 1e-12 || halvings === MOST_HALVINGS) return [segment];
  const off = [0.25, 0.5, 0.75].some((share) => {
    const exact = sourceAt(old, oldAt(a, b, begin + segment.length * share) - start, rate);
    return Math.abs(sourceAt(segment, segment.length * share, rate) - exact) > CLOSE * frameS;
  });
  if (!off) return [segment];
  const middle = oldAt(a, b, (begin + end) / 2) - start;
  return [
    ...composed(old, from, middle, pacing, rate, frameS, halvings + 1),
    ...composed(old, middle, to, pacing, rate, frameS, halvings + 1),
  ];
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

/** Old frames at which the old result stands `time` new frames after the first knot. */
function oldAt(a: Knot, b: Knot, time: number): number {
  const lasts = b.time - a.time;
  return a.old + a.pace * time + ((b.pace - a.pace) * time * time) / (2 * Math.max(1e-12, lasts));
}
