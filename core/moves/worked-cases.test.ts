import type { FrameTable } from '../clip/frame-table';
import { loopJoin, joinsOf } from '../checks/joins';
import { type TimePath, pathFrames, sampleFrames, spanPath, speedUp } from '../path/path';
import { speedAt } from '../path/segment';
import { rational } from '../time/rational';
import { boomerang } from './boomerang';
import { fit } from './fit';
import { speed } from './speed';

const rate30 = rational(30);
const clip: FrameTable = { kind: 'constant', rate: rate30, count: 900 };
const span = (first: number, end: number, table = clip, rate = rate30) => spanPath(table, first, end, rate);
const frames = (path: TimePath, table = clip) => [...sampleFrames(path, table)];
const up = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);
const down = (a: number, b: number) => up(b, a).reverse();
const once = { ...boomerang.defaults, trips: 1 };

describe('case 1: a boomerang of [100, 160)', () => {
  it('turning twice is the span and its copy flipped', () => {
    const { path } = boomerang.apply(span(100, 160), { ...once, turn: 'twice' }, { table: clip });
    expect(frames(path)).toEqual([...up(100, 159), ...down(159, 100)]);
  });

  it('turning once is 118 frames that never show a frame twice in a row, looped too', () => {
    const { path } = boomerang.apply(span(100, 160), once, { table: clip });
    const shown = frames(path);
    expect(shown).toEqual([...up(100, 159), ...down(158, 101)]);
    shown.forEach((f, i) => expect(f).not.toBe(shown[(i + 1) % shown.length]));
  });

  it('repeats whole for more trips, and leaves forward when it ends away', () => {
    const three = boomerang.apply(span(100, 160), { ...once, trips: 3 }, { table: clip }).path;
    expect(pathFrames(three)).toBe(3 * 118);
    expect(frames(three).slice(236)).toEqual([...up(100, 159), ...down(158, 101)]);
    const away = boomerang.apply(span(100, 160), { ...once, ends: 'away' }, { table: clip }).path;
    expect(frames(away).slice(118)).toEqual(up(100, 159));
  });
});

describe('case 2: the backward pass at 200 %', () => {
  const fast = { ...once, backPercent: 200 };

  it('gives 60 + 30 frames turning twice', () => {
    const { path } = boomerang.apply(span(100, 160), { ...fast, turn: 'twice' }, { table: clip });
    expect(path.segments.map((s) => s.length)).toEqual([60, 30]);
    expect(frames(path).slice(58, 62)).toEqual([158, 159, 159, 157]);
  });

  it('gives 60 + 29 over source [101, 159) turning once', () => {
    const { path } = boomerang.apply(span(100, 160), fast, { table: clip });
    path.segments.forEach((s, i) => expect(s.length).toBeCloseTo([60, 29][i]!, 9));
    expect(path.segments[1]!.from * 30).toBeCloseTo(159, 9);
    expect(path.segments[1]!.to * 30).toBeCloseTo(101, 9);
  });

  it('is 30.5 frames of an odd span, 30 of them shown, at exactly 200 %', () => {
    const { path, notices } = boomerang.apply(span(100, 161), { ...fast, turn: 'twice' }, { table: clip });
    expect(path.segments[1]!.length).toBe(30.5);
    expect(pathFrames(path)).toBe(91);
    expect(speedAt(path.segments[1]!, 5, rate30)).toBeCloseTo(-2, 12);
    expect(notices).toEqual([]);
  });
});

it('case 6: a stretch spooled at 12x is 50 frames', () => {
  expect(pathFrames(speedUp(span(90, 690), 12))).toBe(50);
});

it('case 7: 100 fps in a 25 fps project steps four frames, and once each at 25 %', () => {
  const table: FrameTable = { kind: 'constant', rate: rational(100), count: 400 };
  const real = frames(span(0, 400, table, rational(25)), table);
  real.forEach((f, i) => i > 0 && expect(f - real[i - 1]!).toBe(4));
  const slow = speed.apply(
    span(0, 400, table, rational(25)),
    { ...speed.defaults, percent: 25 },
    { table },
  ).path;
  expect(frames(slow, table)).toEqual(up(0, 399));
});

describe('small and odd spans', () => {
  it('one frame has no way back, and says so', () => {
    const { path, notices } = boomerang.apply(span(5, 6), once, { table: clip });
    expect(frames(path)).toEqual([5]);
    expect(notices[0]!.code).toBe('no-way-back');
  });

  it('a total length takes the nearest whole trips', () => {
    const { path, notices } = boomerang.apply(
      span(100, 160),
      { ...once, by: 'length', length: 300 },
      { table: clip },
    );
    expect(pathFrames(path)).toBe(354);
    expect(notices[0]!.text).toBe('3 round trips make 354 frames.');
  });

  it('backward plays the same frames the other way', () => {
    const { path } = speed.apply(
      span(10, 20),
      { ...speed.defaults, percent: 100, direction: 'backward' },
      { table: clip },
    );
    expect(frames(path)).toEqual(down(19, 10));
  });

  it('a wanted length sets the speed', () => {
    const { path, notices } = speed.apply(
      span(0, 60),
      { ...speed.defaults, by: 'length', length: 45 },
      { table: clip },
    );
    expect(pathFrames(path)).toBe(45);
    expect(notices[0]!.text).toContain('133.3 %');
  });
});

describe('Fit by repeats', () => {
  it('repeats and cuts the last repeat to the exact length', () => {
    const { path, notices } = fit.apply(span(0, 50), { ...fit.defaults, length: 120 }, { table: clip });
    expect(frames(path)).toEqual([...up(0, 49), ...up(0, 49), ...up(0, 19)]);
    expect(notices[0]!.text).toBe('2 whole repeats, then 20 of 50 frames.');
  });

  it('cuts what is already longer', () => {
    const { path } = fit.apply(span(0, 50), { ...fit.defaults, length: 20 }, { table: clip });
    expect(frames(path)).toEqual(up(0, 19));
  });
});

describe('joins', () => {
  const trip = (values: Partial<typeof once>) =>
    boomerang.apply(span(100, 160), { ...once, ...values }, { table: clip }).path;

  it('a boomerang that ends home closes its loop without a skip', () => {
    for (const turn of ['once', 'twice'] as const)
      for (const backPercent of [50, 100, 200, 330]) {
        const path = trip({ turn, backPercent, trips: 3 });
        expect(joinsOf(path, clip).filter((j) => j.skips)).toEqual([]);
        expect(loopJoin(path, clip)!.skips).toBe(false);
      }
  });

  it('turning twice rests on the turn, turning once does not', () => {
    expect(joinsOf(trip({ turn: 'twice' }), clip).map((j) => j.doubles)).toEqual([true]);
    expect(joinsOf(trip({ turn: 'once' }), clip).map((j) => j.doubles)).toEqual([false]);
  });

  it('a forward pass looped, and a boomerang that ends away, skip back', () => {
    expect(loopJoin(span(100, 160), clip)).toMatchObject({ skips: true, before: 159, after: 100 });
    expect(loopJoin(trip({ ends: 'away' }), clip)!.skips).toBe(true);
  });
});
