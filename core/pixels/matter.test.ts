/** Mattes of small pictures, and the median that clean plates are. */
import { matteOf } from './matter-fixture';
import { medianOf } from './median';

const PLAIN = { threshold: 7, softness: 0, clean: 0, feather: 0, grow: 0 };

/** A grey ground with a brighter square of so many pixels' side in the middle. */
const square =
  (side: number, bright = 200) =>
  (x: number, y: number) =>
    Math.abs(x - 15.5) < side / 2 && Math.abs(y - 15.5) < side / 2 ? bright : 90;
const ground = () => 90;
const inside = (matte: number[][]) => matte.flat().filter((v) => v > 127).length;

describe('a matte', () => {
  it('is whole where the picture differs from its plate, and nothing elsewhere', () => {
    const matte = matteOf(square(12), ground, PLAIN);
    // Away from the edge, which lies between two by two pixels.
    expect(matte[15]![15]).toBe(255);
    expect([matte[4]![4], matte[15]![4], matte[28]![28]]).toEqual([0, 0, 0]);
    expect(Math.abs(inside(matte) - 144)).toBeLessThan(30);
  });

  it('comes in over its softness: 10 of 219 lumas are 4.6 percent', () => {
    const differs = (by: number, threshold: number, softness: number) =>
      matteOf(square(40, 90 + by), ground, { ...PLAIN, threshold, softness })[15]![15]!;
    expect(differs(10, 4.6, 10)).toBe(0);
    expect(differs(21, 4.6, 10)).toBeCloseTo(255 * (21 / 219 / 0.1 - 0.46), -1);
    expect(differs(40, 4.6, 10)).toBe(255);
  });

  it('loses specks and holes to the clean-up, and keeps what is large', () => {
    expect(inside(matteOf(square(2), ground, PLAIN))).toBeGreaterThan(0);
    expect(inside(matteOf(square(2), ground, { ...PLAIN, clean: 4 }))).toBe(0);
    const holed = (x: number, y: number) => (x >> 1 === 7 && y >> 1 === 7 ? 90 : square(16)(x, y));
    expect(matteOf(holed, ground, PLAIN)[15]![15]).toBeLessThan(128);
    expect(matteOf(holed, ground, { ...PLAIN, clean: 4 })[15]![15]).toBe(255);
  });

  it('grows and shrinks by about as many pixels as it is told', () => {
    const wide = (grow: number) =>
      matteOf(square(12), ground, { ...PLAIN, grow })[15]!.filter((v) => v > 127);
    expect(wide(4).length - wide(0).length).toBeGreaterThanOrEqual(6);
    expect(wide(4).length - wide(0).length).toBeLessThanOrEqual(10);
    expect(wide(0).length - wide(-4).length).toBeGreaterThanOrEqual(6);
  });

  it('is turned round, and moved along with what is drawn beside it', () => {
    const plain = matteOf(square(12), ground, PLAIN);
    expect(matteOf(square(12), ground, PLAIN, { inverted: true })).toEqual(
      plain.map((row) => row.map((v) => 255 - v)),
    );
    const moved = matteOf(square(12), ground, PLAIN, { moved: [8, 0] });
    expect(moved[15]!.slice(16)).toEqual(plain[15]!.slice(8, 24));
    // What comes in from beyond the edge is not there.
    expect(matteOf(square(64), ground, PLAIN, { moved: [8, 0] })[15]![2]).toBe(0);
  });

  it('holds its plate as the picture is held', () => {
    const held = { a: 1, b: 0, x: 6, y: 0 };
    const aside = (x: number, y: number) => square(12)(x - 6, y);
    // The plate shows the square too: moved along there is no difference.
    expect(inside(matteOf(aside, square(12), { ...PLAIN, held }))).toBe(0);
    expect(inside(matteOf(aside, square(12), PLAIN))).toBeGreaterThan(50);
  });
});

describe('the median of pictures', () => {
  it('is what is seen most of the time, whatever passes', () => {
    const rows = [
      [10, 200, 30],
      [11, 20, 30],
      [9, 21, 250],
      [10, 22, 31],
      [240, 19, 29],
    ].map((r) => Uint8Array.from(r));
    expect([...medianOf(rows)]).toEqual([10, 21, 30]);
    expect([...medianOf([Uint8Array.of(7)])]).toEqual([7]);
    expect([...medianOf([Uint8Array.of(9), Uint8Array.of(3)])]).toEqual([3]);
  });
});
