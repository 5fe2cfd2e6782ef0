import fc from 'fast-check';
import { type Repeated, repeatsIn } from './repeats';

const row = (n: number, from = 0) => Array.from({ length: n }, (_, i) => from + i);
const times = <T>(n: number, list: readonly T[]) => Array.from({ length: n }, () => list).flat();
/** There and back, each turn shown once. */
const trip = [...row(40), ...row(38, 1).reverse()];

describe('what repeats in a row', () => {
  test.each<[string, number[], Repeated[]]>([
    ['nothing', row(100), [{ first: 0, period: 100, times: 1 }]],
    ['nothing at all', [], []],
    ['trips', times(5, trip), [{ first: 0, period: 78, times: 5 }]],
    [
      'trips between others',
      [...row(30, 500), ...times(3, trip), ...row(20, 700)],
      [
        { first: 0, period: 30, times: 1 },
        { first: 30, period: 78, times: 3 },
        { first: 264, period: 20, times: 1 },
      ],
    ],
    ['a trip and a half', [...trip, ...trip.slice(0, 39)], [{ first: 0, period: 117, times: 1 }]],
    [
      'two trips and a half',
      [...trip, ...trip, ...trip.slice(0, 39)],
      [
        { first: 0, period: 78, times: 2 },
        { first: 156, period: 39, times: 1 },
      ],
    ],
    ['a held frame', times(300, [7]), [{ first: 0, period: 300, times: 1 }]],
    ['a stutter of eight', times(30, row(8)), [{ first: 0, period: 240, times: 1 }]],
    [
      'a held frame before trips',
      [...times(100, [0]), ...times(3, row(30, 1))],
      [
        { first: 0, period: 100, times: 1 },
        { first: 100, period: 30, times: 3 },
      ],
    ],
    [
      'two kinds of trips',
      [...times(2, row(30)), ...times(3, row(30, 90))],
      [
        { first: 0, period: 30, times: 2 },
        { first: 60, period: 30, times: 3 },
      ],
    ],
  ])('%s', (_, content, expected) => {
    expect(repeatsIn(content, 24)).toEqual(expected);
  });

  test('together they are the whole row, and every period is what it stands for', () => {
    const parts = fc.array(
      fc.record({
        length: fc.integer({ min: 1, max: 12 }),
        from: fc.integer({ min: 0, max: 6 }),
        times: fc.integer({ min: 1, max: 6 }),
      }),
      { maxLength: 12 },
    );
    fc.assert(
      fc.property(parts, fc.integer({ min: 1, max: 8 }), (list, least) => {
        const content = list.flatMap((p) => times(p.times, row(p.length, p.from)));
        const found = repeatsIn(content, least);
        const unrolled = found.flatMap((r) => times(r.times, content.slice(r.first, r.first + r.period)));
        expect(unrolled).toEqual(content);
        for (const r of found) if (r.times > 1) expect(r.period).toBeGreaterThanOrEqual(least);
      }),
    );
  });

  test('an hour and a half of different frames, and of trips, take a moment', () => {
    const began = performance.now();
    expect(repeatsIn(row(160_000), 24)).toHaveLength(1);
    expect(repeatsIn(times(2000, trip), 24)).toEqual([{ first: 0, period: 78, times: 2000 }]);
    expect(repeatsIn(times(160_000, [1]), 24)).toHaveLength(1);
    expect(performance.now() - began).toBeLessThan(20_000);
  });
});
