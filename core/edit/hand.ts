import type { CurvePoint } from '../moves/curve';

/** A moment of a gesture: seconds since it began, and the source frame under the hand, with fractions. */
export interface HandSample {
  readonly atS: number;
  readonly source: number;
}

/** How far, in source frames, a simplified gesture may be from the hand. */
const CLOSE = 0.75;

/** The source frame under the hand at an instant, between two samples. */
function handAt(samples: readonly HandSample[], atS: number): number {
  let i = samples.findIndex((s) => s.atS >= atS);
  if (i < 0) i = samples.length - 1;
  const [a, b] = [samples[i - 1], samples[i]!];
  if (!a || b.atS <= a.atS) return b.source;
  const share = Math.min(1, Math.max(0, (atS - a.atS) / (b.atS - a.atS)));
  return a.source + (b.source - a.source) * share;
}

/**
 * A gesture as points of a curve, one a result frame at first, then only those that matter (Ramer 1972,
 * Douglas and Peucker 1973). `source` counts from source frame `origin`; the first point is at frame 0.
 */
export function pointsOfHand(samples: readonly HandSample[], rateHz: number, origin: number): CurvePoint[] {
  const last = samples[samples.length - 1];
  if (!last) return [];
  const frames = Math.max(1, Math.round(last.atS * rateHz));
  const row = Array.from({ length: frames + 1 }, (_, at) => ({
    at,
    source: handAt(samples, at / rateHz) - origin,
  }));
  const keep = new Set([0, frames]);
  const split = (from: number, to: number): void => {
    let worst = from;
    let most = CLOSE;
    for (let i = from + 1; i < to; i++) {
      const line = row[from]!.source + ((row[to]!.source - row[from]!.source) * (i - from)) / (to - from);
      const off = Math.abs(row[i]!.source - line);
      if (off > most) [worst, most] = [i, off];
    }
    if (worst === from) return;
    keep.add(worst);
    split(from, worst);
    split(worst, to);
  };
  split(0, frames);
  return row
    .filter((p) => keep.has(p.at))
    .map((p) => ({ at: p.at, source: Number(p.source.toFixed(2)), before: 0, after: 0 }));
}

/**
 * The points with their turns put on the nearest of `moments` (result frames, counted as `at` is), where one is
 * within `reach` frames; what lies between two turns is stretched along.
 */
export function tidied(
  points: readonly CurvePoint[],
  moments: readonly number[],
  reach: number,
): CurvePoint[] {
  const turns = points.flatMap((p, i) => {
    const [a, b] = [points[i - 1], points[i + 1]];
    return a && b && (p.source - a.source) * (b.source - p.source) < 0 ? [i] : [];
  });
  const fixed = new Map<number, number>([[0, points[0]?.at ?? 0]]);
  let latest = points[0]?.at ?? 0;
  for (const i of turns) {
    const at = points[i]!.at;
    const near = moments.reduce((best, m) => (Math.abs(m - at) < Math.abs(best - at) ? m : best), Infinity);
    const to = Math.round(Math.abs(near - at) <= reach ? near : at);
    if (to <= latest) continue;
    fixed.set(i, to);
    latest = to;
  }
  const anchors = [...fixed.keys()].sort((a, b) => a - b);
  const end = points.length - 1;
  if (!fixed.has(end)) {
    const before = anchors[anchors.length - 1]!;
    anchors.push(end);
    fixed.set(end, Math.max(latest + 1, fixed.get(before)! + points[end]!.at - points[before]!.at));
  }
  const moved = points.map((p, i) => {
    const next = anchors.find((a) => a >= i)!;
    const last = anchors.findLast((a) => a <= i)!;
    if (next === last) return { ...p, at: fixed.get(i)! };
    const [a, b] = [points[last]!.at, points[next]!.at];
    const share = b === a ? 0 : (p.at - a) / (b - a);
    return { ...p, at: Math.round(fixed.get(last)! + share * (fixed.get(next)! - fixed.get(last)!)) };
  });
  // Whole frames may have made two points one: the later goes.
  return moved.filter((p, i) => i === 0 || p.at > moved[i - 1]!.at);
}

/**
 * A curve with a gesture put in at result frame `at`: what was before stays, what came after follows, from where
 * it was left. Where the hand let go elsewhere, that is a jump that is meant.
 */
export function withGesture(
  points: readonly CurvePoint[],
  gesture: readonly CurvePoint[],
  at: number,
  sourceAt: number,
): CurvePoint[] {
  const length = gesture[gesture.length - 1]?.at ?? 0;
  const before = points.filter((p) => p.at < at);
  const after = points.filter((p) => p.at > at);
  const left = { at, source: sourceAt, before: 0, after: 0 };
  return [
    ...before,
    ...(before.length > 0 ? [left] : []),
    ...gesture.map((p) => ({ ...p, at: p.at + at })),
    ...(after.length > 0 ? [{ ...left, at: at + length }] : []),
    ...after.map((p) => ({ ...p, at: p.at + length })),
  ];
}
