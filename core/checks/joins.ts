import { type FrameTable, frameAt, frameDurationAt } from '../clip/frame-table';
import { type TimePath, pathFrames } from '../path/path';
import { type Segment, sourceAt } from '../path/segment';
import { toNumber } from '../time/rational';
import { seconds } from '../time/units';

/** Where two segments meet, measured on the frames that are shown on either side. */
export interface Join {
  /** Result frame that the second segment begins with; for the loop's own join, 0. */
  readonly atFrame: number;
  /** Source frames shown last before and first after. */
  readonly before: number;
  readonly after: number;
  /** Source frames of unexpected jump; 0 where the picture goes on as it went. */
  readonly jumpFrames: number;
  /** Whether a move jumps here on purpose. */
  readonly meant: boolean;
  /** Whether the picture skips here without being meant to. */
  readonly skips: boolean;
  /** Whether a frame rests here longer than it does on either side. */
  readonly doubles: boolean;
}

/** Slack in source frames that whole-frame lengths may need. */
const SLACK = 0.1;

function measure(first: Segment, second: Segment, path: TimePath, table: FrameTable, atFrame: number): Join {
  const lastInstant = sourceAt(first, first.frames - 0.5, path.rate);
  const nextInstant = sourceAt(second, 0.5, path.rate);
  const before = frameAt(table, seconds(lastInstant));
  const after = frameAt(table, seconds(nextInstant));
  const frameS = frameDurationAt(table, before);
  const perResultFrame = 1 / toNumber(path.rate) / frameS;
  const stepOut = first.speedOut * perResultFrame;
  const stepIn = second.speedIn * perResultFrame;
  const advance = (nextInstant - lastInstant) / frameS;
  const same = Math.sign(stepOut) * Math.sign(stepIn) > 0;
  const reach = Math.max(Math.abs(stepOut), Math.abs(stepIn));
  const low = same && stepOut > 0 ? 0 : -reach;
  const high = same && stepOut < 0 ? 0 : reach;
  // Where the path goes on from where it stood, nothing is left out, however fast it runs.
  const goesOn = Math.abs(second.from - first.to) < 1e-6;
  const over = goesOn
    ? 0
    : advance > high + SLACK
      ? advance - high
      : advance < low - SLACK
        ? advance - low
        : 0;
  const moving = Math.min(Math.abs(stepOut), Math.abs(stepIn));
  const doubles = before === after && moving > 1 - SLACK;
  const meant = second.cutBefore === true;
  return { atFrame, before, after, jumpFrames: over, meant, skips: over !== 0 && !meant, doubles };
}

/** Every join inside a path, in order. */
export function joinsOf(path: TimePath, table: FrameTable): Join[] {
  const joins: Join[] = [];
  let at = 0;
  for (let i = 1; i < path.segments.length; i++) {
    at += path.segments[i - 1]!.frames;
    joins.push(measure(path.segments[i - 1]!, path.segments[i]!, path, table, at));
  }
  return joins;
}

/** The join from the end of one path to the beginning of another of the same clip; undefined for less than two frames. */
export function joinBetween(before: TimePath, after: TimePath, table: FrameTable): Join | undefined {
  const last = before.segments[before.segments.length - 1];
  const first = after.segments[0];
  if (!first || !last || (before === after && pathFrames(before) < 2)) return undefined;
  return measure(last, first, before, table, 0);
}

/** The join from the last frame back to the first: whether the path loops without a seam. */
export function loopJoin(path: TimePath, table: FrameTable): Join | undefined {
  return joinBetween(path, path, table);
}
