import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { applyChain } from '../moves/chain';
import { moveById } from '../moves/registry';
import { STANDARD_RATES, rational } from '../time/rational';
import {
  instantAt,
  joinPaths,
  pathLength,
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
    length: fc.double({ min: 0.01, max: 200, noNaN: true }),
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
      fc.property(path, fc.double({ min: 0, max: 1, noNaN: true }), (p, share) => {
        const at = share * pathLength(p);
        const [head, tail] = splitPath(p, at);
        expect(Math.abs(pathLength(head) - at)).toBeLessThan(1e-6);
        close(sampleInstants(joinPaths(p.rate, [head, tail])), sampleInstants(p));
      }),
    );
  });

  it('reversed show the same instants from the end, and reversed twice are the path', () => {
    fc.assert(
      fc.property(path, (p) => {
        const end = pathLength(p);
        let at = 0;
        const joins = p.segments.map(({ length }) => (at += length));
        // On a join it is one of two instants, and rounding says which.
        const clear = (instant: number) => joins.every((join) => Math.abs(join - instant) > 1e-6);
        for (const share of [0.03, 0.31, 0.5, 0.77, 0.99].filter((s) => clear(end * s)))
          expect(instantAt(reversePath(p), end * (1 - share))).toBeCloseTo(instantAt(p, end * share), 5);
        expect(reversePath(reversePath(p))).toEqual(p);
      }),
    );
  });

  it('through any chain of moves with any values stay inside the clip, without empty parts and without NaN', () => {
    const whole = (max: number, min = 0) => fc.integer({ min, max });
    const anyStep = fc.oneof(
      fc.record({
        move: fc.constant('speed'),
        values: fc.record({ percent: whole(3000, 5), direction: fc.constantFrom('forward', 'backward') }),
      }),
      fc.record({
        move: fc.constant('boomerang'),
        values: fc.record({
          trips: whole(3, 1),
          backPercent: whole(900, 5),
          turn: fc.constantFrom('once', 'twice'),
          ends: fc.constantFrom('home', 'away'),
        }),
      }),
      fc.record({
        move: fc.constant('ramp'),
        values: fc.record({
          points: fc.array(fc.record({ at: whole(300), percent: whole(800, 2) }), {
            minLength: 1,
            maxLength: 4,
          }),
          before: whole(40),
          after: whole(40),
          soft: fc.constantFrom('none', 'in', 'out', 'both'),
        }),
      }),
      fc.record({
        move: fc.constant('rewind'),
        values: fc.record({
          from: fc.constantFrom('end', 'frame'),
          at: whole(300, 1),
          to: whole(1500),
          percent: whole(900, 5),
        }),
      }),
      fc.record({
        move: fc.constant('scratch'),
        values: fc.record({
          at: whole(300),
          slice: whole(40, 1),
          strokes: whole(5, 1),
          shape: fc.constantFrom('even', 'snap', 'drag'),
          faster: whole(90),
        }),
      }),
      fc.record({
        move: fc.constant('stutter'),
        values: fc.record({ at: whole(300), slice: whole(40, 1), repeats: whole(6, 2), shorter: whole(90) }),
      }),
      fc.record({ move: fc.constant('hold'), values: fc.record({ at: whole(300), length: whole(60, 1) }) }),
      fc.record({
        move: fc.constant('spool'),
        values: fc.record({
          factor: whole(30, 2),
          direction: fc.constantFrom('forward', 'backward'),
          ease: whole(40),
        }),
      }),
      fc.record({
        move: fc.constant('coast'),
        values: fc.record({ from: whole(800, 1), to: whole(800, 1), over: whole(200, 2) }),
      }),
      fc.record({ move: fc.constant('step'), values: fc.record({ rate: whole(60, 1) }) }),
      fc.record({
        move: fc.constant('bounce'),
        values: fc.record({
          instants: fc.array(whole(1500), { minLength: 2, maxLength: 5 }),
          leg: whole(40, 1),
          soft: whole(100),
        }),
      }),
      fc.record({
        move: fc.constant('pattern'),
        values: fc.record({
          slices: whole(8, 1),
          length: whole(12, 1),
          steps: fc.array(
            fc.record({ slice: whole(8, 1), way: fc.constantFrom('forward', 'backward', 'hold', 'off') }),
            { minLength: 1, maxLength: 8 },
          ),
        }),
      }),
      fc.record({
        move: fc.constant('fit'),
        values: fc.record({ length: whole(500, 1), by: fc.constantFrom('repeats', 'speed', 'trimming') }),
      }),
    );
    const zone = fc.option(fc.record({ from: whole(100), length: whole(100, 1) }), { nil: undefined });
    fc.assert(
      fc.property(
        table,
        rates,
        fc.nat(1199),
        whole(300, 1),
        fc.array(fc.tuple(anyStep, zone), { maxLength: 4 }),
        (t, rate, first, length, steps) => {
          const chain = steps.map(([{ move, values }, z], i) => ({
            id: String(i),
            move,
            on: true,
            values: { ...moveById(move)!.defaults, ...values },
            ...(z && { zone: { from: z.from, to: z.from + z.length } }),
          }));
          const { path: p, steps: applied } = applyChain(spanPath(t, first, first + length, rate), chain, {
            table: t,
          });
          expect(applied.flatMap((s) => s.notices).filter((n) => n.level === 'error')).toEqual([]);
          expect(p.segments.length).toBeGreaterThan(0);
          expect(staysInside(p, t)).toBe(true);
          expect(p.segments.every((s) => s.length > 0)).toBe(true);
          expect(p.segments.every((s) => [s.from, s.to, s.speedIn, s.speedOut].every(Number.isFinite))).toBe(
            true,
          );
        },
      ),
      { numRuns: 400 },
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
    expect(fast.segments.map((s) => s.length)).toEqual([50 / 3, 17]);
    expect(fast.segments[0]!.to).toBe(fast.segments[1]!.from);
  });
});

describe('segments', () => {
  const ramp: Segment = { length: 10, from: 0 as never, to: 0.8 as never, speedIn: 1.2, speedOut: 3.6 };

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
