import { rational } from '../time/rational';
import { frame, seconds } from '../time/units';
import {
  type FrameTable,
  durationOf,
  frameAt,
  frameCount,
  meanRateHz,
  readAt,
  sensibleTimes,
  startOf,
  tableFromTimes,
} from './frame-table';

const times = (count: number, hz: number, roundTo = 0) =>
  Array.from({ length: count }, (_, i) => (roundTo ? Math.round(i / hz / roundTo) * roundTo : i / hz));

describe('tables from presentation times', () => {
  it.each([
    ['30', times(300, 30), rational(30)],
    ['29.97 in whole milliseconds', times(300, 30000 / 1001, 0.001), rational(30000, 1001)],
    ['120 in whole milliseconds', times(360, 120, 0.001), rational(120)],
    ['23.976 that starts late', times(240, 24000 / 1001).map((t) => t + 1.4), rational(24000, 1001)],
    ['15', times(60, 15), rational(15)],
  ])('%s are a constant rate', (_, ts, rate) => {
    expect(tableFromTimes(ts, undefined)).toEqual({ kind: 'constant', rate, count: ts.length });
  });

  it('uneven times stay as they are, counted from the first', () => {
    const table = tableFromTimes([0.5, 0.6, 0.65, 0.9], 0.1);
    expect(table.kind).toBe('variable');
    expect(frameCount(table)).toBe(4);
    expect(durationOf(table)).toBeCloseTo(0.5, 9);
    expect([0, 0.09, 0.1, 0.16, 0.39, 0.45, 9].map((t) => frameAt(table, seconds(t)))).toEqual([
      0, 0, 1, 2, 2, 3, 3,
    ]);
  });

  it('one frame lasts as long as the file says', () => {
    expect(durationOf(tableFromTimes([0], 0.04))).toBeCloseTo(0.04, 9);
  });
});

describe('lookups', () => {
  const table: FrameTable = { kind: 'constant', rate: rational(30000, 1001), count: 324000 };

  it('every start belongs to its own frame, three hours in', () => {
    for (const n of [0, 1, 2999, 200001, 323999]) expect(frameAt(table, startOf(table, frame(n)))).toBe(n);
  });

  it('read at another rate, the same frames last longer', () => {
    const slow = readAt({ kind: 'constant', rate: rational(120), count: 240 }, rational(30));
    expect(durationOf(slow)).toBe(8);
    const uneven = readAt({ kind: 'variable', starts: [0, 0.1, 0.3], endS: 0.4 }, rational(3));
    expect(meanRateHz(uneven)).toBeCloseTo(3, 9);
  });
});

describe('rates of few frames with times in whole milliseconds', () => {
  const milliseconds = (hz: number, count: number) =>
    tableFromTimes(
      Array.from({ length: count }, (_, i) => Math.round((i / hz) * 1000) / 1000),
      Math.round(1000 / hz) / 1000,
    );

  it.each([
    [24, 21],
    [25, 12],
    [30, 8],
    [30, 29],
    [50, 10],
    [60, 13],
    [60, 40],
    [120, 20],
    [15, 7],
  ])('%d frames a second are recognised from %d frames', (hz, count) => {
    expect(milliseconds(hz, count)).toEqual({ kind: 'constant', rate: rational(hz), count });
  });

  it('those of broadcast are told from the whole ones once there are enough', () => {
    for (const rate of [rational(24000, 1001), rational(30000, 1001), rational(60000, 1001)])
      expect(milliseconds(rate.num / rate.den, 120)).toMatchObject({ kind: 'constant', rate });
  });
});

describe('times that make no sense', () => {
  const last = 1 / 25;
  it('are taken as they are where a result could hold them', () => {
    const times = [0, 0.04, 0.08, 3600];
    expect(sensibleTimes(times, last)).toEqual({ times, lastS: last, asFound: true });
    expect(sensibleTimes([5], 0).asFound).toBe(true);
  });
  it('become even at the length that most frames have', () => {
    const { times, lastS, asFound } = sensibleTimes([0, 0.04, 0.08, 400_000, 400_000.04], last);
    expect(asFound).toBe(false);
    expect(lastS).toBeCloseTo(0.04, 9);
    times.forEach((t, n) => expect(t).toBeCloseTo(n * 0.04, 9));
  });
  it.each([
    ['no time at all', [0, 0, 0], 0],
    ['no numbers', [0, Number.NaN, 1], 0.04],
    ['years each', [0, 1e9, 2e9], 1e9],
  ])('%s: thirty a second, or what the last one says', (_, times, lastS) => {
    const made = sensibleTimes(times, lastS);
    expect(made.asFound).toBe(false);
    const table = tableFromTimes(made.times, made.lastS);
    expect(frameCount(table)).toBe(3);
    expect(durationOf(table)).toBeGreaterThan(0.05);
    expect(durationOf(table)).toBeLessThan(40);
  });
});
