import fc from 'fast-check';
import { joinsOf } from '../checks/joins';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import type { FrameTable } from '../clip/frame-table';
import { onWholeFrames, pathFrames, pathLength, sampleFrames, spanPath } from '../path/path';
import { rational } from '../time/rational';
import { applyChain } from './chain';
import { type ChainStep, moveById } from './registry';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 300 };
const link = (move: string, values: object = {}, zone?: ChainStep['zone']): ChainStep => ({
  ...{ id: move, move, on: true },
  values: { ...moveById(move)!.defaults, ...values },
  ...(zone && { zone }),
});
const made = (chain: ChainStep[], from = 0, to = 120, clip = table) =>
  applyChain(spanPath(clip, from, to, rate), chain, { table: clip });
const shown = (chain: ChainStep[], from = 0, to = 120) => [
  ...sampleFrames(made(chain, from, to).path, table),
];
const row = (from: number, to: number) =>
  Array.from({ length: Math.abs(to - from) }, (_, i) => from + i * Math.sign(to - from));
const still = (frame: number, count: number) => Array.from({ length: count }, () => frame);

describe('a length that is asked for is met', () => {
  it('by a boomerang’s total, exactly or by whole trips; by a Fit, whichever way', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 5, max: 150 }),
        fc.integer({ min: 20, max: 600 }),
        fc.constantFrom('once', 'twice'),
        fc.constantFrom(50, 100, 200),
        (span, length, turn, backPercent) => {
          const trips = { by: 'length', length, turn, backPercent };
          const exact = made([link('boomerang', { ...trips, total: 'exact' })], 60, 60 + span);
          expect(pathFrames(exact.path)).toBe(length);
          const whole = made([link('boomerang', { ...trips, total: 'whole' })], 60, 60 + span);
          const one = made([link('boomerang', { trips: 1, turn, backPercent })], 60, 60 + span);
          const trip = pathLength(one.path);
          expect(Math.abs(pathLength(whole.path) - length)).toBeLessThan(
            Math.max(trip, length) / 2 + 3 + trip / 2,
          );
          for (const by of ['repeats', 'speed'])
            expect(
              pathFrames(
                made(
                  [link('boomerang', { trips: 2, turn, backPercent }), link('fit', { length, by })],
                  60,
                  60 + span,
                ).path,
              ),
            ).toBe(length);
        },
      ),
      { numRuns: 150 },
    );
  });

  it('another way of setting it changes no picture', () => {
    const speed = moveById('speed')!;
    expect(speed.views!({ percent: 40 }, 'by', 'length', { before: 60, after: 150 })).toEqual({
      length: 150,
    });
    expect(speed.views!({ length: 150 }, 'by', 'percent', { before: 60, after: 150 })).toEqual({
      percent: 40,
    });
    const boomerang = moveById('boomerang')!;
    const values = { ...boomerang.defaults, trips: 5, turn: 'once' };
    const before = made([link('boomerang', values)], 0, 45);
    const lasts = { before: 45, after: pathLength(before.path) };
    const next = {
      ...values,
      by: 'length',
      total: 'exact',
      ...boomerang.views!(values, 'by', 'length', lasts),
    };
    expect([...sampleFrames(made([link('boomerang', next)], 0, 45).path, table)]).toEqual([
      ...sampleFrames(before.path, table),
    ]);
    expect(boomerang.views!(next, 'by', 'trips', lasts)).toEqual({ trips: 5 });
  });
});

describe('Hold', () => {
  it('waits, or lets the rest run on under it: then the length stays', () => {
    expect(shown([link('hold', { at: 30, length: 20 })])).toEqual([
      ...row(0, 30),
      ...still(30, 20),
      ...row(30, 120),
    ]);
    expect(shown([link('hold', { at: 30, length: 20, then: 'covers' })])).toEqual([
      ...row(0, 30),
      ...still(30, 20),
      ...row(50, 120),
    ]);
    expect(shown([link('hold', { at: 110, length: 40, then: 'covers' })])).toHaveLength(120);
    const { path } = made([link('hold', { at: 30, length: 20, then: 'covers' })]);
    expect(joinsOf(path, table).filter((j) => j.skips)).toEqual([]);
  });
});

describe('Ramp', () => {
  it('goes backward and stands still, eased through its turns, and never leaves the clip', () => {
    const back = [
      { at: 0, percent: 100 },
      { at: 80, percent: -100 },
      { at: 40, percent: 100 },
    ];
    const sharp = { before: 0, after: 0 };
    expect(shown([link('ramp', { points: back, ...sharp })])).toEqual([
      ...row(0, 80),
      ...row(79, 39),
      ...row(40, 120),
    ]);
    const held = [
      { at: 0, percent: 100 },
      { at: 40, percent: 0 },
      { at: 70, percent: 100 },
    ];
    const frames = shown([link('ramp', { points: held, ...sharp })]);
    expect(frames.filter((n) => n === 40).length).toBeGreaterThanOrEqual(30);
    const eased = made([link('ramp', { points: back, before: 10, after: 10 })]);
    expect(joinsOf(eased.path, table).some((j) => j.skips)).toBe(false);
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            at: fc.integer({ min: 0, max: 140 }),
            percent: fc.constantFrom(-300, -100, -20, 0, 50, 100, 400),
          }),
          { minLength: 2, maxLength: 6 },
        ),
        fc.integer({ min: 0, max: 30 }),
        (points, width) => {
          const { path, steps } = made([link('ramp', { points, before: width, after: width })]);
          expect(steps[0]!.notices.filter((n) => n.level === 'error')).toEqual([]);
          expect(
            path.segments.every((s) => s.length > 0 && Number.isFinite(s.from) && Number.isFinite(s.to)),
          ).toBe(true);
          const all = sampleFrames(path, table);
          expect(Math.min(...all)).toBeGreaterThanOrEqual(0);
          expect(Math.max(...all)).toBeLessThanOrEqual(120);
        },
      ),
    );
  });
});

describe('limited to a part', () => {
  it('Spool backward plays it, winds it back and plays on from where it began: nothing jumps', () => {
    const { path } = made([
      link('spool', { factor: 8, direction: 'backward', ease: 6 }, { from: 40, to: 100 }),
    ]);
    const frames = [...sampleFrames(path, table)];
    expect(frames.slice(0, 100)).toEqual(row(0, 100));
    expect(frames.slice(-80)).toEqual(row(40, 120));
    expect(joinsOf(path, table).some((j) => j.skips)).toBe(false);
  });

  it('Speed comes from the speed before it, and goes to the one after', () => {
    const zone = { from: 40, to: 80 };
    const { path } = made([link('speed', { percent: 300, ease: 8 }, zone)]);
    const speeds = path.segments.map((s) => [s.speedIn, s.speedOut]);
    for (let i = 1; i < speeds.length; i++) expect(speeds[i]![0]).toBeCloseTo(speeds[i - 1]![1]!, 6);
    const exact = made([link('speed', { by: 'length', length: 100, ease: 8 }, zone)]);
    expect(pathLength(exact.path)).toBeCloseTo(40 + 100 + 40, 4);
  });
});

it('a result shorter than a frame shows a frame of its span', () => {
  for (const [from, percent] of [
    [10, 3000],
    [100, 2000],
    [290, 3000],
  ] as const) {
    const path = onWholeFrames(made([link('speed', { percent })], from, from + 2).path, table);
    const [only, ...more] = sampleFrames(path, table);
    expect(more).toEqual([]);
    expect(only).toBeGreaterThanOrEqual(from);
    expect(only).toBeLessThan(from + 2);
  }
});

it('a strong accent pushes, whatever weak one lies just before it; Land goes on as far as what came in went', () => {
  const music = {
    ...{ beats: [10, 40, 70, 100], firstBar: 0, beatsPerBar: 4, envelopes: DEFAULT_ENVELOPES },
    accents: [
      { at: 18.6, band: 'high' as const, strength: 0.15 },
      { at: 20, band: 'low' as const, strength: 1.2 },
    ],
  };
  const context = { table, music };
  const push = (band: string, least: number) =>
    applyChain(spanPath(table, 0, 120, rate), [link('push', { band, least })], context);
  expect(push('all', 0).steps[0]!.notices[0]!.text).toBe('1 accent pushes.');
  expect([...sampleFrames(push('all', 0).path, table)]).toEqual([
    ...sampleFrames(push('low', 0).path, table),
  ]);
  const landed = applyChain(
    spanPath(table, 40, 120, rate),
    [link('boomerang', { trips: 1 }), link('land', { mark: 70, beat: 1 })],
    context,
  );
  expect(Math.max(...sampleFrames(landed.path, table))).toBe(119);
});

it('Rewind plays on at one speed, not at what a run-down happened to have', () => {
  const { path, steps } = made([
    link('coast', { from: 300, to: 2, over: 60 }),
    link('rewind', { to: 20, percent: 100 }),
  ]);
  expect(pathLength(path)).toBeLessThan(60 + 2 * 100);
  expect(steps[1]!.notices.map((n) => n.code)).toContain('plays-on');
  const beyond = made([link('rewind', { from: 'frame', at: 400, to: 20 })]);
  expect(beyond.steps[0]!.notices[0]!.code).toBe('outside');
});
