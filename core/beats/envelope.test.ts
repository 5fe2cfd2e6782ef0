import { type Envelope, envelopeCurve, levelAfter } from './envelope';
import type { Accent } from './grid';

const envelope: Envelope = { riseMs: 100, holdMs: 50, fallMs: 200, leastPercent: 30 };

describe('an envelope', () => {
  it.each([
    [-0.2, 0],
    [-0.05, 0.5],
    [0, 1],
    [0.05, 1],
    [0.15, 0.5],
    [0.25, 0],
    [1, 0],
  ])('%d s after its accent is at %d', (since, level) => {
    expect(levelAfter(envelope, since)).toBeCloseTo(level, 6);
  });

  it('without a rise begins at its accent', () => {
    const sudden = { ...envelope, riseMs: 0 };
    expect([levelAfter(sudden, -0.001), levelAfter(sudden, 0)]).toEqual([0, 1]);
  });

  it('of a band goes over its accents alone, as high as each is strong, the highest where they overlap', () => {
    const accents: Accent[] = [
      { at: 1, band: 'low', strength: 1 },
      { at: 1.1, band: 'low', strength: 0.5 },
      { at: 2, band: 'low', strength: 0.6 },
      { at: 3, band: 'low', strength: 0.2 },
      { at: 4, band: 'high', strength: 1 },
    ];
    const curve = envelopeCurve(accents, 'low', envelope, 0, 5, 500);
    const at = (s: number) => curve[Math.round(s * 100)]!;
    expect(at(1)).toBeCloseTo(1, 5);
    expect(at(1.1)).toBeCloseTo(0.75, 2);
    expect(at(2)).toBeCloseTo(0.6, 5);
    expect([at(3), at(4), at(0.5), at(2.5)]).toEqual([0, 0, 0, 0]);
  });
});
