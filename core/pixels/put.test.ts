import { seeded } from '../moves/random';
import { about } from '../steady/similar';
import { type Planes, planesBytes, planesIn } from './planes';
import { Putter } from './put';

const random = seeded(3);
const picture = (width: number, height: number): Planes =>
  planesIn(
    Uint8Array.from({ length: planesBytes(width, height) }, () => 16 + Math.floor(random() * 200)),
    width,
    height,
  );
const put = (
  from: Planes,
  shown: { width: number; height: number },
  map: Parameters<Putter['put']>[2],
  edges: 'black' | 'mirrored',
  size = shown,
) => {
  const into = planesIn(new Uint8Array(planesBytes(size.width, size.height)), size.width, size.height);
  new Putter(size.width, size.height, true).put(from, shown, map, edges, into);
  return into;
};
const SAME = { a: 1, b: 0, x: 0, y: 0 };

it.each([
  [16, 8],
  [17, 9],
])('a picture put where it is keeps every byte, at %i x %i', (width, height) => {
  const from = picture(width, height);
  const into = put(from, { width, height }, SAME, 'mirrored');
  expect([...into.y]).toEqual([...from.y]);
  expect([...into.u]).toEqual([...from.u]);
  expect([...into.v]).toEqual([...from.v]);
});

it('moved by whole pixels its brightness is moved by them, its colour by half as many; beyond it is black', () => {
  const from = picture(16, 8);
  const into = put(from, { width: 16, height: 8 }, { ...SAME, x: 4, y: 2 }, 'black');
  expect(into.y[2 * 16 + 4]).toBe(from.y[0]);
  expect(into.y[7 * 16 + 15]).toBe(from.y[5 * 16 + 11]);
  expect(into.u[1 * 8 + 2]).toBe(from.u[0]);
  expect([into.y[0], into.u[0], into.v[0]]).toEqual([16, 128, 128]);
});

it('a quarter turn about the middle', () => {
  const from = picture(12, 12);
  const middle = { x: 6, y: 6 };
  const into = put(from, { width: 12, height: 12 }, about(middle, middle, 1, 90), 'black');
  // What is seen at (x, y) was at (y, 11 - x).
  for (const [x, y] of [
    [0, 0],
    [11, 3],
    [5, 7],
  ] as const)
    expect(into.y[y * 12 + x]).toBe(from.y[(11 - x) * 12 + y]);
});

it('planes of pixels that are not square are taken as they are shown', () => {
  const from = picture(8, 8);
  const into = put(from, { width: 16, height: 8 }, SAME, 'mirrored');
  expect(into.y[3 * 16 + 7]).toBeCloseTo((3 * from.y[3 * 8 + 3]! + from.y[3 * 8 + 4]!) / 4, -0.5);
});

it('made much smaller it takes all of a picture: a fine pattern becomes grey', () => {
  const from = picture(64, 64);
  from.y.forEach((_, i) => (from.y[i] = (i + Math.floor(i / 64)) % 2 === 0 ? 40 : 200));
  const into = put(from, { width: 64, height: 64 }, { a: 0.25, b: 0, x: 0, y: 0 }, 'mirrored', {
    width: 16,
    height: 16,
  });
  for (const v of into.y) expect(Math.abs(v - 120)).toBeLessThan(12);
});
