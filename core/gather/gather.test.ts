import fc from 'fast-check';
import { type FrameTable, durationOf, frameAt } from '../clip/frame-table';
import { rational } from '../time/rational';
import { seconds } from '../time/units';
import { type Between, MOST_GATHERED, WHOLE, gatherAt } from './gather';

const clip = (num: number, count = 240, den = 1): FrameTable => ({
  kind: 'constant',
  rate: rational(num, den),
  count,
});
/** Shares of the picture by frame, in hundredths. */
const shares = (
  table: FrameTable,
  atFrames: number,
  speed: number,
  between: Between,
  shutter = 0,
  rateHz = 30,
): Record<number, number> | 'as it is' => {
  const fps = table.kind === 'constant' ? table.rate.num / table.rate.den : 1;
  const gather = gatherAt(table, atFrames / fps, speed, { between, shutter }, rateHz);
  if (!gather) return 'as it is';
  return Object.fromEntries(
    gather.frames.map((f, i) => [f, Math.round((gather.weights[i]! / WHOLE) * 10_000) / 100]),
  );
};

describe('mixing', () => {
  it('at half speed from frame 20: a quarter of 19 with 20, then of 21 with it', () => {
    expect(shares(clip(30), 20.25, 0.5, 'mix')).toEqual({ 19: 25, 20: 75 });
    expect(shares(clip(30), 20.75, 0.5, 'mix')).toEqual({ 20: 75, 21: 25 });
  });

  it('at full speed, forward and backward, and with repeat, frames stay as they are', () => {
    expect(shares(clip(30), 20.5, 1, 'mix')).toBe('as it is');
    expect(shares(clip(30), 20.5, -1, 'mix')).toBe('as it is');
    expect(shares(clip(30), 20.25, 0.5, 'repeat')).toBe('as it is');
  });

  it('beyond the middles of the first and the last frame there is nothing to mix with', () => {
    expect(shares(clip(30, 10), 0.25, 0.5, 'mix')).toBe('as it is');
    expect(shares(clip(30, 10), 9.75, 0.5, 'mix')).toBe('as it is');
    expect(shares(clip(30, 10), 0.75, 0.5, 'mix')).toEqual({ 0: 75, 1: 25 });
  });

  it('on uneven frames the share is of the way between their middles', () => {
    const table: FrameTable = { kind: 'variable', starts: [0, 0.1, 0.4], endS: 0.5 };
    // Middles at 0.05, 0.25, 0.45.
    const gather = gatherAt(table, 0.2, 0.5, { between: 'mix', shutter: 0 }, 30)!;
    expect(gather.frames).toEqual([0, 1]);
    expect(gather.weights[1]! / WHOLE).toBeCloseTo(0.75, 3);
  });
});

describe('the shutter', () => {
  it('at 400 % over 360 degrees is the mean of exactly four, over 180 of the two in the middle', () => {
    expect(shares(clip(30), 22, 4, 'repeat', 360)).toEqual({ 20: 25, 21: 25, 22: 25, 23: 25 });
    expect(shares(clip(30), 22, 4, 'repeat', 180)).toEqual({ 21: 50, 22: 50 });
    expect(shares(clip(30), 22, -4, 'repeat', 360)).toEqual({ 20: 25, 21: 25, 22: 25, 23: 25 });
  });

  it('at 100 % over 360 degrees is the frame itself; over 720 half of it, and a quarter of each beside', () => {
    expect(shares(clip(30), 20.5, 1, 'mix', 360)).toBe('as it is');
    expect(shares(clip(30), 20.5, 1, 'repeat', 720)).toEqual({ 19: 25, 20: 50, 21: 25 });
  });

  it('covers parts of frames by how much of them it sees', () => {
    expect(shares(clip(30), 20.25, 1.5, 'repeat', 360)).toEqual({ 19: 33.33, 20: 66.67 });
    // A clip of 120 in a project of 30: a picture is four of its frames.
    expect(shares(clip(120), 22, 1, 'repeat', 360)).toEqual({ 20: 25, 21: 25, 22: 25, 23: 25 });
    expect(shares(clip(60), 21, 1, 'repeat', 360, 30)).toEqual({ 20: 50, 21: 50 });
  });

  it('narrower than a frame leaves what lies between frames to do it', () => {
    expect(shares(clip(30), 20.25, 0.5, 'repeat', 360)).toBe('as it is');
    expect(shares(clip(30), 20.25, 0.5, 'mix', 360)).toEqual({ 19: 25, 20: 75 });
  });

  it('at the clip’s ends takes what is there, scaled to the whole', () => {
    expect(shares(clip(30, 10), 1, 4, 'repeat', 360)).toEqual({ 0: 33.33, 1: 33.33, 2: 33.33 });
    expect(shares(clip(30, 10), 9.5, 4, 'repeat', 360)).toEqual({ 7: 20, 8: 40, 9: 40 });
  });

  it('of very many frames takes some, evenly spread', () => {
    const gather = gatherAt(clip(30, 3000), 50, 100, { between: 'repeat', shutter: 720 }, 30)!;
    expect(gather.frames.length).toBeLessThanOrEqual(MOST_GATHERED);
    expect(gather.frames.length).toBeGreaterThan(MOST_GATHERED / 2);
  });
});

it('weights are whole, come to the whole, and no frame lies outside the clip, whatever is asked', () => {
  const rates = fc.constantFrom([24_000, 1001], [30_000, 1001], [30, 1], [60, 1], [120, 1], [25, 1]);
  const variable = fc
    .array(fc.integer({ min: 5, max: 90 }), { minLength: 2, maxLength: 40 })
    .map((gaps): FrameTable => {
      const starts = gaps.map((_, i) => gaps.slice(0, i).reduce((a, b) => a + b, 0) / 1000);
      return { kind: 'variable', starts, endS: starts.at(-1)! + gaps.at(-1)! / 1000 };
    });
  const tables = fc.oneof(
    variable,
    fc.tuple(rates, fc.integer({ min: 1, max: 60 })).map(([[num, den], n]) => clip(num!, n, den)),
  );
  fc.assert(
    fc.property(
      tables,
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: -40, max: 40, noNaN: true }),
      fc.constantFrom<Between>('repeat', 'mix', 'flow'),
      fc.double({ min: 0, max: 720, noNaN: true }),
      (table, where, speed, between, shutter) => {
        const at = where * durationOf(table);
        const gather = gatherAt(table, at, speed, { between, shutter }, 30);
        if (!gather) return;
        const count = table.kind === 'constant' ? table.count : table.starts.length;
        expect(gather.weights.reduce((a, b) => a + b, 0)).toBe(WHOLE);
        expect(gather.weights.every((w) => Number.isInteger(w) && w > 0)).toBe(true);
        expect(gather.frames.length).toBeGreaterThan(1);
        expect(gather.frames).toEqual([...new Set(gather.frames)].sort((a, b) => a - b));
        expect(gather.frames[0]).toBeGreaterThanOrEqual(0);
        expect(gather.frames.at(-1)).toBeLessThan(count);
        // Along the motion: every instant lies in the row of frames, which has no gap.
        for (const instant of gather.along ?? []) {
          expect(instant).toBeGreaterThanOrEqual(0);
          expect(instant).toBeLessThanOrEqual((gather.frames.length - 1) * WHOLE);
          expect(gather.frames.at(-1)! - gather.frames[0]!).toBe(gather.frames.length - 1);
        }
        // What is shown there otherwise is part of it, or next to it.
        const n = frameAt(table, seconds(at));
        expect(gather.frames[0]! - 1).toBeLessThanOrEqual(n);
        expect(gather.frames.at(-1)! + 1).toBeGreaterThanOrEqual(n);
      },
    ),
  );
});

describe('over a cut', () => {
  const cut: FrameTable = { ...clip(30), cuts: [21, 60] };

  it('the nearer frame stands, forward and backward, mixed and moved', () => {
    for (const between of ['mix', 'flow'] as const) {
      expect(shares(cut, 20.75, 0.5, between)).toBe('as it is');
      expect(shares(cut, 21.25, -0.5, between)).toBe('as it is');
      expect(shares(cut, 20.25, 0.5, between)).toEqual({ 19: 25, 20: 75 });
    }
  });

  it('no picture is made of frames of two shots, at any instant, speed and shutter', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 239.99, noNaN: true }),
        fc.double({ min: -9, max: 9, noNaN: true }),
        fc.constantFrom<Between>('repeat', 'mix', 'flow'),
        fc.integer({ min: 0, max: 720 }),
        (at, speed, between, shutter) => {
          const gather = gatherAt(cut, at / 30, speed, { between, shutter }, 30);
          if (!gather) return;
          const shots = new Set(gather.frames.map((f) => (f < 21 ? 0 : f < 60 ? 1 : 2)));
          const own = Math.floor(at + 1e-6);
          expect([...shots]).toEqual([own < 21 ? 0 : own < 60 ? 1 : 2]);
          expect(gather.weights.reduce((a, b) => a + b)).toBe(WHOLE);
        },
      ),
    );
  });
});
