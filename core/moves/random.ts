import { uniformFloat64 } from 'pure-rand/distribution/uniformFloat64';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Numbers from 0 up to 1, the same for the same seed. */
export type Random = () => number;

/** A whole number scattered over all 32 bits: numbers that lie near each other have nothing to do with each other any more (the finaliser of MurmurHash3, Appleby 2011). */
export function scattered(n: number): number {
  let h = n | 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/**
 * A row of random numbers straight from the generator: the songs that beats are fitted to and measured with are drawn
 * by it, and stay what they are. Rows of neighbouring seeds begin alike.
 */
export function unscattered(seed: number): Random {
  const generator = xoroshiro128plus(seed);
  return () => uniformFloat64(generator);
}

/**
 * A row of random numbers from a whole-number seed. The generator's first numbers follow its seed almost in a straight
 * line, so the seed is scattered before.
 */
export const seeded = (seed: number): Random =>
  unscattered(scattered(Math.imul(seed, 0x9e3779b1) + 0x7f4a7c15));

/** A random number from 0 up to 1 for a place of a row: the same however often and in whatever order it is asked for. */
export const chance = (seed: number, row: number, place: number): number =>
  scattered(scattered(scattered(seed + 0x3c6ef372) + row + 0x1b873593) + place + 1) / 2 ** 32;

/** The list in another order (Fisher and Yates). */
export function shuffled<T>(list: readonly T[], random: Random): T[] {
  const out = [...list];
  for (let i = out.length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [out[i], out[j]] = [out[j]!, out[i]!];
  }
  return out;
}
