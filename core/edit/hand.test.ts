import { pointsOfHand, tidied, withGesture } from './hand';

const p = (at: number, source: number) => ({ at, source, before: 0, after: 0 });
/** Forth and back under a hand that is read sixty times a second. */
const samples = Array.from({ length: 121 }, (_, i) => ({
  atS: i / 60,
  source: 100 + 30 * Math.abs(((i / 30) % 2) - 1),
}));

describe('a gesture', () => {
  it('becomes the few points that matter, within a frame of the hand', () => {
    const points = pointsOfHand(samples, 30, 100);
    expect(points.map((q) => [q.at, Math.round(q.source)])).toEqual([
      [0, 30],
      [15, 0],
      [30, 30],
      [45, 0],
      [60, 30],
    ]);
    expect(pointsOfHand([], 30, 0)).toEqual([]);
  });

  it('is tidied: turns go to the nearest moments, the rest goes along', () => {
    const points = [p(0, 0), p(7, 10), p(14, 20), p(31, 0), p(45, 15)];
    expect(tidied(points, [0, 16, 32, 48], 4).map((q) => q.at)).toEqual([0, 8, 16, 32, 46]);
    expect(tidied(points, [0, 25, 50], 4).map((q) => q.at)).toEqual([0, 7, 14, 31, 45]);
  });

  it('is put into a curve: what came after follows from where it was left', () => {
    const curve = [p(0, 0), p(60, 60)];
    expect(withGesture(curve, [p(0, 20), p(10, 5)], 20, 20).map((q) => [q.at, q.source])).toEqual([
      [0, 0],
      [20, 20],
      [20, 20],
      [30, 5],
      [30, 20],
      [70, 60],
    ]);
  });
});
