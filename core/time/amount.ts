import { type Rational, toNumber } from './rational';
import { type Terms, sumOf } from './sum';
import { parseTimecode } from './timecode';
import { type Frame, frame, roundHalfUp } from './units';

/** What an amount may be: the unit it is shown in, others that may be typed (as factors of it), and its limits. */
export interface AmountKind {
  /** Shown beside it, and taken when typed: `dB`, `ms`, `%`. */
  readonly unit?: string;
  /** Other units that may be typed: what one of them is in `unit`. */
  readonly also?: Readonly<Record<string, number>>;
  readonly least: number;
  readonly most: number;
  /** Whole numbers only. */
  readonly whole?: boolean;
  /** Of frames, seconds and milliseconds: the rate and the beat that they are counted at, so that each can be typed for the other. */
  readonly at?: TimeAt | undefined;
}

/** What times are counted at. */
export interface TimeAt {
  readonly rate: Rational;
  /** Frames of a beat of the song, and how many beats a bar has; undefined without a song. */
  readonly beat?: { readonly frames: number; readonly perBar: number } | undefined;
}

/** What one of a unit of time is in frames; undefined for what is none, and for beats without a song. */
function framesOf(unit: string, { rate, beat }: TimeAt): number | undefined {
  if (/^(f|fr|frames?)$/.test(unit)) return 1;
  if (/^(s|sec|seconds?)$/.test(unit)) return toNumber(rate);
  if (unit === 'ms') return toNumber(rate) / 1000;
  if (/^(b|beats?)$/.test(unit)) return beat?.frames;
  return /^bars?$/.test(unit) && beat ? beat.frames * beat.perBar : undefined;
}

/** How an amount's terms are read: its own unit, those beside it, times where it is one. */
function termsOf({ unit = '', also = {}, at }: AmountKind): Terms {
  const own = unit.toLowerCase();
  const others = new Map(Object.entries(also).map(([name, one]) => [name.toLowerCase(), one]));
  const base = at && framesOf(own, at);
  return {
    factor: (name) => {
      if (name === '' || name === own) return 1;
      const one = others.get(name);
      if (one !== undefined || !at || !base) return one;
      const frames = framesOf(name, at);
      return frames === undefined ? undefined : frames / base;
    },
    time: (text) => {
      const frames = at && base ? parseTimecode(text.replace(',', '.'), at.rate) : undefined;
      return frames === undefined ? undefined : frames / base!;
    },
  };
}

const text = (n: number, { unit }: AmountKind): string =>
  `${Number(n.toFixed(3))}${unit === undefined ? '' : ` ${unit}`}`;

/** What may be typed, in words. */
const range = (kind: AmountKind): string =>
  `${kind.whole ? 'A whole number' : 'A number'} from ${text(kind.least, kind)} to ${text(kind.most, kind)}.`;

/**
 * An amount as a person types it: `127,5`, `-3.5 dB`, `1.5 s` where milliseconds are meant, or a sum (`60+10`, `90/2`,
 * `2 bars - 1 f`). Gives the sentence that
 * refuses what is none, or lies outside its limits; an empty field is refused, not taken for 0.
 */
export function parseAmount(typed: string, kind: AmountKind): number | string {
  const trimmed = typed.trim();
  if (trimmed === '') return `It needs a value. ${range(kind)}`;
  const sum = sumOf(trimmed, termsOf(kind));
  if (sum === undefined) return `“${trimmed.slice(0, 24)}” is not understood here. ${range(kind)}`;
  // A tenth of a tenth is not a little more than that.
  const exact = Number(sum.toPrecision(12));
  // Two beats are seldom whole frames.
  const value = kind.whole && kind.at ? roundHalfUp(exact) : exact;
  if (kind.whole && !Number.isInteger(value)) return range(kind);
  if (value < kind.least) return `At least ${text(kind.least, kind)}.`;
  if (value > kind.most) return `At most ${text(kind.most, kind)}.`;
  return value;
}

/** A length or place in frames as it is shown: frames, and beside them seconds. */
export const framesAndSeconds = (frames: number, rate: Rational): string =>
  `${frames} f  ${Number((frames / toNumber(rate)).toFixed(2))} s`;

/** Of a shown pair (`240 f  8 s`) the half that was changed; all of it where none was, or what was typed is no pair. */
export function changedHalf(typed: string, shown: string): string {
  const halves = typed.trim().split(/\s{2,}/);
  const before = shown.trim().split(/\s{2,}/);
  if (halves.length !== 2 || before.length !== 2) return typed.trim();
  return halves[0] === before[0] && halves[1] !== before[1] ? halves[1]! : halves[0]!;
}

/**
 * Frames as a person types a length or a place: `60`, `1.5 s`, `0:02:15`, `2 bars - 1 f`, within limits; of a pair that is
 * shown as `shown` the half that was changed. Gives the sentence that refuses what is none.
 */
export function parseLength(
  typed: string,
  rate: Rational,
  {
    least,
    most,
    shown = '',
    beat,
  }: {
    readonly least: number;
    readonly most: number;
    readonly shown?: string;
    readonly beat?: TimeAt['beat'];
  },
): Frame | string {
  const half = changedHalf(typed, shown);
  const takes = `Frames, seconds${beat ? ', beats, bars' : ''} or a time, such as 40, 1.5 s${beat ? ', 2 bars - 1 f' : ''} or 0:02:15.`;
  if (half === '') return `It needs a value. ${takes}`;
  const sum = sumOf(half, termsOf({ unit: 'f', least, most, at: { rate, beat } }));
  if (sum === undefined) return `“${half.slice(0, 24)}” is not understood here. ${takes}`;
  const frames = frame(roundHalfUp(Number(sum.toPrecision(12))));
  if (frames < least) return `At least ${framesAndSeconds(roundHalfUp(least), rate).replace('  ', ', ')}.`;
  if (frames > most) return `At most ${framesAndSeconds(Math.floor(most), rate).replace('  ', ', ')}.`;
  return frames;
}

/** Percent from `200`, `200 %`, `2x` or `2,5x`, within limits; the sentence that refuses what is none. */
export const parseShare = (typed: string, least: number, most: number): number | string =>
  parseAmount(typed, { unit: '%', also: { x: 100, '×': 100 }, least, most });
