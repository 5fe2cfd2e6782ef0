import { type Rational, toNumber } from '../time/rational';
import { type Seconds, seconds } from '../time/units';

/**
 * One stretch of a time path. Over `frames` result frames the source time runs from `from` to `to`
 * along the cubic with the end slopes `speedIn` and `speedOut` (Hermite form); constant speed and
 * linear ramps are special cases. Speeds are source seconds per result second: 1 is real time,
 * negative is backward, 0 is a hold.
 */
export interface Segment {
  /** Whole, at least 1. */
  readonly frames: number;
  readonly from: Seconds;
  readonly to: Seconds;
  readonly speedIn: number;
  readonly speedOut: number;
  /** Set where a move jumps on purpose at this segment's beginning: a cut, not a mistake. */
  readonly cutBefore?: true;
}

export type SegmentKind = 'forward' | 'backward' | 'hold' | 'ramp';

/** A segment of one speed, the speed that follows from its ends. */
export function evenSegment(frames: number, from: number, to: number, rate: Rational): Segment {
  const speed = (to - from) / (frames / toNumber(rate)) || 0;
  return { frames, from: seconds(from), to: seconds(to), speedIn: speed, speedOut: speed };
}

/** Source time at `position` result frames into the segment, 0 to its length, fractions allowed. */
export function sourceAt(segment: Segment, position: number, rate: Rational): number {
  const u = position / segment.frames;
  const duration = segment.frames / toNumber(rate);
  const u2 = u * u;
  const u3 = u2 * u;
  const travel = segment.to - segment.from;
  return (
    segment.from +
    travel * (3 * u2 - 2 * u3) +
    duration * (segment.speedIn * (u3 - 2 * u2 + u) + segment.speedOut * (u3 - u2))
  );
}

/** Speed at `position` result frames into the segment. */
export function speedAt(segment: Segment, position: number, rate: Rational): number {
  const u = position / segment.frames;
  const mean = (segment.to - segment.from) / (segment.frames / toNumber(rate));
  return (
    mean * 6 * (u - u * u) +
    segment.speedIn * (3 * u * u - 4 * u + 1) +
    segment.speedOut * (3 * u * u - 2 * u)
  );
}

/** The segment cut in two at a whole frame strictly inside it; both halves keep their samples. */
export function splitSegment(segment: Segment, at: number, rate: Rational): [Segment, Segment] {
  const middle = seconds(sourceAt(segment, at, rate));
  const speed = speedAt(segment, at, rate);
  return [
    { ...segment, frames: at, to: middle, speedOut: speed },
    { ...uncut(segment), frames: segment.frames - at, from: middle, speedIn: speed },
  ];
}

/** A segment that stays on one instant. */
export function holdSegment(frames: number, at: number): Segment {
  return { frames, from: seconds(at), to: seconds(at), speedIn: 0, speedOut: 0 };
}

/** The segment, marked as beginning with a jump that is meant. */
export function cutTo(segment: Segment): Segment {
  return { ...segment, cutBefore: true };
}

/** The segment without that mark. */
export function uncut(segment: Segment): Segment {
  const { frames, from, to, speedIn, speedOut } = segment;
  return { frames, from, to, speedIn, speedOut };
}

/** The segment played the other way. */
export function reverseSegment(segment: Segment): Segment {
  return {
    frames: segment.frames,
    from: segment.to,
    to: segment.from,
    speedIn: -segment.speedOut || 0,
    speedOut: -segment.speedIn || 0,
  };
}

/** The same source in another number of frames. */
export function retimeSegment(segment: Segment, frames: number): Segment {
  const factor = segment.frames / frames;
  return { ...segment, frames, speedIn: segment.speedIn * factor, speedOut: segment.speedOut * factor };
}

/** How the segment moves, for drawing and scopes. A ramp is any change of speed over a tenth of a percent. */
export function kindOf(segment: Segment): SegmentKind {
  const { speedIn, speedOut, from, to } = segment;
  if (from === to && speedIn === 0 && speedOut === 0) return 'hold';
  if (Math.abs(speedIn - speedOut) > 0.001 * Math.max(Math.abs(speedIn), Math.abs(speedOut))) return 'ramp';
  return to < from ? 'backward' : 'forward';
}
