import fc from 'fast-check';
import { WHOLE } from '../gather/gather';
import { WEAK } from '../gather/gathers';
import { Averager } from '../pixels/average';
import { planesBytes } from '../pixels/planes';
import { AlongMotion } from './along';
import { fieldBytes, fieldSize } from './field';
import { MotionFinder } from './motion';
import { SCENES, type Scene, hash, pictureOf, texture } from './moving-textures';
import { psnr } from './quality';

const [W, H] = [320, 180];
const finder = new MotionFinder(W, H);
const along = new AlongMotion(W, H);
const averager = new Averager();

const fieldOf = (first: Uint8Array, second: Uint8Array): Uint8Array => {
  const field = new Uint8Array(fieldBytes(finder.size));
  finder.find(first.subarray(0, W * H), second.subarray(0, W * H), field);
  return field;
};
const mixOf = (first: Uint8Array, second: Uint8Array, share: number): Uint8Array => {
  const out = new Uint8Array(first.length);
  averager.mean([first, second], [WHOLE - share, share], out);
  return out;
};
const movedOf = (first: Uint8Array, second: Uint8Array, share: number, field = fieldOf(first, second)) => {
  const out = new Uint8Array(first.length);
  const lost = along.picture(first, second, field, share, out);
  return { out, lost };
};

const same = (a: Uint8Array, b: Uint8Array): boolean => a.every((value, i) => value === b[i]);

/** Scenes' pictures by their time, each made once. */
const known = new Map<Scene, Map<number, Uint8Array>>();
function shownAt(scene: Scene, t: number): Uint8Array {
  const pictures = known.get(scene) ?? new Map<number, Uint8Array>();
  known.set(scene, pictures);
  const picture = pictures.get(t) ?? pictureOf(scene, t, W, H);
  pictures.set(t, picture);
  return picture;
}

/** How much nearer to the truth than the mix pictures along the motion are, in dB: the mean over what is taken away. */
function gain(scene: Scene, every: number): number {
  let sum = 0;
  let count = 0;
  for (let t = 0; t + every <= 8; t += every) {
    const [first, second] = [shownAt(scene, t), shownAt(scene, t + every)];
    const field = fieldOf(first, second);
    for (let m = 1; m < every; m++, count++) {
      const share = Math.round((WHOLE * m) / every);
      const truth = shownAt(scene, t + m);
      sum += psnr(movedOf(first, second, share, field).out, truth) - psnr(mixOf(first, second, share), truth);
    }
  }
  return sum / count;
}

describe('pictures along the motion', () => {
  // Measured once a scene.
  const gains = new Map<string, number>();
  const gainOf = (name: string, every: number): number => {
    const key = `${name} ${every}`;
    const measured = gains.get(key) ?? gain(SCENES[name]!, every);
    gains.set(key, measured);
    return measured;
  };

  it.each([
    ['translating', 15],
    ['far a frame', 6],
    ['rotating', 12],
    ['growing', 12],
    ['occluding', 8],
    ['before a still ground', 8],
    ['grain on a moving one', 6],
    ['brighter while it moves', 6],
  ])('%s: nearer to the truth than a mix by at least %i dB', (name, least) => {
    expect(gainOf(name, 2)).toBeGreaterThan(least);
  });

  it.each(Object.keys(SCENES))('%s: never worse than a mix by more than 0.3 dB', (name) => {
    for (const every of [2, 4]) expect(gainOf(name, every)).toBeGreaterThan(-0.3);
  });

  it('is at the place of the motion at every share, forward and backward', () => {
    // A bright disc goes 12 pixels to the right: where it is, is where its brightness has its middle.
    const disc: Scene = (x, y, t) => (Math.hypot(x - 100 - 12 * t, y - 90) < 20 ? 0.9 : 0.1);
    const [first, second] = [pictureOf(disc, 0, W, H), pictureOf(disc, 1, W, H)];
    const middle = (picture: Uint8Array): number => {
      let [sum, at] = [0, 0];
      for (let i = 0; i < W * H; i++) {
        const over = Math.max(0, picture[i]! - 60);
        sum += over;
        at += over * (i % W);
      }
      return at / sum;
    };
    for (const share of [4096, 8192, 16384, 24576, 30000]) {
      const there = 100 + (12 * share) / WHOLE;
      expect(Math.abs(middle(movedOf(first, second, share).out) - there)).toBeLessThan(0.6);
      expect(Math.abs(middle(movedOf(second, first, WHOLE - share).out) - there)).toBeLessThan(0.6);
    }
  });

  it('at the border nothing is torn: what comes in and goes out is as near to the truth as the rest', () => {
    const scene = SCENES['translating']!;
    const [first, second] = [pictureOf(scene, 0, W, H), pictureOf(scene, 2, W, H)];
    const [out, truth] = [movedOf(first, second, WHOLE / 2).out, pictureOf(scene, 1, W, H)];
    let worst = 0;
    for (let i = 0; i < W * H; i++) {
      const [x, y] = [i % W, Math.floor(i / W)];
      if (x < 8 || y < 8 || x >= W - 8 || y >= H - 8) worst = Math.max(worst, Math.abs(out[i]! - truth[i]!));
    }
    // Of what comes in only one picture shows each pixel; a mix is off by up to 90 here.
    expect(worst).toBeLessThan(45);
  });

  it('says how much of the picture lost its motion: none where it is clear, most where there is none', () => {
    const lost = (name: string) => {
      const scene = SCENES[name]!;
      return movedOf(pictureOf(scene, 2, W, H), pictureOf(scene, 3, W, H), WHOLE / 2).lost;
    };
    expect(lost('translating')).toBeLessThan(0.01);
    expect(lost('still')).toBe(0);
    expect(lost('another scene')).toBeGreaterThan(0.5);
  });

  it('what is lost is a part of what moves: small things half torn are told, what looks as good mixed is not', () => {
    const lost = (scene: Scene) => {
      const pairs = [2, 3, 4].map((t) =>
        movedOf(pictureOf(scene, t, W, H), pictureOf(scene, t + 1, W, H), WHOLE / 2),
      );
      return pairs.map((p) => p.lost);
    };
    // Someone small before a still ground, a fiftieth of the picture, farther on in each than can be found.
    const small: Scene = (x, y, t) => {
      const [left, top] = [40 + 45 * t, 70 + 20 * (t % 2)];
      const inside = x >= left && x < left + 18 && y >= top && y < top + 44;
      return inside ? 0.7 + 0.3 * hash(x >> 2, y >> 2, 9 * t) : 0.35 * texture(x, y, 51);
    };
    expect(Math.min(...lost(small))).toBeGreaterThan(WEAK);
    // Leaves: everywhere a little, to and fro, each for itself.
    const leaves: Scene = (x, y, t) =>
      0.5 +
      0.25 * (texture(x + 2 * Math.sin(2 * t + (x >> 3)), y + 2 * Math.cos(3 * t + (y >> 3)), 52, 5) - 0.5);
    expect(Math.max(...lost(leaves))).toBeLessThan(WEAK);
    expect(Math.max(...lost(SCENES['grain on a still picture']!))).toBeLessThan(WEAK);
  });

  it('where nothing is trusted it is the mix, byte for byte', () => {
    const noise = (seed: number) =>
      Uint8Array.from({ length: planesBytes(W, H) }, (_, i) => 16 + Math.floor(200 * hash(i, 0, seed)));
    const [first, second] = [noise(1), noise(2)];
    expect(same(movedOf(first, second, 12_345).out, mixOf(first, second, 12_345))).toBe(true);
  });

  it('between a picture and itself is that picture, whatever it is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1000 }),
        fc.integer({ min: 1, max: WHOLE - 1 }),
        (seed, share) => {
          const picture = pictureOf((x, y) => hash(x, y, seed), 0, W, H);
          expect(same(movedOf(picture, picture, share).out, picture)).toBe(true);
        },
      ),
      { numRuns: 10 },
    );
  });

  it('sizes of every kind keep within the picture, and very small ones have no motion', () => {
    expect(fieldSize(30, 400)).toBeUndefined();
    expect(fieldSize(128, 2000)).toBeUndefined();
    for (const [w, h] of [
      [64, 64],
      [65, 97],
      [321, 181],
      [1281, 721],
      [400, 1200],
    ] as const) {
      const scene: Scene = (x, y, t) => SCENES['occluding']!((x * 320) / w, (y * 180) / h, t);
      const [first, second] = [pictureOf(scene, 0, w, h), pictureOf(scene, 1, w, h)];
      const own = new MotionFinder(w, h);
      const field = new Uint8Array(fieldBytes(own.size));
      own.find(first.subarray(0, w * h), second.subarray(0, w * h), field);
      const out = new Uint8Array(planesBytes(w, h));
      new AlongMotion(w, h).picture(first, second, field, WHOLE / 2, out);
      // No pixel is of a brightness that neither picture has anywhere near: the whole stays within its range.
      const luma = out.subarray(0, w * h);
      expect(luma.reduce((a, b) => Math.min(a, b), 255)).toBeGreaterThanOrEqual(16);
      expect(luma.reduce((a, b) => Math.max(a, b), 0)).toBeLessThanOrEqual(235);
      expect(new Set(out.subarray(w * h))).toEqual(new Set([128]));
    }
  });
});
