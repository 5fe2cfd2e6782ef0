import { frameAndFraction } from '@skipback/core/clip/frame-table';
import type { CompiledProject } from '@skipback/core/project/compile';
import { type SegmentKind, kindOf, sourceAt, speedAt } from '@skipback/core/path/segment';
import { type Frame, frame, framesBefore, seconds } from '@skipback/core/time/units';

/** One segment as the weave shows it: from a stretch of source frames to a stretch of result frames. */
export interface Ribbon {
  readonly pieceId: string;
  readonly clipId: string;
  /** Its place in its piece. */
  readonly index: number;
  /** Result frame its piece begins with. */
  readonly pieceStart: Frame;
  readonly kind: SegmentKind;
  /** Mean speed, negative backward. */
  readonly speed: number;
  /** Source frames, with fractions, at the segment's ends. */
  readonly sourceFrom: number;
  readonly sourceTo: number;
  /** Result positions at its ends: frames, with fractions. */
  readonly resultFrom: number;
  readonly resultTo: number;
  /** The source frame, with fraction, at a result frame of this segment. */
  sourceAtResult(resultFrame: number): number;
  /** The speed there. */
  speedAtResult(resultFrame: number): number;
}

/** All segments of the result, in order. */
export function ribbonsOf(project: CompiledProject): Ribbon[] {
  return project.pieces.flatMap(({ startFrame, compiled }) => {
    let at: number = startFrame;
    const { rate } = compiled.path;
    return compiled.path.segments.map((segment, index): Ribbon => {
      const resultFrom = at;
      at += segment.length;
      const frames = (s: number) => frameAndFraction(compiled.table, seconds(s));
      return {
        pieceId: compiled.piece.id,
        clipId: compiled.clip.id,
        index,
        pieceStart: startFrame,
        kind: kindOf(segment),
        speed: speedAt(segment, segment.length / 2, rate),
        sourceFrom: frames(segment.from),
        sourceTo: frames(segment.to),
        resultFrom,
        resultTo: at,
        speedAtResult: (r) => speedAt(segment, r - resultFrom, rate),
        sourceAtResult: (r) => frames(sourceAt(segment, r - resultFrom, rate)),
      };
    });
  });
}

/** Speed, kind and source frame at a result frame. */
export function ribbonAt(ribbons: readonly Ribbon[], resultFrame: number): Ribbon | undefined {
  let low = 0;
  let high = ribbons.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (ribbons[middle]!.resultFrom <= resultFrame) low = middle;
    else high = middle - 1;
  }
  return ribbons[low];
}

/**
 * How far across a thread is, 0 to 1, at height `v` (0 top, 1 bottom). Threads are Bezier curves whose
 * control points lie at half height, so the height is 1.5 t - 1.5 t² + t³ and the way across 3 t² - 2 t³.
 */
export function ease(v: number): number {
  let low = 0;
  let high = 1;
  for (let i = 0; i < 20; i++) {
    const t = (low + high) / 2;
    if (t * (1.5 - t * (1.5 - t)) < v) low = t;
    else high = t;
  }
  return low * low * (3 - 2 * low);
}

/** The ribbon under a point between the strips, topmost first; `v` as in `ease`. */
export function ribbonUnder(
  ribbons: readonly Ribbon[],
  x: number,
  v: number,
  sourceX: (frame: number) => number,
  resultX: (frame: number) => number,
): Ribbon | undefined {
  const e = ease(v);
  return ribbons.findLast((r) => {
    const a = sourceX(r.sourceFrom) * (1 - e) + resultX(r.resultFrom) * e;
    const b = sourceX(r.sourceTo) * (1 - e) + resultX(r.resultTo) * e;
    return x >= Math.min(a, b) && x <= Math.max(a, b);
  });
}

/** Places along a ribbon that are looked at when one is searched. */
const SAMPLES = 96;

/**
 * The result frame whose thread in a ribbon is nearest to a point between the strips; `v` as in `ease`. A ribbon too
 * short to show a frame of its own gives the one it lies in.
 */
export function frameUnder(
  ribbon: Ribbon,
  x: number,
  v: number,
  sourceX: (frame: number) => number,
  resultX: (frame: number) => number,
): Frame {
  const e = ease(v);
  // Ribbons have real lengths; the frames they show are those whose middles lie in them.
  const [first, end] = [framesBefore(ribbon.resultFrom), framesBefore(ribbon.resultTo)];
  const step = Math.max(1, Math.ceil((end - first) / SAMPLES));
  let best: number = Math.max(0, Math.floor(ribbon.resultFrom));
  let least = Infinity;
  for (let r: number = first; r < end; r += step) {
    const at = sourceX(ribbon.sourceAtResult(r + 0.5)) * (1 - e) + resultX(r + 0.5) * e;
    if (Math.abs(at - x) < least) [best, least] = [r, Math.abs(at - x)];
  }
  return frame(best);
}
