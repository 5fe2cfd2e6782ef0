import { type FrameTable, durationOf, frameAt, frameCount, startOf } from '../clip/frame-table';
import { type Rational, toNumber } from '../time/rational';
import { type Frame, type Seconds, frame, framesBefore, framesIn, seconds } from '../time/units';
import {
  cutTo,
  type Segment,
  evenSegment,
  holdSegment,
  retimeSegment,
  reverseSegment,
  sourceAt,
  speedAt,
  splitSegment,
} from './segment';

/** Result time to source time of one piece: segments in a row at the project's rate. */
export interface TimePath {
  readonly rate: Rational;
  readonly segments: readonly Segment[];
}

/** Positions closer than this, in result frames, are one. */
const SAME_PLACE = 1e-7;

/** Result length in frames, a real number. */
export function pathLength(path: TimePath): number {
  return path.segments.reduce((sum, s) => sum + s.length, 0);
}

/** How many frames a path shows: the middles that lie inside it, at least one. */
export function pathFrames(path: TimePath): number {
  return framesIn(pathLength(path));
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
  const length = (to - from) * toNumber(rate);
  const whole = Math.round(length);
  const exact = Math.abs(length - whole) < SAME_PLACE && whole > 0 ? whole : length;
  return { rate, segments: [evenSegment(exact, from, to, rate)] };
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
    if (at <= start + segment.length) return sourceAt(segment, Math.max(0, at - start), path.rate);
    start += segment.length;
  }
  return path.segments[path.segments.length - 1]!.to;
}

/** The parts before and from result position `at`; a part may be empty. */
export function splitPath(path: TimePath, at: number): [TimePath, TimePath] {
  const head: Segment[] = [];
  const tail: Segment[] = [];
  let start = 0;
  for (const segment of path.segments) {
    const end = start + segment.length;
    if (end <= at + SAME_PLACE) head.push(segment);
    else if (start >= at - SAME_PLACE) tail.push(segment);
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

/** Result positions [from, to) of the path; clamped, may be empty. */
export function slicePath(path: TimePath, from: number, to: number): TimePath {
  return splitPath(splitPath(path, to)[0], from)[1];
}

/** The path `factor` times as fast, exactly: joins fall where they fall, also between frames. */
export function speedUp(path: TimePath, factor: number): TimePath {
  return { rate: path.rate, segments: path.segments.map((s) => retimeSegment(s, s.length / factor)) };
}

/** A value at the middle of every result frame. A middle on a join belongs to what comes after. */
function sample(
  path: TimePath,
  at: (segment: Segment, position: number, rate: Rational) => number,
): Float64Array {
  const { segments, rate } = path;
  const length = pathLength(path);
  const out = new Float64Array(framesIn(length));
  let index = 0;
  let start = 0;
  for (let i = 0; i < out.length; i++) {
    // A path shorter than half a frame shows its own middle.
    const middle = length > 0.5 ? Math.min(i + 0.5, length) : length / 2;
    while (index + 1 < segments.length && start + segments[index]!.length <= middle + SAME_PLACE)
      start += segments[index++]!.length;
    out[i] = at(segments[index]!, Math.max(0, middle - start), rate);
  }
  return out;
}

/** Source instants, in seconds, at the middle of every result frame. */
export const sampleInstants = (path: TimePath): Float64Array => sample(path, sourceAt);

/** Speeds there, source seconds a result second. */
export const sampleSpeeds = (path: TimePath): Float64Array => sample(path, speedAt);

/** The same, but for still pictures that stand for what moves: its speed. */
export const sampleMotion = (path: TimePath): Float64Array =>
  sample(path, (segment, at, rate) => segment.stands ?? speedAt(segment, at, rate));

/** The source frame shown at every result frame. */
export function sampleFrames(path: TimePath, table: FrameTable): Int32Array {
  const instants = sampleInstants(path);
  const shown = new Int32Array(instants.length);
  for (let i = 0; i < shown.length; i++) shown[i] = frameAt(table, instants[i] as Seconds);
  return shown;
}

/** Result frames [first, end) whose middles lie in each segment; empty for one that is too short to show any. */
export function shownBy(path: TimePath): { first: Frame; end: Frame }[] {
  const count = pathFrames(path);
  let start = 0;
  return path.segments.map(({ length }, i) => {
    const first = frame(Math.min(count, framesBefore(start)));
    start += length;
    return {
      first,
      end: frame(i === path.segments.length - 1 ? count : Math.min(count, framesBefore(start))),
    };
  });
}

/** The segment that result frame `at` is shown by, with its index and the position at which it begins. */
export function segmentAt(
  path: TimePath,
  at: number,
): { segment: Segment; index: number; start: number } | undefined {
  if (at < 0 || at >= pathFrames(path)) return undefined;
  let start = 0;
  for (const [index, segment] of path.segments.entries()) {
    const last = index === path.segments.length - 1;
    if (last || at + 0.5 < start + segment.length - SAME_PLACE) return { segment, index, start };
    start += segment.length;
  }
  return undefined;
}

/**
 * The path brought to whole frames without changing what any of them shows: what reaches over the last
 * frame is cut off, what is missing of it goes on as it went.
 */
export function onWholeFrames(path: TimePath, table: FrameTable): TimePath {
  const length = pathLength(path);
  const whole = framesIn(length);
  if (Math.abs(length - whole) <= SAME_PLACE) return path;
  if (length > whole) return slicePath(path, 0, whole);
  // Shorter than half a frame it shows its own middle, not what would come after it.
  if (length < 0.5) return speedUp(path, length);
  const last = path.segments[path.segments.length - 1]!;
  const more = whole - length;
  const to = sourceAt(last, last.length + more, path.rate);
  const inside = to >= 0 && to <= durationOf(table);
  const longer: Segment[] = inside
    ? [
        {
          ...last,
          length: last.length + more,
          to: seconds(to),
          speedOut: speedAt(last, last.length + more, path.rate),
        },
      ]
    : [last, holdSegment(more, last.to)];
  return { rate: path.rate, segments: [...path.segments.slice(0, -1), ...longer] };
}

/** Whether every sampled instant lies inside the clip. */
export function staysInside(path: TimePath, table: FrameTable): boolean {
  const end = durationOf(table) + 1e-9;
  return sampleInstants(path).every((t) => t >= -1e-9 && t <= end);
}
