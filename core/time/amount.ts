import { parseFrames } from './entry';
import { type Rational, toNumber } from './rational';
import { type Frame, roundHalfUp } from './units';

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
}

const text = (n: number, { unit }: AmountKind): string =>
  `${Number(n.toFixed(3))}${unit === undefined ? '' : ` ${unit}`}`;

/** What may be typed, in words. */
const range = (kind: AmountKind): string =>
  `${kind.whole ? 'A whole number' : 'A number'} from ${text(kind.least, kind)} to ${text(kind.most, kind)}.`;

/**
 * An amount as a person types it: `127,5`, `-3.5 dB`, `1.5 s` where milliseconds are meant. Gives the sentence that
 * refuses what is none, or lies outside its limits; an empty field is refused, not taken for 0.
 */
export function parseAmount(typed: string, kind: AmountKind): number | string {
  const trimmed = typed.trim();
  if (trimmed === '') return `It needs a value. ${range(kind)}`;
  const match = /^([+\-−]?)\s*(\d+(?:[.,]\d*)?|[.,]\d+)\s*(.*)$/.exec(trimmed);
  const unit = match?.[3]?.trim().toLowerCase() ?? '';
  const factor =
    unit === '' || unit === kind.unit?.toLowerCase()
      ? 1
      : Object.entries(kind.also ?? {}).find(([name]) => name.toLowerCase() === unit)?.[1];
  if (!match || factor === undefined)
    return `“${trimmed.slice(0, 24)}” is not understood here. ${range(kind)}`;
  const size = Number(match[2]!.replace(',', '.')) * factor;
  // A tenth of a tenth is not a little more than that.
  const value = Number((match[1] === '-' || match[1] === '−' ? -size : size).toPrecision(12));
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
 * Frames as `parseFrames` takes them, within limits; of a pair that is shown as `shown` the half that was changed. Gives
 * the sentence that refuses what is none.
 */
export function parseLength(
  typed: string,
  rate: Rational,
  { least, most, shown = '' }: { readonly least: number; readonly most: number; readonly shown?: string },
): Frame | string {
  const half = changedHalf(typed, shown);
  const takes = 'Frames, seconds or a time, such as 40, 1.5 s or 0:02:15.';
  if (half === '') return `It needs a value. ${takes}`;
  const frames = parseFrames(half, rate);
  if (frames === undefined) return `“${half.slice(0, 24)}” is not understood here. ${takes}`;
  if (frames < least) return `At least ${framesAndSeconds(roundHalfUp(least), rate).replace('  ', ', ')}.`;
  if (frames > most) return `At most ${framesAndSeconds(Math.floor(most), rate).replace('  ', ', ')}.`;
  return frames;
}

/** Percent from `200`, `200 %`, `2x` or `2,5x`, within limits; the sentence that refuses what is none. */
export const parseShare = (typed: string, least: number, most: number): number | string =>
  parseAmount(typed, { unit: '%', also: { x: 100, '×': 100 }, least, most });
