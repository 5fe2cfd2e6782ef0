import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { boomerang } from '../moves/boomerang';
import { fit } from '../moves/fit';
import { speed } from '../moves/speed';
import { STANDARD_RATES, rational } from '../time/rational';
import {
  joinPaths,
  pathFrames,
  reversePath,
  sampleFrames,
  sampleInstants,
  spanPath,
  speedUp,
  splitPath,
  staysInside,
} from './path';
import { type Segment, kindOf, sourceAt, speedAt } from './segment';

const rates = fc.constantFrom(...STANDARD_RATES);
const table = rates.map((rate): FrameTable => ({ kind: 'constant', rate, count: 1200 }));
const segment = fc
  .record({
    frames: fc.integer({ min: 1, max: 200 }),
    from: fc.double({ min: 0, max: 10000, noNaN: true }),
    to: fc.double({ min: 0, max: 10000, noNaN: true }),
    speedIn: fc.double({ min: -30, max: 30, noNaN: true }),
    speedOut: fc.double({ min: -30, max: 30, noNaN: true }),
  })
  .map((s) => ({ ...s, speedIn: s.speedIn || 0, speedOut: s.speedOut || 0 }) as Segment);
const path = fc.record({ rate: rates, segments: fc.array(segment, { minLength: 1, maxLength: 6 }) });

const close = (a: Float64Array, b: Float64Array) => {
  expect(a.length).toBe(b.length);
  a.forEach((v, i) => expect(Math.abs(v - b[i]!)).toBeLessThan(1e-6));
};

describe('time paths', () => {
  it('split anywhere keep their samples', () => {
    fc.assert(
      fc.property(path, fc.nat(), (p, n) => {
        const at = n % (pathFrames(p) + 1);
        const [head, tail] = splitPath(p, at);
        expect(pathFrames(head)).toBe(at);
        close(sampleInstants(joinPaths(p.rate, [head, tail])), sampleInstants(p));
      }),
    );
  });

  it('reversed show the same instants from the end, and reversed twice are the path', () => {
    fc.assert(
      fc.property(path, (p) => {
        close(sampleInstants(reversePath(p)).reverse(), sampleInstants(p));
        expect(reversePath(reversePath(p))).toEqual(p);
      }),
    );
  });

  it('through any chain of moves stay inside the clip, whole and without NaN', () => {
    const moves = fc.array(
      fc.oneof(
        fc
          .record({
            percent: fc.integer({ min: 5, max: 3000 }),
            direction: fc.constantFrom('forward' as const, 'backward' as const),
          })
          .map(
            (v) => (p: Parameters<typeof speedUp>[0], t: FrameTable) =>
              speed.apply(p, { ...speed.defaults, ...v }, { table: t }).path,
          ),
        fc
          .record({
            trips: fc.integer({ min: 1, max: 4 }),
            backPercent: fc.integer({ min: 5, max: 900 }),
            turn: fc.constantFrom('once' as const, 'twice' as const),
            ends: fc.constantFrom('home' as const, 'away' as const),
          })
          .map(
            (v) => (p: Parameters<typeof speedUp>[0], t: FrameTable) =>
              boomerang.apply(p, { ...boomerang.defaults, ...v }, { table: t }).path,
          ),
        fc
          .integer({ min: 1, max: 500 })
          .map(
            (length) => (p: Parameters<typeof speedUp>[0], t: FrameTable) =>
              fit.apply(p, { length, by: 'repeats' }, { table: t }).path,
          ),
      ),
      { maxLength: 3 },
    );
    fc.assert(
      fc.property(
        table,
        rates,
        fc.nat(1199),
        fc.integer({ min: 1, max: 300 }),
        moves,
        (t, rate, first, length, chain) => {
          let p = spanPath(t, first, first + length, rate);
          for (const move of chain) p = move(p, t);
          expect(staysInside(p, t)).toBe(true);
          expect(p.segments.every((s) => Number.isInteger(s.frames) && s.frames >= 1)).toBe(true);
          expect(p.segments.every((s) => [s.from, s.to, s.speedIn, s.speedOut].every(Number.isFinite))).toBe(
            true,
          );
          const end = Math.min(1200, first + length);
          expect(sampleFrames(p, t).every((f) => f >= first && f < end)).toBe(true);
        },
      ),
    );
  });

  it('at real time show every frame of a clip of the same rate once', () => {
    for (const rate of STANDARD_RATES) {
      const p = spanPath({ kind: 'constant', rate, count: 500000 }, 400000, 400050, rate);
      expect([...sampleFrames(p, { kind: 'constant', rate, count: 500000 })]).toEqual(
        Array.from({ length: 50 }, (_, i) => 400000 + i),
      );
    }
  });

  it('sped up keep their joins closed', () => {
    const t: FrameTable = { kind: 'constant', rate: rational(30), count: 300 };
    const [a, b] = splitPath(spanPath(t, 0, 101, rational(30)), 50);
    const fast = speedUp(joinPaths(a.rate, [a, b]), 3);
    expect(fast.segments.map((s) => s.frames)).toEqual([17, 17]);
    expect(fast.segments[0]!.to).toBe(fast.segments[1]!.from);
  });
});

describe('segments', () => {
  const ramp: Segment = { frames: 10, from: 0 as never, to: 0.8 as never, speedIn: 1.2, speedOut: 3.6 };

  it('a linear ramp is exact: case 8 covers 24 source frames in 10', () => {
    expect(sourceAt(ramp, 10, rational(30)) * 30).toBeCloseTo(24, 9);
    for (let i = 0; i <= 10; i++) expect(speedAt(ramp, i, rational(30))).toBeCloseTo(1.2 + 0.24 * i, 9);
  });

  it('say what they are', () => {
    expect(kindOf(ramp)).toBe('ramp');
    expect(kindOf({ ...ramp, speedIn: 0, speedOut: 0, to: ramp.from })).toBe('hold');
    expect(kindOf({ ...ramp, speedIn: 2.4, speedOut: 2.4 })).toBe('forward');
    expect(kindOf({ ...ramp, from: ramp.to, to: ramp.from, speedIn: -2.4, speedOut: -2.4 })).toBe('backward');
  });
});
