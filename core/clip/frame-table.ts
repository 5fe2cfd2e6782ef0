import { STANDARD_RATES, type Rational, rational, toNumber } from '../time/rational';
import { type Frame, type Seconds, frame, seconds } from '../time/units';

/**
 * When each frame of a clip starts, in seconds from its first frame. Frames are counted in
 * presentation order. A clip of constant rate is kept as the rate, so no container's rounding
 * (a millisecond in WebM) reaches a path.
 */
export type FrameTable = (
  | { readonly kind: 'constant'; readonly rate: Rational; readonly count: number }
  | { readonly kind: 'variable'; readonly starts: readonly number[]; readonly endS: number }
) & {
  /** Frames that begin another shot than the one before them, ascending; missing where that is not known. */
  readonly cuts?: readonly number[];
};

/** An instant this close before a frame's start, in frames, counts as in that frame. */
const NUDGE_FRAMES = 1e-6;

export function frameCount(table: FrameTable): number {
  return table.kind === 'constant' ? table.count : table.starts.length;
}

/** Start of frame `n`; of the frame after the last one, the clip's end. */
export function startOf(table: FrameTable, n: Frame): Seconds {
  if (table.kind === 'constant') return seconds((n * table.rate.den) / table.rate.num);
  return seconds(n >= table.starts.length ? table.endS : table.starts[Math.max(0, n)]!);
}

/** Length of the whole clip. */
export function durationOf(table: FrameTable): Seconds {
  return startOf(table, frame(frameCount(table)));
}

/** The frame whose interval contains `at`; before the first the first, after the last the last. */
export function frameAt(table: FrameTable, at: Seconds): Frame {
  const last = frameCount(table) - 1;
  if (table.kind === 'constant') {
    const n = Math.floor((at * table.rate.num) / table.rate.den + NUDGE_FRAMES);
    return frame(Math.min(last, Math.max(0, n)));
  }
  const nudged = at + NUDGE_FRAMES * (table.endS / table.starts.length);
  let low = 0;
  let high = last;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (table.starts[middle]! <= nudged) low = middle;
    else high = middle - 1;
  }
  return frame(low);
}

/** An instant as frames and a fraction, for drawing: 2.5 is the middle of frame 2. */
export function frameAndFraction(table: FrameTable, at: Seconds): number {
  if (table.kind === 'constant') return (at * table.rate.num) / table.rate.den;
  const n = frameAt(table, at);
  return n + (at - startOf(table, n)) / frameDurationAt(table, n);
}

/** The instant at frames and a fraction, as `frameAndFraction` counts them. */
export function instantOf(table: FrameTable, framesAndFraction: number): Seconds {
  if (table.kind === 'constant') return seconds((framesAndFraction * table.rate.den) / table.rate.num);
  const n = frame(Math.min(frameCount(table), Math.max(0, Math.floor(framesAndFraction))));
  return seconds(startOf(table, n) + (framesAndFraction - n) * frameDurationAt(table, n));
}

/** Mean frames a second over the whole clip. */
export function meanRateHz(table: FrameTable): number {
  return table.kind === 'constant' ? toNumber(table.rate) : table.starts.length / table.endS;
}

/** Length of one frame at `n`, in seconds. */
export function frameDurationAt(table: FrameTable, n: Frame): Seconds {
  return seconds(startOf(table, frame(n + 1)) - startOf(table, n));
}

/** The same frames read at another rate: 120 frames a second read at 30 play four times slower. */
export function readAt(table: FrameTable, rate: Rational | null): FrameTable {
  if (rate === null) return table;
  if (table.kind === 'constant') return { ...table, rate };
  const stretch = meanRateHz(table) / toNumber(rate);
  return { ...table, starts: table.starts.map((s) => s * stretch), endS: table.endS * stretch };
}

/** Frames [first, end) of the shot that a frame is of: all of the clip's where no cuts are known. */
export function shotOf(table: FrameTable, n: number): { readonly first: number; readonly end: number } {
  const cuts = table.cuts ?? [];
  return {
    first: cuts.findLast((cut) => cut <= n) ?? 0,
    end: cuts.find((cut) => cut > n) ?? frameCount(table),
  };
}

/**
 * A table from presentation times in seconds, ascending and distinct, the first of any value.
 * `lastDurationS` is the length of the last frame where the file tells it. Times that lie within
 * `toleranceS` of an even grid (a container's own rounding) become a constant rate.
 */
export function tableFromTimes(
  times: readonly number[],
  lastDurationS: number | undefined,
  toleranceS = 0.0011,
): FrameTable {
  const count = times.length;
  if (count === 0) throw new RangeError('a clip needs at least one frame');
  const first = times[0]!;
  if (count === 1) {
    const duration = lastDurationS && lastDurationS > 0 ? lastDurationS : 1 / 30;
    return { kind: 'constant', rate: nearestRate(1 / duration), count };
  }
  const span = times[count - 1]! - first;
  const measured = (count - 1) / span;
  const even = evenRate(times, measured, toleranceS);
  if (even) return { kind: 'constant', rate: even, count };
  const starts = times.map((t) => t - first);
  const lastS = lastDurationS && lastDurationS > 0 ? lastDurationS : span / (count - 1);
  return { kind: 'variable', starts, endS: starts[count - 1]! + lastS };
}

/** A frame that lasts longer than this is a slip of the file, seconds: a result lasts no longer. */
const LONGEST_FRAME_S = 6 * 3600;
/** What frames are shown at where the file says nothing that makes sense. */
const USUAL_HZ = 30;

/**
 * Presentation times that can be worked with: as they are, or, where they make no sense (a frame of many hours, or no time
 * at all), evenly at the length that most frames have, else at 30 a second.
 */
export function sensibleTimes(
  times: readonly number[],
  lastDurationS: number,
): { readonly times: readonly number[]; readonly lastS: number; readonly asFound: boolean } {
  const lengths = [
    ...times.slice(1).map((t, i) => t - times[i]!),
    ...(lastDurationS > 0 ? [lastDurationS] : []),
  ];
  const longest = lengths.reduce((a, b) => Math.max(a, b), 0);
  const whole = times.every(Number.isFinite) && longest <= LONGEST_FRAME_S;
  if (whole && (longest > 0 || times.length === 1)) return { times, lastS: lastDurationS, asFound: true };
  const usual = lengths.toSorted((a, b) => a - b)[lengths.length >> 1] ?? 0;
  const lastS = usual >= 0.001 && usual <= 10 ? usual : 1 / USUAL_HZ;
  return { times: times.map((_, n) => n * lastS), lastS, asFound: false };
}

/** How far off a whole or standard rate a measured one may be and still be meant as it. */
const NEARLY = 0.0004;

/**
 * The rate whose even grid all times lie on: of those that people use, or whole, the nearest to the measured
 * one that fits, else the measured one. The grid may begin anywhere within the tolerance, so few frames with
 * times in whole milliseconds are recognised as well.
 */
function evenRate(times: readonly number[], measuredHz: number, toleranceS: number): Rational | undefined {
  const fits = (rate: Rational) => {
    const step = rate.den / rate.num;
    let low = Infinity;
    let high = -Infinity;
    for (let i = 0; i < times.length; i++) {
      const off = times[i]! - i * step;
      low = Math.min(low, off);
      high = Math.max(high, off);
    }
    return high - low <= 2 * toleranceS;
  };
  const off = (rate: Rational) => Math.abs(toNumber(rate) / measuredHz - 1);
  const whole = Math.round(measuredHz);
  const usual = [...STANDARD_RATES, ...(whole > 0 ? [rational(whole)] : [])]
    .filter((r) => off(r) < Math.max(NEARLY, (2 * toleranceS * measuredHz) / Math.max(1, times.length - 1)))
    .sort((a, b) => off(a) - off(b));
  const found = usual.find(fits);
  if (found) return found;
  const own = nearestRate(measuredHz);
  return fits(own) ? own : undefined;
}

/** A standard rate within a thousandth of the measured one, nearest first; else the measured one as a fraction. */
function nearestRate(hz: number): Rational {
  const off = (r: Rational) => Math.abs(toNumber(r) / hz - 1);
  const best = STANDARD_RATES.reduce((a, b) => (off(b) < off(a) ? b : a));
  if (off(best) < NEARLY) return best;
  const whole = Math.round(hz);
  if (whole > 0 && Math.abs(whole / hz - 1) < NEARLY) return rational(whole);
  return rational(Math.max(1, Math.round(hz * 1000)), 1000);
}
