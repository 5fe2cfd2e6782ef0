import fc from 'fast-check';
import { DEFAULT_ENVELOPES, type Envelope } from '../beats/envelope';
import { type Music, musicFrom } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import { pathFrames, sampleFrames, spanPath, staysInside } from '../path/path';
import { rational } from '../time/rational';
import { applyChain } from './chain';
import { type ChainStep, moveById } from './registry';

const table: FrameTable = { kind: 'constant', rate: rational(60), count: 600 };
const rates = fc.constantFrom(rational(24), rational(30), rational(30_000, 1001), rational(60));

const envelope: fc.Arbitrary<Envelope> = fc.record({
  riseMs: fc.integer({ min: 0, max: 1500 }),
  holdMs: fc.integer({ min: 0, max: 1500 }),
  fallMs: fc.integer({ min: 1, max: 3000 }),
  leastPercent: fc.integer({ min: 0, max: 100 }),
});

/** Songs as they come: any tempo, drifting, begun before or after the piece, with accents anywhere. */
const songs: fc.Arbitrary<Music> = fc
  .record({
    period: fc.double({ min: 6, max: 60, noNaN: true }),
    drift: fc.double({ min: -0.004, max: 0.004, noNaN: true }),
    from: fc.double({ min: -200, max: 60, noNaN: true }),
    firstBar: fc.integer({ min: 0, max: 3 }),
    beatsPerBar: fc.integer({ min: 1, max: 7 }),
    low: envelope,
    accents: fc.array(
      fc.record({
        at: fc.double({ min: -20, max: 400, noNaN: true }),
        band: fc.constantFrom('low' as const, 'mid' as const, 'high' as const),
        strength: fc.double({ min: 0, max: 3, noNaN: true }),
      }),
      { maxLength: 60 },
    ),
  })
  .map(({ period, drift, from, firstBar, beatsPerBar, low, accents }) => {
    const beats = [from];
    for (let i = 0; i < 60; i++) beats.push(beats[i]! + period * (1 + drift * i));
    return {
      beats,
      firstBar,
      beatsPerBar,
      accents: accents.toSorted((a, b) => a.at - b.at),
      envelopes: { ...DEFAULT_ENVELOPES, low },
    };
  });

const which = fc.constantFrom('every', 'second', 'fourth', 'bar', 'half');
const beats = fc.constantFrom({ beats: 0.25 }, { beats: 1 }, { beats: 4 }, { beats: 7.5 });
/** Values of moves that listen, anywhere in what they take. */
const steps = fc.oneof(
  fc.record({
    move: fc.constant('surge'),
    values: fc.record({
      rest: fc.integer({ min: 2, max: 300 }),
      peak: fc.integer({ min: 2, max: 3000 }),
      rise: fc.integer({ min: 0, max: 60 }),
      fall: fc.integer({ min: 0, max: 60 }),
      which,
    }),
  }),
  fc.record({
    move: fc.constant('push'),
    values: fc.record({
      band: fc.constantFrom('low', 'all'),
      least: fc.integer({ min: 0, max: 100 }),
      amount: fc.integer({ min: 1, max: 3000 }),
      shape: fc.constantFrom('own', 'envelope'),
      fall: fc.integer({ min: 1, max: 90 }),
      then: fc.constantFrom('carries', 'returns'),
    }),
  }),
  fc.record({
    move: fc.constant('land'),
    values: fc.record({
      mark: fc.integer({ min: 0, max: 599 }),
      beat: fc.integer({ min: 0, max: 12 }),
      before: fc.integer({ min: 5, max: 800 }),
      after: fc.integer({ min: 5, max: 800 }),
    }),
  }),
  fc.record({
    move: fc.constant('bounce'),
    values: fc.record({
      instants: fc.array(fc.integer({ min: 0, max: 599 }), { minLength: 2, maxLength: 6 }),
      soft: fc.integer({ min: 0, max: 100 }),
      on: fc.constantFrom('every', 'half', 'bar'),
    }),
  }),
  fc.record({ move: fc.constant('hold'), values: fc.record({ at: fc.nat(60), length: beats }) }),
  fc.record({ move: fc.constant('stutter'), values: fc.record({ at: fc.nat(60), slice: beats }) }),
  fc.record({ move: fc.constant('scratch'), values: fc.record({ at: fc.nat(60), slice: beats }) }),
  fc.record({
    move: fc.constant('fit'),
    values: fc.record({ length: beats, by: fc.constantFrom('repeats', 'speed', 'trimming') }),
  }),
);
const asStep = ({ move, values }: { move: string; values: object }, i: number): ChainStep => ({
  id: `s${i}`,
  move,
  on: true,
  values: { ...moveById(move)!.defaults, ...values },
});

describe('moves on any music, with any values', () => {
  it('give a path inside the clip, and never a number that is none', () => {
    fc.assert(
      fc.property(rates, songs, fc.array(steps, { minLength: 1, maxLength: 3 }), (rate, music, chain) => {
        const base = spanPath(table, 120, 300, rate);
        const { path, steps: applied } = applyChain(base, chain.map(asStep), { table, music });
        expect(pathFrames(path)).toBeGreaterThan(0);
        for (const s of path.segments) {
          expect(s.length).toBeGreaterThan(0);
          for (const v of [s.from, s.to, s.speedIn, s.speedOut]) expect(Number.isFinite(v)).toBe(true);
        }
        expect(staysInside(path, table)).toBe(true);
        for (const step of applied)
          for (const notice of step.notices) expect(notice.text).not.toMatch(/NaN|undefined|Infinity/);
      }),
      { numRuns: 300 },
    );
  });

  it('a length in beats begun on a beat ends on one, to the frame', () => {
    fc.assert(
      fc.property(
        rates,
        songs,
        fc.integer({ min: 0, max: 10 }),
        fc.integer({ min: 1, max: 8 }),
        (rate, music, n, count) => {
          const first = music.beats.findIndex((b) => b >= 0) + n;
          const [from, to] = [music.beats[first], music.beats[first + count]];
          if (from === undefined || to === undefined) return;
          const start = Math.round(from);
          const fit = asStep({ move: 'fit', values: { length: { beats: count }, by: 'speed' } }, 0);
          const here = musicFrom(music, start);
          const { path } = applyChain(spanPath(table, 0, 300, rate), [fit], { table, music: here });
          expect(Math.abs(start + pathFrames(path) - to)).toBeLessThanOrEqual(1);
        },
      ),
      { numRuns: 200 },
    );
  });

  it('a landing is exact, or says why it is not', () => {
    fc.assert(
      fc.property(
        rates,
        songs,
        fc.integer({ min: 150, max: 290 }),
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 20, max: 300 }),
        (rate, music, mark, beat, before) => {
          const base = spanPath(table, 120, 300, rate);
          const land = asStep({ move: 'land', values: { mark, beat, before, after: 100 } }, 0);
          const { path, steps: applied } = applyChain(base, [land], { table, music });
          const first = music.beats.findIndex((b) => b > -1 + 1e-6);
          const at = Math.floor(Math.max(0, music.beats[first + beat]!) + 1e-6);
          const shown = sampleFrames(path, table);
          if (shown[at] !== mark) expect(applied[0]!.notices.length).toBeGreaterThan(0);
        },
      ),
      { numRuns: 200 },
    );
  });
});
