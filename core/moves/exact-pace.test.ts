import fc from 'fast-check';
import { type FrameTable, meanRateHz } from '../clip/frame-table';
import { instantAt, pathLength, spanPath } from '../path/path';
import { speedAt } from '../path/segment';
import { rational, toNumber } from '../time/rational';
import { type RampValues, rampLayout } from './ramp-layout';
import { applyChain } from './chain';
import { moveById } from './registry';

const rate = rational(30);
const link = (move: string, values: object) => ({
  id: move,
  move,
  on: true,
  values: { ...moveById(move)!.defaults, ...values },
});

/** Where the old path stands when a ramp's result stands at `time` frames, by adding up its pace. */
function oldPlace(values: RampValues, end: number, time: number): number {
  const { plateaus } = rampLayout(values, end);
  const paceAt = (t: number) => {
    const i = plateaus.findLastIndex((p) => p.from <= t);
    const here = plateaus[Math.max(0, i)]!;
    const pace = values.points[here.place]!.percent / 100;
    const next = plateaus[i + 1];
    if (!next || t <= here.to) return pace;
    const then = values.points[next.place]!.percent / 100;
    return pace + ((then - pace) * (t - here.to)) / (next.from - here.to);
  };
  // The pace is straight between these places, so the trapezoid rule is exact.
  const stops = [0, ...plateaus.flatMap((p) => [p.from, p.to]), time]
    .filter((t) => t <= time)
    .sort((a, b) => a - b);
  let old = 0;
  for (let i = 1; i < stops.length; i++)
    old += ((paceAt(stops[i - 1]!) + paceAt(stops[i]!)) / 2) * (stops[i]! - stops[i - 1]!);
  return old;
}

const ramped = (points: RampValues['points']): RampValues => ({ points, before: 6, after: 6, soft: 'none' });

describe('case 9: a ramp over any chain is the exact composition', () => {
  const table: FrameTable = { kind: 'constant', rate, count: 900 };
  const values = ramped([
    { at: 0, percent: 100 },
    { at: 140, percent: 250 },
    { at: 360, percent: 100 },
  ]);
  const chain = [
    link('speed', { percent: 50 }),
    link('boomerang', { trips: 3, backPercent: 200, turn: 'twice' }),
  ];
  const before = applyChain(spanPath(table, 100, 161, rate), chain, { table }).path;
  const after = applyChain(spanPath(table, 100, 161, rate), [...chain, link('ramp', values)], { table }).path;

  it('shows each instant within a hundredth of a frame of where it belongs', () => {
    for (let t = 0; t < pathLength(after); t += 0.37) {
      const wanted = instantAt(before, oldPlace(values, pathLength(before), t));
      expect(Math.abs(instantAt(after, t) - wanted) * 30).toBeLessThan(0.01);
    }
  });

  it('runs at the speed that was typed, times what was there, not near it', () => {
    const speeds = after.segments.map((s) => Math.abs(speedAt(s, s.length / 2, rate)));
    expect(speeds.filter((v) => Math.abs(v - 1.25) < 1e-9).length).toBeGreaterThan(0);
    expect(Math.max(...speeds)).toBeCloseTo(2.5, 9);
    // Nothing jolts inside a pass: where one segment goes on in the same direction, so does its speed.
    after.segments.slice(1).forEach((s, i) => {
      const { speedOut } = after.segments[i]!;
      if (speedOut * s.speedIn > 0) expect(s.speedIn).toBeCloseTo(speedOut, 9);
    });
  });
});

it('a change of pace over random chains of moves stays within a hundredth of a frame', () => {
  const step = fc.oneof(
    fc.record({
      move: fc.constant('speed'),
      values: fc.record({ percent: fc.integer({ min: 10, max: 800 }) }),
    }),
    fc.record({
      move: fc.constant('boomerang'),
      values: fc.record({
        trips: fc.integer({ min: 1, max: 3 }),
        backPercent: fc.integer({ min: 20, max: 700 }),
        turn: fc.constantFrom('twice'),
      }),
    }),
    fc.record({
      move: fc.constant('coast'),
      values: fc.record({ from: fc.integer({ min: 1, max: 500 }), to: fc.integer({ min: 1, max: 500 }) }),
    }),
    fc.record({ move: fc.constant('spool'), values: fc.record({ factor: fc.integer({ min: 2, max: 20 }) }) }),
    fc.record({
      move: fc.constant('scratch'),
      values: fc.record({
        at: fc.integer({ min: 0, max: 80 }),
        shape: fc.constantFrom('snap', 'drag', 'even'),
      }),
    }),
  );
  const table = fc.constantFrom<FrameTable>(
    { kind: 'constant', rate: rational(24), count: 900 },
    { kind: 'constant', rate: rational(120), count: 1800 },
  );
  fc.assert(
    fc.property(
      table,
      fc.array(step, { maxLength: 3 }),
      fc.integer({ min: 15, max: 600 }),
      (clip, steps, percent) => {
        const chain = steps.map((s) => link(s.move, s.values));
        const base = spanPath(clip, 100, 261, rate);
        const before = applyChain(base, chain, { table: clip }).path;
        const end = pathLength(before);
        fc.pre(end > 30);
        const values = ramped([
          { at: 0, percent: 100 },
          { at: Math.floor(end / 2), percent },
        ]);
        fc.pre(rampLayout(values, end).plateaus.length === 2);
        const after = applyChain(base, [...chain, link('ramp', values)], { table: clip }).path;
        const frameS = 1 / meanRateHz(clip);
        for (let t = 0.25; t < pathLength(after); t += Math.max(0.3, pathLength(after) / 60)) {
          const wanted = instantAt(before, oldPlace(values, end, t));
          expect(Math.abs(instantAt(after, t) - wanted) / frameS).toBeLessThan(0.01);
        }
        expect(toNumber(after.rate)).toBe(30);
      },
    ),
  );
});
