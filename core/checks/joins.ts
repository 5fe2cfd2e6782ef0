import { type FrameTable, frameAt, frameCount, frameDurationAt } from '../clip/frame-table';
import { type TimePath, shownBy } from '../path/path';
import { type Segment, sourceAt, speedAt } from '../path/segment';
import { toNumber } from '../time/rational';
import { type Frame, frame, seconds } from '../time/units';

/** Where two segments meet, measured on the frames that are shown on either side. */
export interface Join {
  /** Result frame shown first after it; for the loop's own join, 0. */
  readonly atFrame: Frame;
  /** Source frames shown last before and first after. */
  readonly before: number;
  readonly after: number;
  /** Source frames of unexpected jump; 0 where the picture goes on as it went. */
  readonly jumpFrames: number;
  /** Whether nothing is seen of it: the picture goes on, as fast as before. */
  readonly smooth: boolean;
  /** Whether a move jumps here on purpose. */
  readonly meant: boolean;
  /** Whether the picture skips here without being meant to. */
  readonly skips: boolean;
  /** Whether a frame rests here longer than the speed on either side makes it. */
  readonly doubles: boolean;
}

/** Slack in source frames for what lies between two frames. */
const SLACK = 0.1;

/** One end of a segment that shows frames: its segment, where that begins, its last or first frame. */
interface Side {
  readonly path: TimePath;
  readonly segment: Segment;
  readonly index: number;
  readonly start: number;
  /** Result frames [first, end) it shows. */
  readonly first: Frame;
  readonly end: Frame;
}

/** The segments that show any frame, in order. */
function sidesOf(path: TimePath): Side[] {
  const sides: Side[] = [];
  let start = 0;
  for (const [index, { first, end }] of shownBy(path).entries()) {
    const segment = path.segments[index]!;
    if (end > first) sides.push({ path, segment, index, start, first, end });
    start += segment.length;
  }
  return sides;
}

const positionIn = ({ start, segment }: Side, frame: number): number =>
  Math.min(segment.length, Math.max(0, frame + 0.5 - start));

const instantIn = (side: Side, frame: number): number =>
  sourceAt(side.segment, positionIn(side, frame), side.path.rate);

/** How often a source frame is shown in a row from an end of a segment inward, counted up to `most`. */
function rests(side: Side, from: number, by: 1 | -1, shown: number, table: FrameTable, most: number): number {
  let count = 0;
  for (let i = from; i >= side.first && i < side.end && count < most; i += by, count++)
    if (frameAt(table, seconds(instantIn(side, i))) !== shown) break;
  return count;
}

/** Whether the path goes on from where it stood (then nothing is left out, however fast it runs), or jumps on purpose. */
function wayBetween(
  a: Segment,
  between: readonly Segment[],
  b: Segment,
): { goesOn: boolean; meant: boolean } {
  let goesOn = true;
  let meant = false;
  let before = a;
  for (let i = 0; i <= between.length; i++) {
    const next = between[i] ?? b;
    if (Math.abs(next.from - before.to) >= 1e-6) goesOn = false;
    if (next.cutBefore) meant = true;
    before = next;
  }
  return { goesOn, meant };
}

const NONE: readonly Segment[] = [];

function measure(a: Side, b: Side, between: readonly Segment[], table: FrameTable, atFrame: Frame): Join {
  const way = wayBetween(a.segment, between, b.segment);
  const { rate } = a.path;
  const [last, first] = [a.end - 1, b.first];
  const [out, back] = [instantIn(a, last), instantIn(b, first)];
  const [before, after] = [frameAt(table, seconds(out)), frameAt(table, seconds(back))];
  const frameS = frameDurationAt(table, before);
  const perFrame = 1 / toNumber(rate) / frameS;
  const stepOut = speedAt(a.segment, positionIn(a, last), rate) * perFrame;
  const stepIn = speedAt(b.segment, positionIn(b, first), rate) * perFrame;
  const advance = (back - out) / frameS;
  const slower = Math.min(Math.abs(stepOut), Math.abs(stepIn));
  // To the very next frame nothing is left out, however slowly it goes.
  const usual = Math.max(1, Math.abs(stepOut), Math.abs(stepIn)) + Math.max(0, 1 - slower);
  const same = Math.sign(stepOut) * Math.sign(stepIn) > 0;
  // At a turn the way is short: less than a frame of the clip more, or half a step, is not seen.
  // A length that was asked for leaves turns where they fall, up to half a step off.
  const settled = a.segment.turnsSettled && b.segment.turnsSettled;
  const reach = same ? usual : usual + Math.max(0.9, usual / 2) + (settled ? usual / 4 : 0);
  const low = same && stepOut > 0 ? 0 : -reach;
  const high = same && stepOut < 0 ? 0 : reach;
  // Counted in frames that are shown: over a turn as many as the passes' own steps, from one pair of frames to the other
  // and back again one, are no leap.
  const apart = Math.abs(after - before);
  const pairs = a.end - a.first <= 2 && b.end - b.first <= 2;
  const near = apart === 0 || (!same && apart <= Math.ceil(usual - 1e-6)) || (pairs && apart <= 1);
  // A still picture goes nowhere.
  const over =
    way.goesOn || near || frameCount(table) === 1
      ? 0
      : advance > high + SLACK
        ? advance - high
        : advance < low - SLACK
          ? advance - low
          : 0;
  const shows = Math.max(1, Math.ceil(1 / slower - 1e-3));
  const doubles =
    before === after &&
    !way.meant &&
    slower > 0.01 &&
    rests(a, last, -1, before, table, shows + 1) + rests(b, first, 1, before, table, shows + 1) > shows;
  const [leaves, comes] = [a.segment.speedOut, b.segment.speedIn];
  const evenly =
    !doubles && Math.abs(leaves - comes) <= 1e-3 * Math.max(1e-3, Math.abs(leaves), Math.abs(comes));
  return {
    atFrame,
    before,
    after,
    jumpFrames: over,
    smooth: way.goesOn && !way.meant && evenly,
    meant: way.meant,
    skips: over !== 0 && !way.meant,
    doubles,
  };
}

/** Every join inside a path, in order; segments too short to show a frame have none of their own. */
export function joinsOf(path: TimePath, table: FrameTable): Join[] {
  const sides = sidesOf(path);
  return sides.slice(1).map((b, i) => {
    const from = sides[i]!.index + 1;
    return measure(sides[i]!, b, b.index > from ? path.segments.slice(from, b.index) : NONE, table, b.first);
  });
}

/** The join from the end of one path to the beginning of another of the same clip; undefined for less than two frames. */
export function joinBetween(before: TimePath, after: TimePath, table: FrameTable): Join | undefined {
  const a = sidesOf(before).at(-1);
  const b = sidesOf(after)[0];
  if (!a || !b || (before === after && a.end < 2)) return undefined;
  const between = [...before.segments.slice(a.index + 1), ...after.segments.slice(0, b.index)];
  return measure(a, b, between, table, frame(0));
}

/** The join from the last frame back to the first: whether the path loops without a seam. */
export function loopJoin(path: TimePath, table: FrameTable): Join | undefined {
  return joinBetween(path, path, table);
}
