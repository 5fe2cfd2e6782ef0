import { chance, scattered, seeded } from './random';

const mean = (v: readonly number[]) => v.reduce((a, b) => a + b, 0) / v.length;

/** How far two rows go together, -1 to 1 (Pearson). */
function correlation(a: readonly number[], b: readonly number[]): number {
  const [ma, mb] = [mean(a), mean(b)];
  const over = a.reduce((sum, v, i) => sum + (v - ma) * (b[i]! - mb), 0);
  const spread = (v: readonly number[], m: number) => Math.sqrt(v.reduce((sum, x) => sum + (x - m) ** 2, 0));
  return over / (spread(a, ma) * spread(b, mb));
}

const COUNT = 2000;
const row = (of: (i: number) => number, count = COUNT) => Array.from({ length: count }, (_, i) => of(i));
/** Rows of so many numbers by chance stay below this, but for one in ten thousand. */
const NOTHING = 4 / Math.sqrt(COUNT);

describe('chance', () => {
  it.each([0, 1, 2, 3, 4, 5, 77, -9, 2 ** 31 - 1])('has no rhythm: seed %i', (seed) => {
    const values = row((i) => chance(seed, 1, i));
    for (let lag = 1; lag <= 12; lag++)
      expect(Math.abs(correlation(values.slice(0, -lag), values.slice(lag)))).toBeLessThan(NOTHING);
    expect(Math.abs(mean(values) - 0.5)).toBeLessThan(NOTHING);
    expect(Math.min(...values)).toBeGreaterThanOrEqual(0);
    expect(Math.max(...values)).toBeLessThan(1);
  });

  it('rows and seeds have nothing to do with each other', () => {
    for (const [a, b] of [
      [row((i) => chance(1, 0, i)), row((i) => chance(1, 1, i))],
      [row((i) => chance(1, 0, i)), row((i) => chance(1, 2, i))],
      [row((i) => chance(1, 0, i)), row((i) => chance(2, 0, i))],
      [row((i) => chance(i, 0, 5)), row((i) => chance(i, 5, 0))],
    ])
      expect(Math.abs(correlation(a!, b!))).toBeLessThan(NOTHING);
  });

  it('the first, second, third number of a row is by chance too, whatever the seed', () => {
    for (const place of [0, 1, 2]) {
      const values = row((seed) => {
        const random = seeded(seed);
        for (let i = 0; i < place; i++) random();
        return random();
      });
      for (let lag = 1; lag <= 4; lag++)
        expect(Math.abs(correlation(values.slice(0, -lag), values.slice(lag)))).toBeLessThan(NOTHING);
      // Evenly over ten parts.
      const parts = new Array<number>(10).fill(0);
      for (const v of values) parts[Math.floor(10 * v)]!++;
      for (const n of parts) expect(Math.abs(n - COUNT / 10)).toBeLessThan(70);
    }
  });

  it('numbers that are scattered are all others', () => {
    expect(new Set(row(scattered)).size).toBe(COUNT);
  });
});
