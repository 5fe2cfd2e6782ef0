import { MOST_POINTS, type HeldPoint as CurvePoint } from '../moves/curve';

/**
 * Changes of a drawn curve. Points are in order of `at`; the first stands at result frame 0. `chosen` are
 * places in the list. Each change gives a new list, and the places of the chosen points in it.
 */
export interface CurveEdit {
  readonly points: readonly CurvePoint[];
  readonly chosen: readonly number[];
}

/** Source frames, counted from where the curve begins, that a point may stand at. */
export interface SourceLimits {
  readonly lowest: number;
  readonly highest: number;
}

/** Source frames up to which two points at one result frame are a turn shown once, not a jump. */
const TURN = 2.01;

/** The points that belong together with one: itself, and the other side of a turn shown once. */
export function cluster(points: readonly CurvePoint[], place: number): number[] {
  const p = points[place]!;
  return [place - 1, place, place + 1].filter((i) => {
    const other = points[i];
    return other && (i === place || (other.at === p.at && Math.abs(other.source - p.source) <= TURN));
  });
}

/** Adds a point; a curve at its limit stays as it is. */
export function addPoint(points: readonly CurvePoint[], point: CurvePoint): CurveEdit {
  if (points.length >= MOST_POINTS || point.at <= 0) return { points, chosen: [] };
  const place = points.findIndex((p) => p.at > point.at);
  const at = place < 0 ? points.length : place;
  return { points: points.toSpliced(at, 0, point), chosen: [at] };
}

/** Takes points away; the two ends stay. */
export function removePoints(points: readonly CurvePoint[], chosen: readonly number[]): CurveEdit {
  const kept = points.filter((_, i) => i === 0 || i === points.length - 1 || !chosen.includes(i));
  return { points: kept, chosen: [] };
}

/**
 * Moves points by result frames and source frames, as far as they can go: not past the points that stay,
 * not off the clip; the first stays at result frame 0. The whole group goes as far as its most hindered point.
 */
export function movePoints(
  points: readonly CurvePoint[],
  chosen: readonly number[],
  byFrames: number,
  bySource: number,
  limits: SourceLimits,
): CurveEdit {
  if (chosen.length === 0) return { points, chosen };
  const moves = new Set(chosen);
  let least = -Infinity;
  let most = Infinity;
  let lower = -Infinity;
  let upper = Infinity;
  for (const i of chosen) {
    const p = points[i]!;
    if (p.at === 0) [least, most] = [0, 0];
    const before = points[i - 1];
    const after = points[i + 1];
    if (before && !moves.has(i - 1)) least = Math.max(least, before.at + 1 - p.at);
    if (after && !moves.has(i + 1)) most = Math.min(most, after.at - 1 - p.at);
    lower = Math.max(lower, limits.lowest - p.source);
    upper = Math.min(upper, limits.highest - p.source);
  }
  const hold = (value: number, low: number, high: number) =>
    low > high ? 0 : Math.min(high, Math.max(low, value));
  const dx = hold(Math.round(byFrames), Math.min(0, least), Math.max(0, most));
  const dy = hold(bySource, Math.min(0, lower), Math.max(0, upper));
  return {
    points: points.map((p, i) => (moves.has(i) ? { ...p, at: p.at + dx, source: p.source + dy } : p)),
    chosen,
  };
}

/**
 * Stretches chosen points in time around the first of them, by `factor`; everything after the last goes
 * along, so nothing is lost.
 */
export function scalePoints(
  points: readonly CurvePoint[],
  chosen: readonly number[],
  factor: number,
): CurveEdit {
  const first = points[Math.min(...chosen)];
  const last = points[Math.max(...chosen)];
  if (!first || !last || last.at === first.at) return { points, chosen };
  const range = points.filter((p) => p.at >= first.at && p.at <= last.at);
  const length = Math.max(
    new Set(range.map((p) => p.at)).size - 1,
    Math.round((last.at - first.at) * factor),
  );
  const grown = length - (last.at - first.at);
  let lastAt = first.at;
  let lastOld = first.at;
  return {
    points: points.map((p) => {
      if (p.at <= first.at) return p;
      if (p.at > last.at) return { ...p, at: p.at + grown };
      const scaled = Math.round(first.at + ((p.at - first.at) * length) / (last.at - first.at));
      // Whole frames must not make two points one, nor part a jump.
      const at = p.at === lastOld ? lastAt : Math.max(lastAt + 1, scaled);
      [lastAt, lastOld] = [at, p.at];
      return { ...p, at };
    }),
    chosen,
  };
}

/**
 * Puts copied points in from result frame `at` on, their distances kept. Points they cover make room; one
 * earlier point put in later makes the picture go back there. Past the end it makes the result longer.
 */
export function pastePoints(
  points: readonly CurvePoint[],
  copied: readonly CurvePoint[],
  at: number,
): CurveEdit {
  if (copied.length === 0 || points.length + copied.length > MOST_POINTS) return { points, chosen: [] };
  const offset = Math.max(1, at) - copied[0]!.at;
  const put = copied.map((p) => ({ ...p, at: p.at + offset }));
  const [from, to] = [put[0]!.at, put[put.length - 1]!.at];
  const before = points.filter((p) => p.at < from);
  const after = points.filter((p) => p.at > to);
  return { points: [...before, ...put, ...after], chosen: put.map((_, i) => before.length + i) };
}

/** Sets how soft the chosen points are, in result frames, on either side. */
export function softenPoints(
  points: readonly CurvePoint[],
  chosen: readonly number[],
  soft: { readonly before?: number; readonly after?: number },
): CurveEdit {
  const held = (n: number) => Math.min(10_000, Math.max(0, Math.round(n)));
  return {
    points: points.map((p, i) =>
      chosen.includes(i)
        ? {
            ...p,
            ...(soft.before !== undefined && { before: held(soft.before) }),
            ...(soft.after !== undefined && { after: held(soft.after) }),
          }
        : p,
    ),
    chosen,
  };
}
