import fc from 'fast-check';
import { SCENES, type Scene, hash, texture } from '../flow/moving-textures';
import { CutFinder, SMALL } from './cuts';

const THIRDS = [1 / 6, 1 / 2, 5 / 6];
const OVER = THIRDS.flatMap((dx) => THIRDS.map((dy) => [dx, dy] as const));

/** Drawn as of 320 by 180, seen small, with as much grain as a camera leaves. */
function picture(scene: Scene, t: number, seed: number): Uint8Array {
  const { width, height } = SMALL;
  return Uint8Array.from({ length: width * height }, (_, i) => {
    const [x, y] = [i % width, Math.floor(i / width)];
    let light = 0;
    for (const [dx, dy] of OVER) light += scene(((x + dx) * 320) / width, ((y + dy) * 180) / height, t) / 9;
    return Math.round(255 * Math.min(1, Math.max(0, light + 0.02 * (hash(x, y, 97 * seed + i) - 0.5))));
  });
}

function cutsOf(pictures: readonly (Uint8Array | undefined)[], rateHz = 25): readonly number[] {
  const finder = new CutFinder(pictures.length, rateHz);
  pictures.forEach((p) => finder.take(p));
  return finder.cuts();
}

const row = (length: number, at: (frame: number) => [scene: Scene, t: number]): Uint8Array[] =>
  Array.from({ length }, (_, f) => picture(...at(f), f));

/** Someone who walks before a street: what moves is a twentieth of the picture. */
const walking: Scene = (x, y, t) => {
  const [left, top] = [30 + 4 * t, 60];
  const inside = x >= left && x < left + 36 && y >= top && y < top + 90;
  return inside ? 0.75 + 0.25 * texture(x - left, y, 31, 6) : 0.6 * texture(x, y, 32, 12);
};
const swing: Scene = (x, y, t) => texture(x - 40 * Math.sin(t / 9), y - 3 * t, 21, 20);
const alike: Scene = (x, y, t) => texture(x - 2 * t, y, 22, 20);

describe('cuts', () => {
  it('to another shot, at any place, forward and backward', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2, max: 22 }), fc.boolean(), (at, turned) => {
        const pictures = row(25, (f) => (f < at ? [swing, f] : [alike, f]));
        if (turned) expect(cutsOf(pictures.toReversed())).toEqual([25 - at]);
        else expect(cutsOf(pictures)).toEqual([at]);
      }),
      { numRuns: 12 },
    );
  });

  it('a row of short shots: each of its cuts', () => {
    const pictures = row(24, (f) => [[swing, alike, walking][Math.floor(f / 4) % 3]!, f]);
    expect(cutsOf(pictures)).toEqual([4, 8, 12, 16, 20]);
  });

  it('out of one shot something is taken: who walks there is elsewhere at once', () => {
    expect(cutsOf(row(26, (f) => [walking, f < 13 ? f : f + 30]))).toEqual([13]);
    expect(cutsOf(row(26, (f) => [walking, f]))).toEqual([]);
  });

  it('none in a flash, a strobe, a light that changes, a fade', () => {
    const lit = (light: (f: number) => number) =>
      row(25, (f) => [(x, y, t) => Math.min(1, swing(x, y, t) + light(f)), f]);
    expect(cutsOf(lit((f) => (f === 12 ? 0.9 : f === 13 ? 0.4 : 0)))).toEqual([]);
    expect(cutsOf(lit((f) => (f % 4 < 2 ? 0 : 0.5)))).toEqual([]);
    expect(cutsOf(row(25, (f) => [(x, y, t) => (f < 12 ? 1 : 0.5) * swing(x, y, t), f]))).toEqual([]);
    expect(cutsOf(row(25, (f) => [(x, y, t) => (1 - f / 25) * swing(x, y, t), f]))).toEqual([]);
  });

  it('none in a shaken or a whipped camera, in grain, in a frame that cannot be read', () => {
    const moved = (dx: (f: number) => number) => row(25, (f) => [(x, y) => texture(x + dx(f), y, 23, 18), f]);
    expect(cutsOf(moved((f) => 24 * (hash(f, 0, 5) - 0.5)))).toEqual([]);
    expect(cutsOf(moved((f) => Math.max(0, Math.min(5, f - 10)) * 38))).toEqual([]);
    expect(cutsOf(row(20, (f) => [SCENES['noise alone']!, f]))).toEqual([]);
    const broken: (Uint8Array | undefined)[] = row(25, (f) => [swing, f]);
    broken[11] = broken[12] = undefined;
    expect(cutsOf(broken)).toEqual([]);
  });
});
