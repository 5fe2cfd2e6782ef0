import { type FrameTable, durationOf, frameAt, frameCount, startOf } from '../clip/frame-table';
import { type Rational, toNumber } from '../time/rational';
import { frame, roundHalfUp, seconds } from '../time/units';
import {
  cutTo,
  type Segment,
  evenSegment,
  retimeSegment,
  reverseSegment,
  sourceAt,
  splitSegment,
} from './segment';

/** Result time to source time of one piece: segments in a row at the project's rate. */
export interface TimePath {
  readonly rate: Rational;
  readonly segments: readonly Segment[];
}

/** Result length in frames. */
export function pathFrames(path: TimePath): number {
  return path.segments.reduce((sum, s) => sum + s.frames, 0);
}

/**
 * The path that plays frames [inFrame, outFrame) of a clip once at real time. Both are clamped to
 * the clip and to at least one frame.
 */
export function spanPath(table: FrameTable, inFrame: number, outFrame: number, rate: Rational): TimePath {
  const count = frameCount(table);
  const first = Math.min(Math.max(0, inFrame), count - 1);
  const end = Math.min(Math.max(first + 1, outFrame), count);
  const from = startOf(table, frame(first));
  const to = startOf(table, frame(end));
  const frames = Math.max(1, roundHalfUp((to - from) * toNumber(rate)));
  return { rate, segments: [evenSegment(frames, from, to, rate)] };
}

/** Paths of one rate, one after the other. */
export function joinPaths(rate: Rational, paths: readonly TimePath[]): TimePath {
  return { rate, segments: paths.flatMap((p) => p.segments) };
}

/** The path played the other way; twice gives the path. */
export function reversePath(path: TimePath): TimePath {
  const { segments } = path;
  const reversed = segments.map((segment, i) => {
    const turned = reverseSegment(segment);
    return segments[i + 1]?.cutBefore ? cutTo(turned) : turned;
  });
  return { rate: path.rate, segments: reversed.reverse() };
}

/** The path whose first segment begins with a jump that is meant. */
export function cutToPath(path: TimePath): TimePath {
  const [first, ...rest] = path.segments;
  return first ? { rate: path.rate, segments: [cutTo(first), ...rest] } : path;
}

/** Source instant at result position `at`, fractions allowed; the path's ends beyond them. */
export function instantAt(path: TimePath, at: number): number {
  let start = 0;
  for (const segment of path.segments) {
    if (at <= start + segment.frames) return sourceAt(segment, Math.max(0, at - start), path.rate);
    start += segment.frames;
  }
  return path.segments[path.segments.length - 1]!.to;
}

/** The parts before and from result frame `at`; a part may be empty. */
export function splitPath(path: TimePath, at: number): [TimePath, TimePath] {
  const head: Segment[] = [];
  const tail: Segment[] = [];
  let start = 0;
  for (const segment of path.segments) {
    const end = start + segment.frames;
    if (end <= at) head.push(segment);
    else if (start >= at) tail.push(segment);
    else {
      const [before, after] = splitSegment(segment, at - start, path.rate);
      head.push(before);
      tail.push(after);
    }
    start = end;
  }
  return [
    { rate: path.rate, segments: head },
    { rate: path.rate, segments: tail },
  ];
}

/** Result frames [from, to) of the path; clamped, may be empty. */
export function slicePath(path: TimePath, from: number, to: number): TimePath {
  return splitPath(splitPath(path, to)[0], from)[1];
}

/**
 * The path `factor` times as fast, its length rounded as a whole and its joins on the nearest
 * frames, each segment at least one frame: all of the source stays covered, speeds become what
 * the whole frames make them.
 */
export function speedUp(path: TimePath, factor: number): TimePath {
  let start = 0;
  let newStart = 0;
  const segments = path.segments.map((segment) => {
    start += segment.frames;
    const newEnd = Math.max(newStart + 1, roundHalfUp(start / factor));
    const retimed = retimeSegment(segment, newEnd - newStart);
    newStart = newEnd;
    return retimed;
  });
  return { rate: path.rate, segments };
}

/** Source instants, in seconds, at the middle of every result frame. */
export function sampleInstants(path: TimePath): Float64Array {
  const out = new Float64Array(pathFrames(path));
  let at = 0;
  for (const segment of path.segments)
    for (let i = 0; i < segment.frames; i++) out[at++] = sourceAt(segment, i + 0.5, path.rate);
  return out;
}

/** The source frame shown at every result frame. */
export function sampleFrames(path: TimePath, table: FrameTable): Int32Array {
  return Int32Array.from(sampleInstants(path), (t) => frameAt(table, seconds(t)));
}

/** The segment that holds result frame `at`, with its index and first frame. */
export function segmentAt(
  path: TimePath,
  at: number,
): { segment: Segment; index: number; startFrame: number } | undefined {
  let start = 0;
  for (const [index, segment] of path.segments.entries()) {
    if (at < start + segment.frames) return at >= start ? { segment, index, startFrame: start } : undefined;
    start += segment.frames;
  }
  return undefined;
}

/** Whether every sampled instant lies inside the clip. */
export function staysInside(path: TimePath, table: FrameTable): boolean {
  const end = durationOf(table) + 1e-9;
  return sampleInstants(path).every((t) => t >= -1e-9 && t <= end);
}
