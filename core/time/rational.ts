import { z } from 'zod';

/** A positive fraction of whole numbers in lowest terms; frame rates are frames a second. */
export interface Rational {
  readonly num: number;
  readonly den: number;
}

function greatestCommonDivisor(a: number, b: number): number {
  while (b !== 0) [a, b] = [b, a % b];
  return a;
}

/** `num / den` in lowest terms. Throws unless both are positive whole numbers. */
export function rational(num: number, den = 1): Rational {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || num <= 0 || den <= 0)
    throw new RangeError(`not a positive fraction: ${num}/${den}`);
  const divisor = greatestCommonDivisor(num, den);
  return { num: num / divisor, den: den / divisor };
}

/** The value as a double. */
export function toNumber(r: Rational): number {
  return r.num / r.den;
}

export function sameRational(a: Rational, b: Rational): boolean {
  return a.num === b.num && a.den === b.den;
}

/** The rates a project can have, and the ones a clip's measured rate is recognised as. */
export const STANDARD_RATES: readonly Rational[] = [
  rational(24000, 1001),
  rational(24),
  rational(25),
  rational(30000, 1001),
  rational(30),
  rational(48),
  rational(50),
  rational(60000, 1001),
  rational(60),
  rational(100),
  rational(120000, 1001),
  rational(120),
  rational(240),
];

/** A rate as people say it: `25`, `29.97`, `23.976`. */
export function rateText(rate: Rational): string {
  const value = toNumber(rate);
  return Number.isInteger(value)
    ? String(value)
    : String(Number(value.toFixed(3)))
        .replace(/^29\.97\d*$/, '29.97')
        .replace(/^59\.94\d*$/, '59.94');
}

/** A frame rate as files hold it. */
export const RationalSchema = z
  .object({ num: z.int().positive().max(1e9), den: z.int().positive().max(1e9) })
  .transform(({ num, den }) => rational(num, den));
