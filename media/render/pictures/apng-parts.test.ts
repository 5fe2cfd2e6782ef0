import fc from 'fast-check';
import { Abreast, packedAtOnce } from './abreast';
import { type Change, beginning, changeOf, pictureParts } from './apng-parts';

/** What is seen after a picture's change was laid on what was there (PNG specification, 11.3.6.2). */
function laid(before: Uint8Array, { x, y, width, height, rgba, over }: Change, across: number): Uint8Array {
  const seen = before.slice();
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const from = 4 * (row * width + column);
      if (over && rgba[from + 3] === 0) continue;
      seen.set(rgba.subarray(from, from + 4), 4 * ((y + row) * across + x + column));
    }
  return seen;
}

const [W, H] = [5, 4];
const point = (alpha: fc.Arbitrary<number>) =>
  fc.tuple(fc.nat(2), fc.nat(2), fc.nat(2), alpha).map((p) => p as readonly number[]);
const picture = (alpha: fc.Arbitrary<number>) =>
  fc
    .array(point(alpha), { minLength: W * H, maxLength: W * H })
    .map((points) => Uint8Array.from(points.flat()));

it.each([
  ['opaque', fc.constant(255)],
  ['partly transparent', fc.constantFrom(0, 120, 255)],
])('what changed, laid on what was there, is the next picture: %s ones', (_words, alpha) => {
  fc.assert(
    fc.property(fc.array(picture(alpha), { minLength: 1, maxLength: 6 }), (pictures) => {
      let seen = new Uint8Array(4 * W * H);
      for (const [n, next] of pictures.entries()) {
        const change = changeOf(next, n > 0 ? pictures[n - 1] : undefined, W, H);
        seen = new Uint8Array(laid(seen, change, W));
        expect(seen).toEqual(next);
      }
      // The same once more is a single point of nothing.
      const again = changeOf(pictures[0]!.slice(), pictures[0], W, H);
      expect([again.width, again.height, again.rgba[3]]).toEqual([1, 1, 0]);
    }),
  );
});

it('a PNG of another kind than RGBA is not taken', () => {
  const png = beginning(W, H, 1).slice();
  png[25] = 2;
  expect(() => pictureParts(png, changeOf(new Uint8Array(80), undefined, W, H), 40, 0)).toThrow('RGBA');
});

it('as many are packed at once as there are cores and room, and come in their order', async () => {
  expect(packedAtOnce(1920, 1080, 32)).toBe(8);
  expect(packedAtOnce(3840, 2160, 32)).toBe(8);
  expect(packedAtOnce(7680, 4320, 32)).toBe(2);
  expect(packedAtOnce(30_000, 10_000, 32)).toBe(1);
  const taken: number[] = [];
  const abreast = new Abreast<number>(3, async (n) => void taken.push(n));
  for (let n = 0; n < 9; n++)
    await abreast.add(new Promise((done) => setTimeout(() => done(n), n % 3 === 0 ? 12 : 2)));
  await abreast.finish();
  expect(taken).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
  expect(abreast.most).toBe(3);
});
