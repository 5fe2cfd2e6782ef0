/** Pictures as decoders give them, against plain loops, byte for byte, at even and odd sizes. */
import { seeded } from '../../moves/random';
import { loadKernels } from './module';

const random = seeded(11);
const whole = (from: number, to: number) => from + Math.floor(random() * (to - from + 1));
const { kernels, memory } = loadKernels(1 << 21);
const AT = 4096;
const OUT = 300_000;
const bytes = (at: number, length: number) => new Uint8Array(memory.buffer, at, length);
const words = (at: number, length: number) => new Uint16Array(memory.buffer, at, length);
const drawn = (length: number, most = 255) => Array.from({ length }, () => whole(0, most));

it.each([1, 2, 15, 16, 17, 100])('pairs taken apart, %i of them', (count) => {
  const pairs = drawn(2 * count);
  bytes(AT, 2 * count).set(pairs);
  kernels.apart(AT, OUT, OUT + 1000, count);
  expect([...bytes(OUT, count)]).toEqual(pairs.filter((_, i) => i % 2 === 0));
  expect([...bytes(OUT + 1000, count)]).toEqual(pairs.filter((_, i) => i % 2 === 1));
});

it.each([
  [10, 1],
  [10, 16],
  [12, 37],
])('words of %i bits as bytes, and bytes as words of ten', (bits, count) => {
  const deep = drawn(count, (1 << bits) - 1).map((v, i) => (i % 7 === 0 ? (1 << bits) - 1 : v));
  words(AT, count).set(deep);
  const shift = bits - 8;
  kernels.toBytes(AT, OUT, count, shift);
  expect([...bytes(OUT, count)]).toEqual(deep.map((v) => Math.min(255, (v + (1 << (shift - 1))) >> shift)));
  const eight = drawn(count);
  bytes(AT, count).set(eight);
  kernels.toTen(AT, OUT, count);
  expect([...words(OUT, count)]).toEqual(eight.map((v) => 4 * v));
});

it('colours by how much is there, rounded to the nearest, all 65,536 pairs', () => {
  const rgba = Uint8Array.from({ length: 4 * 65_536 }, (_, i) => {
    const pair = i >> 2;
    return i % 4 === 3 ? pair >> 8 : (pair + 85 * (i % 4)) & 255;
  });
  bytes(AT, rgba.length).set(rgba);
  // The last is done alone.
  kernels.premultiply(AT, 65_533);
  const wanted = rgba.map((v, i) => {
    const a = rgba[i | 3]!;
    return i % 4 === 3 || i >= 4 * 65_533 ? v : Math.round((v * a) / 255);
  });
  expect(bytes(AT, rgba.length)).toEqual(wanted);
});

it.each([
  [1, 1],
  [8, 8],
  [16, 9],
  [17, 16],
  [33, 50],
])('turned and mirrored, %i x %i', (width, height) => {
  const plane = drawn(width * height);
  bytes(AT, plane.length).set(plane);
  for (const swaps of [0, 1])
    for (const across of [0, 1])
      for (const down of [0, 1]) {
        kernels.turn(AT, width, height, OUT, swaps, across, down);
        const [w, h] = swaps ? [height, width] : [width, height];
        const wanted = Array.from({ length: w * h }, (_, i) => {
          const x = across ? w - 1 - (i % w) : i % w;
          const y = down ? h - 1 - Math.floor(i / w) : Math.floor(i / w);
          return swaps ? plane[x * width + y]! : plane[y * width + x]!;
        });
        expect([...bytes(OUT, plane.length)]).toEqual(wanted);
      }
});

it.each([
  [1, 1],
  [2, 2],
  [7, 5],
  [40, 22],
])('through a cube of colours, %i x %i', (width, height) => {
  const [lights, shades] = [33, 65];
  const cubeAt = 600_000;
  const cube = Int16Array.from({ length: 4 * lights * shades ** 2 }, () => whole(0, 32_640));
  new Int16Array(memory.buffer, cubeAt, cube.length).set(cube);
  const [across, tall] = [(width + 1) >> 1, (height + 1) >> 1];
  const [luma, chroma] = [width * height, across * tall];
  const edged = (length: number) => drawn(length, 1023).map((v, i) => (i % 5 === 0 ? 1023 : v));
  const [y, u, v] = [edged(luma), edged(chroma), edged(chroma)];
  const [atU, atV] = [AT + 2 * luma, AT + 2 * luma + 2 * chroma];
  words(AT, luma).set(y);
  words(atU, chroma).set(u);
  words(atV, chroma).set(v);
  kernels.throughCube(AT, atU, atV, OUT, OUT + luma, OUT + luma + chroma, width, height, cubeAt);

  const part = (a: number, b: number) => (a * b + 0x4000) >> 15;
  const at = (cb: number, cr: number, l: number) => 4 * ((cb * shades + cr) * lights + l);
  /** A point's three values, 2048 to one. */
  const through = (l: number, cb: number, cr: number) =>
    [0, 1, 2].map((k) => {
      const [b, r, n] = [cb >> 4, cr >> 4, l >> 5];
      const [fb, fr, f] = [cb & 15, cr & 15, l & 31];
      const mixed = (n: number) =>
        part(cube[at(b, r, n) + k]!, (16 - fb) * (16 - fr) * 64) +
        part(cube[at(b, r + 1, n) + k]!, (16 - fb) * fr * 64) +
        part(cube[at(b + 1, r, n) + k]!, fb * (16 - fr) * 64) +
        part(cube[at(b + 1, r + 1, n) + k]!, fb * fr * 64);
      return mixed(n) * (32 - f) + mixed(n + 1) * f;
    });
  const point = (x: number, row: number) => {
    const pair = (row >> 1) * across + (x >> 1);
    return through(y[row * width + x]!, u[pair]!, v[pair]!);
  };
  const wantedY = y.map((_, i) => (point(i % width, Math.floor(i / width))[0]! + 1024) >> 11);
  const differences = (k: number) =>
    u.map((_, i) => {
      const [x, row] = [2 * (i % across), 2 * Math.floor(i / across)];
      const [right, below] = [Math.min(width - 1, x + 1), Math.min(height - 1, row + 1)];
      const four = [point(x, row), point(right, row), point(x, below), point(right, below)];
      return (four.reduce((sum, p) => sum + p[k]!, 0) + 4096) >> 13;
    });
  expect([...bytes(OUT, luma + 2 * chroma)]).toEqual([...wantedY, ...differences(1), ...differences(2)]);
});
