import { findLoops, pictureDifference, usualStep } from './likeness';

const SIZE = 16;
/** A bright dot that goes round in `period` frames, over a ground that stays. */
function goingRound(count: number, period: number, firstFrame = 0) {
  const values = new Uint8Array(count * SIZE).fill(20);
  for (let n = 0; n < count; n++)
    for (let i = 0; i < SIZE; i++) {
      const angle = (2 * Math.PI * n) / period - (2 * Math.PI * i) / SIZE;
      values[n * SIZE + i] = 128 + Math.round(100 * Math.cos(angle));
    }
  return { firstFrame, size: SIZE, values };
}

describe('likeness', () => {
  it('is 0 for the same picture and 1 for black against white', () => {
    const s = { firstFrame: 0, size: 2, values: Uint8Array.from([0, 0, 255, 255, 0, 0]) };
    expect(pictureDifference(s, 0, 2)).toBe(0);
    expect(pictureDifference(s, 0, 1)).toBe(1);
  });

  it('finds the period of what goes round, in the clip’s own frames', () => {
    const s = goingRound(100, 30, 200);
    const loops = findLoops(s, 20, 4);
    expect(loops).toHaveLength(4);
    for (const l of loops) {
      expect((l.out - l.in) % 30).toBe(0);
      expect(l.in).toBeGreaterThan(200);
      expect(l.seam).toBeLessThan(0.5);
    }
    expect(usualStep(s)).toBeGreaterThan(0.01);
  });

  it('does not take a picture that passes the other way for a loop', () => {
    const there = goingRound(31, 60);
    const values = new Uint8Array(61 * SIZE);
    for (let n = 0; n < 61; n++)
      values.set(
        there.values.subarray(Math.min(n, 60 - n) * SIZE, (Math.min(n, 60 - n) + 1) * SIZE),
        n * SIZE,
      );
    const [best] = findLoops({ firstFrame: 0, size: SIZE, values }, 20, 1);
    expect(best!.seam).toBeGreaterThan(0.9);
  });

  it('has nothing to propose for too few frames', () => {
    expect(findLoops(goingRound(5, 30), 20, 4)).toEqual([]);
  });
});
