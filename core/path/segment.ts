import { type Rational, toNumber } from '../time/rational';
import { type Seconds, seconds } from '../time/units';

/**
 * One stretch of a time path. Over `length` result frames the source time runs from `from` to `to`
 * along the cubic with the end slopes `speedIn` and `speedOut` (Hermite form); constant speed and
 * linear ramps are special cases. Speeds are source seconds per result second: 1 is real time,
 * negative is backward, 0 is a hold.
 */
export interface Segment extends Marks {
  /** Result frames, a real number above 0: ends may fall between frames. */
  readonly length: number;
  readonly from: Seconds;
  readonly to: Seconds;
  readonly speedIn: number;
  readonly speedOut: number;
}

/** Which move made a stretch of a path, which of its parts it is, and what had made what that move was given. */
export interface Maker {
  readonly step: string;
  readonly part: number;
  readonly of?: Maker | undefined;
}

/** What a segment knows besides how it runs. */
interface Marks {
  /** Set where a move jumps on purpose at this segment's beginning: a cut, not a mistake. */
  readonly cutBefore?: true | undefined;
  /** The instant of a turn that is shown once, where this segment begins with one (`path/turns.ts`). */
  readonly turnIn?: Seconds | undefined;
  /** The same at its end. */
  readonly turnOut?: Seconds | undefined;
  /** Set where a length that was asked for settled its turns; another pace settles them anew. */
  readonly turnsSettled?: true | undefined;
  /** Set where a still picture stands for a stretch that moves (stop motion): the speed of that. */
  readonly stands?: number | undefined;
  /** The last move that made or passed it on; none for what comes straight from the span. */
  readonly maker?: Maker | undefined;
  /** Inside a move, until its maker is known: which part of it this is. */
  readonly part?: number | undefined;
}

export type SegmentKind = 'forward' | 'backward' | 'hold' | 'ramp';

/** A segment of one speed, the speed that follows from its ends. */
export function evenSegment(length: number, from: number, to: number, rate: Rational): Segment {
  const speed = (to - from) / (length / toNumber(rate)) || 0;
  return made(length, seconds(from), seconds(to), speed, speed);
}

/** Source time at `position` result frames into the segment, fractions allowed; beyond its ends the cubic goes on. */
export function sourceAt(segment: Segment, position: number, rate: Rational): number {
  const u = position / segment.length;
  const duration = segment.length / toNumber(rate);
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
  const u = position / segment.length;
  const mean = (segment.to - segment.from) / (segment.length / toNumber(rate));
  return (
    mean * 6 * (u - u * u) +
    segment.speedIn * (3 * u * u - 4 * u + 1) +
    segment.speedOut * (3 * u * u - 2 * u)
  );
}

/** Whether the speed is one and the same all along, to a millionth. */
export function isEven(segment: Segment, rate: Rational): boolean {
  const mean = (segment.to - segment.from) / (segment.length / toNumber(rate));
  const slack = 1e-6 * Math.max(1, Math.abs(mean));
  return Math.abs(segment.speedIn - mean) <= slack && Math.abs(segment.speedOut - mean) <= slack;
}

/** The segment cut in two strictly inside it; both halves keep their samples. */
export function splitSegment(segment: Segment, at: number, rate: Rational): [Segment, Segment] {
  const middle = seconds(sourceAt(segment, at, rate));
  const speed = speedAt(segment, at, rate);
  const { from, to, speedIn, speedOut, cutBefore, turnIn, turnOut, turnsSettled, stands, maker, part } =
    segment;
  return [
    made(at, from, middle, speedIn, speed, { cutBefore, turnIn, turnsSettled, stands, maker, part }),
    made(segment.length - at, middle, to, speed, speedOut, { turnOut, turnsSettled, stands, maker, part }),
  ];
}

/**
 * A segment with every field there, in one order: paths have tens of thousands of them, and reading objects of
 * one shape takes half the time.
 */
function made(
  length: number,
  from: Seconds,
  to: Seconds,
  speedIn: number,
  speedOut: number,
  marks: Marks = {},
): Segment {
  const { cutBefore, turnIn, turnOut, turnsSettled, stands, maker, part } = marks;
  const ends = { cutBefore, turnIn, turnOut, turnsSettled };
  return { length, from, to, speedIn, speedOut, ...ends, stands, maker, part };
}

/** A segment that stays on one instant. */
export function holdSegment(length: number, at: number): Segment {
  return made(length, seconds(at), seconds(at), 0, 0);
}

/** The segment, marked as beginning with a jump that is meant. */
export function cutTo(segment: Segment): Segment {
  return { ...segment, cutBefore: true };
}

/** The segment without that mark. */
export function uncut(segment: Segment): Segment {
  const { length, from, to, speedIn, speedOut } = segment;
  return made(length, from, to, speedIn, speedOut, { ...segment, cutBefore: undefined });
}

/** The segment played the other way. */
export function reverseSegment(segment: Segment): Segment {
  const { length, from, to, turnIn, turnOut, turnsSettled, maker, part } = segment;
  const [speedIn, speedOut] = [-segment.speedOut || 0, -segment.speedIn || 0];
  const stands = segment.stands === undefined ? undefined : -segment.stands;
  const marks = { turnIn: turnOut, turnOut: turnIn, turnsSettled, stands, maker, part };
  return made(length, to, from, speedIn, speedOut, marks);
}

/** The same source in another length. */
export function retimeSegment(segment: Segment, length: number): Segment {
  const factor = segment.length / length;
  const { from, to, cutBefore, turnIn, turnOut, maker, part } = segment;
  const stands = segment.stands === undefined ? undefined : segment.stands * factor;
  const [speedIn, speedOut] = [segment.speedIn * factor, segment.speedOut * factor];
  return made(length, from, to, speedIn, speedOut, { cutBefore, turnIn, turnOut, stands, maker, part });
}

/** How the segment moves, for drawing and scopes. A ramp is any change of speed over a tenth of a percent. */
export function kindOf(segment: Segment): SegmentKind {
  const { speedIn, speedOut, from, to } = segment;
  if (from === to && speedIn === 0 && speedOut === 0) return 'hold';
  if (Math.abs(speedIn - speedOut) > 0.001 * Math.max(Math.abs(speedIn), Math.abs(speedOut))) return 'ramp';
  return to < from ? 'backward' : 'forward';
}
