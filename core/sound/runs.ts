import type { TimePath } from '../path/path';
import { type Segment, sourceAt, speedAt } from '../path/segment';
import { type Rational, toNumber } from '../time/rational';

/** One segment within a run, in samples from the path's beginning. */
interface Stretch {
  readonly segment: Segment;
  readonly from: number;
  readonly end: number;
  /** Result frames before it. */
  readonly startFrame: number;
}

/** Segments in a row whose source goes on without a jump; or a hold. Sample counts from the path's beginning. */
export interface Run {
  readonly from: number;
  readonly end: number;
  readonly holds: boolean;
  readonly stretches: readonly Stretch[];
}

/** Where the source stands and how fast it moves at the middle of a sample. */
export interface Motion {
  /** Source seconds. */
  readonly source: number;
  readonly speed: number;
}

/** Whether the source jumps, or turns between moving and standing still, from one segment to the next. */
function jumps(a: Segment, b: Segment): boolean {
  return Math.abs(a.to - b.from) > 0.002 || stands(a) !== stands(b);
}

const stands = (s: Segment): boolean => s.speedIn === 0 && s.speedOut === 0 && s.from === s.to;

/** A path as runs: between two of them the sound has to be faded, within one it goes on by itself. */
export function runsOf(path: TimePath, rateHz: number): Run[] {
  const perFrame = rateHz / toNumber(path.rate);
  const runs: Run[] = [];
  let open: Stretch[] = [];
  let frames = 0;
  path.segments.forEach((segment, i) => {
    const from = Math.round(frames * perFrame);
    open.push({ segment, from, end: Math.round((frames + segment.length) * perFrame), startFrame: frames });
    frames += segment.length;
    const next = path.segments[i + 1];
    if (next && !jumps(segment, next)) return;
    const [first, last] = [open[0]!, open[open.length - 1]!];
    runs.push({ from: first.from, end: last.end, holds: stands(first.segment), stretches: open });
    open = [];
  });
  return runs;
}

/** The motion at a sample of a stretch. */
export function motionIn(stretch: Stretch, sample: number, perFrame: number, rate: Rational): Motion {
  const position = (sample + 0.5) / perFrame - stretch.startFrame;
  return {
    source: sourceAt(stretch.segment, position, rate),
    speed: speedAt(stretch.segment, position, rate),
  };
}

/**
 * The motion at any sample of a run; beyond its ends it goes on as fast as it was there. Holds in a row stand
 * where the first does: they may differ by what arithmetic leaves.
 */
export function motionAt(run: Run, sample: number, rateHz: number, rate: Rational): Motion {
  const inside = Math.min(run.end - 1, Math.max(run.from, Math.round(sample)));
  const last = run.stretches[run.stretches.length - 1]!;
  const stretch = run.holds ? run.stretches[0]! : (run.stretches.find((s) => inside < s.end) ?? last);
  const { source, speed } = motionIn(stretch, inside, rateHz / toNumber(rate), rate);
  return { source: source + ((sample - inside) / rateHz) * speed, speed };
}
