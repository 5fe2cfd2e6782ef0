/** Mattes, and pictures with transparency laid on others, against their plain twins, byte for byte. */
import { seeded } from '../../moves/random';
import { loadKernels } from './module';

const { kernels: k, memory } = loadKernels(1 << 21);
const [A, B, OUT, SUMS] = [1 << 16, 1 << 18, 1 << 19, 1 << 20];
const random = seeded(19);
const bytes = (n: number) =>
  Uint8Array.from({ length: n }, (_, i) =>
    i % 7 === 0 ? 255 : i % 5 === 0 ? 0 : Math.floor(random() * 256),
  );
const put = (at: number, data: Uint8Array) => new Uint8Array(memory.buffer, at, data.length).set(data);
const got = (at: number, n: number) => [...new Uint8Array(memory.buffer, at, n)];
const clamp = (v: number) => Math.min(255, Math.max(0, v));

const SIZES = [
  [1, 1],
  [2, 3],
  [7, 4],
  [17, 9],
  [32, 18],
] as const;
const each = (words: string, run: (width: number, height: number) => void) =>
  it.each(SIZES)(`${words} at %i x %i`, run);

each('the difference of two pictures, of luma or colour, whichever is more', (w, h) => {
  const [across, down] = [(w + 1) >> 1, (h + 1) >> 1];
  const size = w * h + 2 * across * down;
  const [a, b] = [bytes(size), bytes(size)];
  put(A, a);
  put(B, b);
  const planes = (at: number) => [at, at + w * h, at + w * h + across * down] as const;
  k.differ(...planes(A), ...planes(B), w, h, OUT, 60, 300);
  const twin = Array.from({ length: across * down }, (_, i) => {
    const [x, y] = [2 * (i % across), 2 * Math.floor(i / across)];
    const luma = (p: Uint8Array) =>
      [0, 1].flatMap((dy) => [0, 1].map((dx) => p[Math.min(h - 1, y + dy) * w + Math.min(w - 1, x + dx)]!));
    const sum = (p: Uint8Array) => luma(p).reduce((s, v) => s + v, 0);
    const colour = (plane: number) =>
      4 * Math.abs(a[w * h + plane * across * down + i]! - b[w * h + plane * across * down + i]!);
    const d = Math.max(Math.abs(sum(a) - sum(b)), colour(0), colour(1)) - 60;
    return d <= 0 ? 0 : Math.min(255, (d * 300 + 128) >> 8);
  });
  expect(got(OUT, across * down)).toEqual(twin);
});

each('means of rows and columns, edges going on', (w, h) => {
  const a = bytes(w * h);
  for (const radius of [1, 3, 40]) {
    const mean = (at: (d: number) => number) => {
      let sum = 0;
      for (let d = -radius; d <= radius; d++) sum += at(d);
      return Math.floor((sum + radius) / (2 * radius + 1));
    };
    put(A, a);
    k.meanAcross(A, OUT, w, h, radius);
    expect(got(OUT, w * h)).toEqual(
      [...a].map((_, i) => mean((d) => a[i - (i % w) + Math.min(w - 1, Math.max(0, (i % w) + d))]!)),
    );
    k.meanDown(A, OUT, w, h, radius, SUMS);
    expect(got(OUT, w * h)).toEqual(
      [...a].map((_, i) =>
        mean((d) => a[Math.min(h - 1, Math.max(0, Math.floor(i / w) + d)) * w + (i % w)]!),
      ),
    );
  }
});

each('values pulled apart, and what two masks share', (w, h) => {
  const [a, b] = [bytes(w * h), bytes(w * h)];
  put(A, a);
  k.steepen(A, w * h, 90, 4);
  expect(got(A, w * h)).toEqual([...a].map((v) => clamp((v - 90) * 4 + 128)));
  put(A, a);
  put(B, b);
  k.maskBoth(A, B, w * h);
  expect(got(A, w * h)).toEqual([...a].map((v, i) => Math.round((v * b[i]!) / 255)));
});

each('a matte over a picture of another size, turned round, moved aside', (w, h) => {
  const [ow, oh] = [2 * w + 3, 2 * h];
  const a = bytes(w * h);
  put(A, a);
  for (const [cx, cy, beyond, inverted] of [
    [-16_384, -16_384, 1, 0],
    [-150_000, 98_765, 0, 255],
  ] as const) {
    const [sx, sy] = [30_011, 32_768];
    k.spread(A, w, h, OUT, ow, oh, sx, cx, sy, cy, beyond, inverted, SUMS);
    const at = (x: number, y: number) =>
      a[Math.min(h - 1, Math.max(0, y)) * w + Math.min(w - 1, Math.max(0, x))]!;
    const twin = Array.from({ length: ow * oh }, (_, i) => {
      const [px, py] = [(i % ow) * sx + cx, Math.floor(i / ow) * sy + cy];
      const [ix, iy, fx, fy] = [px >> 16, py >> 16, (px >> 8) & 255, (py >> 8) & 255];
      const outside = ix < -1 || ix >= w || iy < -1 || iy >= h;
      if (!beyond && outside) return inverted;
      const left = at(ix, iy) * (256 - fy) + at(ix, iy + 1) * fy;
      const right = at(ix + 1, iy) * (256 - fy) + at(ix + 1, iy + 1) * fy;
      return ((left * (256 - fx) + right * fx + 32_768) >> 16) ^ inverted;
    });
    expect(got(OUT, ow * oh)).toEqual(twin);
  }
});

describe('a picture laid on another', () => {
  const by255 = (v: number) => Math.round(v / 255);
  const laid: ((p: number, s: number, a: number) => number)[] = [
    (p, s, a) => by255(p * (255 - a)) + s,
    (p, s) => p + s,
    (p, s) => p + s - by255(p * s),
    (p, s, a) => by255(p * (255 - a)) + by255(p * s),
    (p, s, a) => by255(p * (255 - a)) + Math.min(by255(p * a), s),
    (p, s, a) => by255(p * (255 - a)) + Math.max(by255(p * a), s),
  ];
  for (const [kind, words] of ['as it is', 'added', 'screened', 'multiplied', 'darker', 'lighter'].entries())
    each(words, (w, h) => {
      const [a, b] = [bytes(4 * w * h), bytes(4 * w * h)];
      // Colours are never more than what is there of them.
      b.forEach((v, i) => (b[i] = i % 4 === 3 ? v : Math.min(v, b[i - (i % 4) + 3]!)));
      for (const weight of [0, 77, 256]) {
        put(A, a);
        put(B, b);
        k.lay(A, B, w * h, kind, weight);
        const some = (v: number) => (v * weight + 128) >> 8;
        expect(got(A, 4 * w * h)).toEqual(
          [...a].map((p, i) =>
            i % 4 === 3 ? 255 : clamp(laid[kind]!(p, some(b[i]!), some(b[i - (i % 4) + 3]!))),
          ),
        );
      }
    });

  each('takes how much of it is there from another, and nothing outside a box', (w, h) => {
    const [a, b] = [bytes(4 * w * h), bytes(4 * w * h)];
    put(A, a);
    put(B, b);
    k.takeAlpha(A, B, w * h);
    const taken = [...a].map((v, i) => (i % 4 === 3 ? b[i - 3]! : v));
    expect(got(A, 4 * w * h)).toEqual(taken);
    k.clearOutside(A, w, h, 1, 0, 5, h - 1);
    expect(got(A, 4 * w * h)).toEqual(
      taken.map((v, i) => {
        const [x, y] = [(i >> 2) % w, Math.floor((i >> 2) / w)];
        return x >= 1 && x < 5 && y < h - 1 ? v : 0;
      }),
    );
  });

  it('beyond its edges nothing of it is there', () => {
    put(A, Uint8Array.of(200, 100, 50, 255, 40, 30, 20, 255));
    k.shift(A, OUT, 2, 1, 65_536, 0, 3, 0xffffffff);
    expect(got(OUT, 8)).toEqual([40, 30, 20, 255, 0, 0, 0, 0]);
    k.affine(A, OUT, 2, 1, 65_536n, 0n, -32_768n, 0n, 65_536n, 0n, 3, 0xffffffff);
    expect(got(OUT, 4)).toEqual([100, 50, 25, 128]);
  });
});
