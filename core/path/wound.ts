import type { FrameTable } from '../clip/frame-table';
import { type TimePath, instantAt, joinPaths, pathLength, reversePath, slicePath } from './path';
import { holdSegment } from './segment';
import { warpPath } from './warp';

/** A stretch that runs from one pace to another in so many frames; below 0 backward, 0 stands still. */
export interface Winding {
  readonly from: number;
  readonly to: number;
  readonly time: number;
  readonly part: number;
}

/**
 * A path wound forward and backward: each stretch goes on from where the one before stopped, in old frames. At the
 * ends of what there is it waits; `waited` is for how many frames.
 */
export function windPath(
  path: TimePath,
  windings: readonly Winding[],
  table?: FrameTable,
): { path: TimePath; waited: number } {
  const { rate } = path;
  const total = pathLength(path);
  const parts: TimePath[] = [];
  let at = 0;
  let waited = 0;
  const still = (time: number, part: number) => {
    const segment = { ...holdSegment(time, instantAt(path, at)), maker: makerAt(path, at), part };
    parts.push({ rate, segments: [segment] });
  };
  for (const { from, to, time, part } of windings.flatMap(oneWay)) {
    if (time <= 1e-9) continue;
    const moves = ((from + to) / 2) * time;
    if (Math.abs(moves) <= 1e-9) {
      still(time, part);
      continue;
    }
    const end = Math.min(total, Math.max(0, at + moves));
    const [low, high] = [Math.min(at, end), Math.max(at, end)];
    let lasts = 0;
    if (high - low > 1e-9) {
      const old = slicePath(path, low, high);
      const knots = [
        { time: 0, old: 0, pace: Math.abs(from), part },
        { time, old: Math.abs(moves), pace: Math.abs(to) },
      ];
      const made = warpPath(moves > 0 ? old : reversePath(old), knots, table);
      parts.push(made);
      lasts = pathLength(made);
      at = end;
    }
    if (time - lasts > 1e-6) {
      waited += time - lasts;
      still(time - lasts, part);
    }
  }
  return { path: parts.length > 0 ? joinPaths(rate, parts) : path, waited };
}

/** A stretch as stretches that go one way each. */
function oneWay(winding: Winding): Winding[] {
  const { from, to, time } = winding;
  if (from * to >= 0) return [winding];
  const turn = (time * from) / (from - to);
  return [
    { ...winding, to: 0, time: turn },
    { ...winding, from: 0, time: time - turn },
  ];
}

function makerAt(path: TimePath, at: number) {
  let start = 0;
  for (const segment of path.segments) {
    start += segment.length;
    if (at < start) return segment.maker;
  }
  return path.segments[path.segments.length - 1]!.maker;
}
