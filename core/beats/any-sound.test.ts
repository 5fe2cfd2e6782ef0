import fc from 'fast-check';
import { unscattered } from '../moves/random';
import { analyse } from './analyse';
import { BeatGridSchema } from './grid';

const RATE_HZ = 22_050;

/** A sound that nobody would call a song. */
const anySound = fc
  .record({
    lengthS: fc.oneof(
      fc.double({ min: 0.01, max: 2, noNaN: true }),
      fc.double({ min: 2, max: 14, noNaN: true }),
    ),
    kind: fc.constantFrom(
      'noise',
      'tone',
      'one click',
      'clicks',
      'a step',
      'far too loud',
      'silence, then noise',
    ),
    hz: fc.double({ min: 0.2, max: 9000, noNaN: true }),
    seed: fc.nat(1000),
  })
  .map(({ lengthS, kind, hz, seed }) => {
    const random = unscattered(seed);
    const count = Math.max(1, Math.round(lengthS * RATE_HZ));
    const every = Math.max(40, Math.round(RATE_HZ / Math.min(40, hz)));
    const at = Math.floor(random() * count);
    return {
      words: `${kind}, ${lengthS.toFixed(2)} s`,
      mono: Float32Array.from({ length: count }, (_, i) => {
        if (kind === 'noise') return random() - 0.5;
        if (kind === 'far too loud') return 1e6 * (random() - 0.5);
        if (kind === 'tone') return Math.sin((2 * Math.PI * hz * i) / RATE_HZ);
        if (kind === 'one click') return i === at ? 1 : 0;
        if (kind === 'clicks') return i % every < 20 ? 1 : 0;
        if (kind === 'a step') return i < at ? 0 : 0.7;
        return i < at ? 0 : random() - 0.5;
      }),
    };
  });

it('any sound has beats in order, within it, and odds that are odds', () => {
  fc.assert(
    fc.property(anySound, ({ mono }) => {
      const { grid, second, likely, barsLikely } = analyse(mono, RATE_HZ);
      const lengthS = mono.length / RATE_HZ;
      for (const found of [grid, second ?? grid]) {
        expect(BeatGridSchema.safeParse(found).success).toBe(true);
        expect(
          found.beats.every((b, i) => b >= 0 && b <= lengthS + 0.05 && b >= (found.beats[i - 1] ?? 0)),
        ).toBe(true);
        expect(found.firstBar).toBeLessThan(Math.max(1, found.beatsPerBar));
      }
      for (const odds of [likely, barsLikely]) {
        expect(odds).toBeGreaterThanOrEqual(0);
        expect(odds).toBeLessThanOrEqual(1);
      }
      if (grid.beats.length === 0) expect(likely).toBe(0);
    }),
    { numRuns: 60 },
  );
});
