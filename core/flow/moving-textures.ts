import { blacken, planesBytes, planesIn } from '../pixels/planes';

/** What a generated clip shows at a time in frames: brightness at a place in pixels, 0 to 1. */
export type Scene = (x: number, y: number, t: number) => number;

const { imul, floor, cos, sin, hypot, min, max, round, PI } = Math;

/** A number from whole numbers, evenly over 0 to 1 (after Wang's integer hash). */
export function hash(x: number, y: number, seed: number): number {
  let h = (imul(x, 0x27d4eb2d) ^ imul(y, 0x165667b1) ^ imul(seed, 0x9e3779b1)) >>> 0;
  h = imul(h ^ (h >>> 15), 0x85ebca6b) >>> 0;
  h = imul(h ^ (h >>> 13), 0xc2b2ae35) >>> 0;
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32;
}

/** Even, cloudy texture without a direction: smooth noise of details of `size` pixels, and of half of them. */
export function texture(x: number, y: number, seed: number, size = 9): number {
  return 0.65 * noise(x / size, y / size, seed) + 0.35 * noise((2 * x) / size, (2 * y) / size, seed + 1);
}

const eased = (f: number): number => f * f * (3 - 2 * f);

function noise(x: number, y: number, seed: number): number {
  const [i, j] = [floor(x), floor(y)];
  const [u, v] = [eased(x - i), eased(y - j)];
  const top = hash(i, j, seed) * (1 - u) + hash(i + 1, j, seed) * u;
  const bottom = hash(i, j + 1, seed) * (1 - u) + hash(i + 1, j + 1, seed) * u;
  return top * (1 - v) + bottom * v;
}

const turned = (x: number, y: number, cx: number, cy: number, degrees: number): [number, number] => {
  const [c, s] = [cos((degrees * PI) / 180), sin((degrees * PI) / 180)];
  return [cx + c * (x - cx) + s * (y - cy), cy - s * (x - cx) + c * (y - cy)];
};

const inDisc = (x: number, y: number, cx: number, cy: number, r: number): number =>
  min(1, max(0, r - hypot(x - cx, y - cy) + 0.5));

/** Scenes whose true pictures are known at every instant: what motion can explain, and what it cannot. */
export const SCENES: Readonly<Record<string, Scene>> = {
  translating: (x, y, t) => texture(x - 3.3 * t, y - 1.7 * t, 1),
  'far a frame': (x, y, t) => texture(x - 22 * t, y + 9 * t, 2, 16),
  rotating: (x, y, t) => texture(...turned(x, y, 160, 90, 2.5 * t), 3),
  growing: (x, y, t) => texture(160 + (x - 160) / (1 + 0.03 * t), 90 + (y - 90) / (1 + 0.03 * t), 4),
  occluding: (x, y, t) => {
    const inside = inDisc(x, y, 60 + 5 * t, 90, 40);
    return inside * texture(x - 5 * t, y, 5, 7) + (1 - inside) * texture(x + 2 * t, y, 6, 11);
  },
  'before a still ground': (x, y, t) => {
    const inside = inDisc(x, y, 70 + 6 * t, 90 + 2 * t, 30);
    return inside * (0.6 + 0.4 * texture(x - 6 * t, y - 2 * t, 7, 6)) + (1 - inside) * 0.5 * texture(x, y, 8);
  },
  'noise alone': (x, y, t) => hash(round(x), round(y), round(4 * t) + 9),
  'grain on a still picture': (x, y, t) =>
    0.9 * texture(x, y, 10) + 0.1 * hash(round(x), round(y), round(4 * t)),
  'grain on a moving one': (x, y, t) =>
    0.9 * texture(x - 4 * t, y, 10) + 0.1 * hash(round(x), round(y), round(4 * t)),
  flicker: (x, y, t) => texture(x, y, 11) * (0.6 + 0.4 * sin(1.1 * t)),
  'brighter while it moves': (x, y, t) => texture(x - 3 * t, y, 12) * (0.5 + 0.03 * t),
  'stripes, more than half a period': (x, y, t) => 0.5 + 0.4 * sin((x - 14 * t) / 3.2) + 0 * y,
  'another scene': (x, y, t) => texture(x, y, 13 + floor(t / 3)),
  dissolving: (x, y, t) => (1 - t / 12) * texture(x, y, 15) + (t / 12) * texture(x, y, 16),
  'smoke, turning to and fro': (x, y, t) =>
    noise((x + 9 * sin(0.7 * t + y / 30)) / 14, (y - 4 * t) / 14, 17 + floor(t / 8)),
  'even ground whose light turns': (x, y, t) => 0.5 + 0.4 * sin((x * cos(0.06 * t) + y * sin(0.06 * t)) / 90),
  still: (x, y) => texture(x, y, 18),
};

/** A scene's picture at a time, in I420 without colour. */
export function pictureOf(scene: Scene, t: number, width: number, height: number): Uint8Array {
  const bytes = new Uint8Array(planesBytes(width, height));
  const planes = planesIn(bytes, width, height);
  blacken(planes);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      planes.y[y * width + x] = 16 + round(219 * min(1, max(0, scene(x, y, t))));
  return bytes;
}
