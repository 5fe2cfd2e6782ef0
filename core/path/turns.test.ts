import fc from 'fast-check';
import { joinsOf, loopJoin } from '../checks/joins';
import type { FrameTable } from '../clip/frame-table';
import { applyChain } from '../moves/chain';
import { moveById } from '../moves/registry';
import { rational } from '../time/rational';
import { pathLength, sampleFrames, sampleInstants, spanPath } from './path';

const at = (hz: number): FrameTable => ({ kind: 'constant', rate: rational(hz), count: 900 });
const rate = rational(30);
const chain = (table: FrameTable, first: number, end: number, ...steps: [string, object][]) =>
  applyChain(
    spanPath(table, first, end, rate),
    steps.map(([move, values], i) => ({
      id: String(i),
      move,
      on: true,
      values: { ...moveById(move)!.defaults, ...values },
    })),
    { table },
  ).path;
const up = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);
const down = (a: number, b: number) => up(b, a).reverse();
const twice = (frames: number[]) => frames.flatMap((f) => [f, f]);

describe('case 10: a turn shown once stays once through what comes after it', () => {
  it('slowed to every frame once, every frame is shown once and the loop closes', () => {
    const table = at(120);
    const path = chain(table, 100, 160, ['boomerang', { trips: 2 }], ['speed', { percent: 25 }]);
    const trip = [...up(100, 159), ...down(158, 101)];
    expect([...sampleFrames(path, table)]).toEqual([...trip, ...trip]);
    expect(joinsOf(path, table).filter((j) => j.skips || j.doubles)).toEqual([]);
    expect(loopJoin(path, table)).toMatchObject({ skips: false, doubles: false, before: 101, after: 100 });
  });

  it('at 30 frames a second and 50 % there are pairs, and none of them is a finding', () => {
    const table = at(30);
    const path = chain(table, 100, 160, ['boomerang', { trips: 2 }], ['speed', { percent: 50 }]);
    const trip = twice([...up(100, 159), ...down(158, 101)]);
    expect([...sampleFrames(path, table)]).toEqual([...trip, ...trip]);
    expect(joinsOf(path, table).filter((j) => j.skips || j.doubles)).toEqual([]);
    expect(loopJoin(path, table)).toMatchObject({ skips: false, doubles: false });
  });

  it('slowing before or after the boomerang comes to the same', () => {
    const table = at(120);
    const before = chain(table, 100, 160, ['speed', { percent: 25 }], ['boomerang', { trips: 2 }]);
    const after = chain(table, 100, 160, ['boomerang', { trips: 2 }], ['speed', { percent: 25 }]);
    expect([...sampleFrames(before, table)]).toEqual([...sampleFrames(after, table)]);
  });

  it('in the slices of a pattern no step is longer or shorter for them', () => {
    const table = at(60);
    for (const length of [3, 5, 8]) {
      const steps = [1, 2, 3, 4].flatMap((slice) => [
        { slice, way: 'forward' },
        { slice, way: 'backward' },
      ]);
      const path = chain(
        table,
        100,
        190,
        ['boomerang', { trips: 3, backPercent: 170 }],
        ['pattern', { slices: 4, length, steps }],
      );
      expect(pathLength(path)).toBeCloseTo(8 * length, 6);
    }
  });

  it('fitted by speed, the result is exactly as long as asked', () => {
    const table = at(60);
    for (const length of [60, 97, 240, 333]) {
      const path = chain(table, 100, 190, ['boomerang', { trips: 2 }], ['fit', { length, by: 'speed' }]);
      expect(pathLength(path)).toBeCloseTo(length, 6);
    }
  });
});

it('whatever comes after, a turn advances by something between the steps of the passes that meet there', () => {
  const percents = fc.integer({ min: 20, max: 900 });
  fc.assert(
    fc.property(
      fc.constantFrom(24, 30, 60, 120),
      fc.integer({ min: 40, max: 200 }),
      fc.integer({ min: 1, max: 4 }),
      percents,
      fc.array(percents, { maxLength: 3 }),
      (hz, length, trips, backPercent, speeds) => {
        const table = at(hz);
        const path = chain(
          table,
          100,
          100 + length,
          ['boomerang', { trips, backPercent, turn: 'once' }],
          ...speeds.map((percent): [string, object] => ['speed', { percent }]),
        );
        const steps = path.segments.map((s) => Math.abs((s.speedIn * hz) / 30));
        // Passes of a few frames have no room for what is asked of their turns.
        fc.pre(path.segments.length === 2 * trips && path.segments.every((s) => s.length > 6));
        const instants = sampleInstants(path);
        let start = 0;
        path.segments.slice(0, -1).forEach((s, i) => {
          start += s.length;
          const after = Math.ceil(start - 0.5 - 1e-6);
          const advance = Math.abs(instants[after]! - instants[after - 1]!) * hz;
          const [a, b] = [steps[i]!, steps[i + 1]!];
          // Steps below a frame of the clip count as one; what they are short of it is room.
          expect(advance).toBeGreaterThan(Math.max(1, Math.min(a, b)) - 1e-3);
          expect(advance).toBeLessThan(Math.max(1, a, b) + Math.max(0, 1 - Math.min(a, b)) + 1e-3);
        });
        const found = [...joinsOf(path, table), loopJoin(path, table)!];
        expect(found.filter((j) => j.skips || j.doubles)).toEqual([]);
      },
    ),
    { numRuns: 600 },
  );
});

it('resolving is done once: again it changes nothing', () => {
  const table = at(30);
  const path = chain(table, 0, 61, ['boomerang', { trips: 3, backPercent: 170 }], ['speed', { percent: 64 }]);
  const again = applyChain(
    path,
    [{ id: 'x', move: 'speed', on: true, values: { ...moveById('speed')!.defaults, percent: 100 } }],
    { table },
  );
  expect(sampleInstants(again.path)).toEqual(sampleInstants(path));
});

it('passes of a frame or less, at speeds upon speeds, resolve to something that plays', () => {
  const percents = fc.integer({ min: 20, max: 3000 });
  fc.assert(
    fc.property(
      fc.constantFrom(24, 30, 120),
      fc.integer({ min: 1, max: 100 }),
      fc.integer({ min: 1, max: 5 }),
      percents,
      fc.array(percents, { maxLength: 3 }),
      (hz, length, trips, backPercent, speeds) => {
        const path = chain(
          at(hz),
          100,
          100 + length,
          ['boomerang', { trips, backPercent }],
          ...speeds.map((percent): [string, object] => ['speed', { percent }]),
        );
        expect(path.segments.every((s) => s.length > 0 && Number.isFinite(s.speedIn))).toBe(true);
        expect(sampleFrames(path, at(hz)).length).toBeGreaterThan(0);
      },
    ),
    { numRuns: 400 },
  );
});
