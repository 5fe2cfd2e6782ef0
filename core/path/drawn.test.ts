import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { boomerang } from '../moves/boomerang';
import { ramp } from '../moves/ramp';
import { scratch } from '../moves/scratch';
import { applyChain } from '../moves/chain';
import { MOVES, moveById } from '../moves/registry';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { rational } from '../time/rational';
import { type DrawnPoint, drawnPath, pointsOfPath, sourceForSpeed, speedUpTo } from './drawn';
import { pathLength, sampleFrames, sampleInstants, spanPath, staysInside } from './path';
import { speedAt } from './segment';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 300 };
const uneven: FrameTable = {
  kind: 'variable',
  starts: Array.from({ length: 200 }, (_, n) => (n + Math.floor(n / 3)) / 30),
  endS: 266 / 30,
};
const sharp = (at: number, source: number): DrawnPoint => ({ at, source, before: 0, after: 0 });
const draw = (points: DrawnPoint[], origin = 100) => drawnPath(points, origin, table, rate);
const shown = (points: DrawnPoint[], origin = 100) => [...sampleFrames(draw(points, origin).path, table)];
const up = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);

describe('paths drawn by hand', () => {
  it('run straight between sharp points: forward, held, backward', () => {
    expect(shown([sharp(0, 0), sharp(10, 10), sharp(15, 10), sharp(25, 0)])).toEqual([
      ...up(100, 109),
      ...Array.from({ length: 5 }, () => 110),
      ...up(100, 109).reverse(),
    ]);
  });

  it('take two points at one frame as a jump that is meant', () => {
    const { path } = draw([sharp(0, 0), sharp(10, 10), sharp(10, 50), sharp(15, 55)]);
    expect(path.segments.map((s) => s.cutBefore)).toEqual([undefined, true]);
    expect([...sampleFrames(path, table)]).toEqual([...up(100, 109), ...up(150, 154)]);
  });

  it('change speed over exactly the softness of a point', () => {
    const { path } = draw([sharp(0, 0), { at: 30, source: 30, before: 10, after: 6 }, sharp(60, 0)]);
    expect(path.segments.map((s) => s.length)).toEqual([20, 10, 6, 24]);
    const [even, slowing, gaining] = path.segments;
    expect(slowing!.speedOut).toBe(0);
    expect(gaining!.speedIn).toBe(0);
    expect(slowing!.speedIn).toBeCloseTo(even!.speedOut, 9);
    // 20 frames even and 10 at half of it on the mean make 30 source frames.
    expect(speedAt(even!, 5, rate)).toBeCloseTo(30 / 25, 9);
  });

  it('soft on one side only, the point keeps the speed of the sharp side', () => {
    const { path } = draw([sharp(0, 0), { at: 20, source: 20, before: 0, after: 8 }, sharp(40, 60)]);
    expect(path.segments[0]!.speedOut).toBeCloseTo(1, 9);
    expect(path.segments[1]!.speedIn).toBeCloseTo(1, 9);
    expect(path.segments[2]!.speedIn).toBeGreaterThan(2);
  });

  it('take over any move within a fifth of a frame, softness included', () => {
    const music = {
      ...{ beats: Array.from({ length: 40 }, (_, i) => 4 + 13.7 * i), firstBar: 0, beatsPerBar: 4 },
      accents: Array.from({ length: 40 }, (_, i) => ({
        at: 4 + 13.7 * i,
        band: 'low' as const,
        strength: 1,
      })),
      envelopes: DEFAULT_ENVELOPES,
    };
    const context = { table, music };
    const span = spanPath(table, 60, 180, rate);
    const soft = { instants: [80, 140, 100, 170], leg: 30, soft: 100 };
    const eased = {
      points: [
        { at: 0, percent: 40 },
        { at: 60, percent: 240 },
      ],
      before: 20,
      after: 20,
    };
    for (const [id, values] of [
      ...MOVES.map((m) => [m.id, m.suggest?.(span, context) ?? {}] as const),
      ['bounce', soft] as const,
      ['ramp', eased] as const,
      ['spool', { factor: 4, ease: 20 }] as const,
    ]) {
      const link = { id, move: id, on: true, values: { ...moveById(id)!.defaults, ...values } };
      const { path } = applyChain(span, [link], context);
      const { points, origin } = pointsOfPath(path, table);
      const again = sampleInstants(drawnPath(points, origin, table, rate).path);
      const before = sampleInstants(path);
      const off = Math.max(...before.map((t, i) => Math.abs(t - (again[i] ?? t)) * 30));
      expect([id, Number(Math.max(0, off - 0.2 - 1e-6).toFixed(3))]).toEqual([id, 0]);
    }
  });

  it('run at the speed that is typed for a stretch with soft ends', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 0, max: 20 }),
        fc.integer({ min: 20, max: 300 }),
        (before, after, percent) => {
          const points = [
            sharp(0, 0),
            { at: 30, source: 20, before, after },
            { ...sharp(70, 60), before },
            sharp(90, 10),
          ];
          const source = sourceForSpeed(points, 2, percent / 100, 100, table, rate);
          const typed = points.with(2, { ...points[2]!, source });
          const speed = speedUpTo(typed, 2, 100, table, rate)!;
          // Beyond the end of the clip there is nothing to run at.
          if (100 + source < 299) expect(speed * 100).toBeCloseTo(percent, 0);
          const { path } = drawnPath(typed, 100, table, rate);
          const fastest = Math.max(...path.segments.filter((s) => s.part === 1).map((s) => s.speedIn));
          expect(fastest).toBeGreaterThanOrEqual(speed - 1e-6);
        },
      ),
    );
  });

  it('cannot leave the clip, whatever the points', () => {
    const point = fc.record({
      at: fc.integer({ min: 0, max: 400 }),
      source: fc.integer({ min: -400, max: 400 }),
      before: fc.integer({ min: 0, max: 80 }),
      after: fc.integer({ min: 0, max: 80 }),
    });
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 2, maxLength: 12 }),
        fc.constantFrom(table, uneven),
        (points, clip) => {
          const { path } = drawnPath(points, 100, clip, rate);
          const span = Math.max(...points.map((p) => p.at)) - Math.min(...points.map((p) => p.at));
          // A jump is no path: what draws leaves the path as it was.
          if (span === 0) return expect(path.segments).toEqual([]);
          expect(pathLength(path)).toBeCloseTo(span, 6);
          expect(staysInside(path, clip)).toBe(true);
          expect(sampleInstants(path).every(Number.isFinite)).toBe(true);
        },
      ),
      { examples: [[[sharp(4, 0), sharp(4, 9)], table]] },
    );
  });

  it('say by how far they went beyond it', () => {
    expect(draw([sharp(0, 0), sharp(30, 214)]).outside).toBe(14);
    expect(draw([sharp(0, 0), sharp(30, 30)]).outside).toBe(0);
  });
});

describe('points of a path', () => {
  const span = spanPath(table, 100, 160, rate);
  const context = { table };

  it.each([
    ['the span', span],
    ['a boomerang turning once', boomerang.apply(span, boomerang.defaults, context).path],
    ['a scratch', scratch.apply(span, { ...scratch.defaults, at: 20, slice: 6 }, context).path],
  ])('draw %s frame for frame', (_, path) => {
    const { points, origin } = pointsOfPath(path, table);
    expect([...sampleFrames(drawnPath(points, origin, table, rate).path, table)]).toEqual([
      ...sampleFrames(path, table),
    ]);
  });

  it('follow changes of speed to a fifth of a frame, with few points', () => {
    const { path } = ramp.apply(span, ramp.defaults, context);
    const { points, origin } = pointsOfPath(path, table);
    const drawn = sampleInstants(drawnPath(points, origin, table, rate).path);
    sampleInstants(path).forEach((t, i) => expect(Math.abs(t - drawn[i]!) * 30).toBeLessThan(0.21));
    expect(points.length).toBeLessThan(12);
  });
});
