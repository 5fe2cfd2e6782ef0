import { type Kernels, loadKernels } from '../pixels/kernels/module';
import { PAD } from './field';
import { hash } from './moving-textures';

const { kernels, memory }: { kernels: Kernels; memory: { readonly buffer: ArrayBuffer } } = loadKernels(
  2 ** 20,
);
const bytes = () => new Uint8Array(memory.buffer);
const noise = (length: number, seed: number) =>
  Uint8Array.from({ length }, (_, i) => Math.floor(256 * hash(i, 0, seed)));
const SIZES = [
  [1, 1],
  [2, 3],
  [17, 5],
  [32, 18],
  [33, 19],
  [50, 31],
] as const;

describe('the kernels of motion against their plain twins', () => {
  it.each([2, 3, 6])('making smaller by %i: means of whole squares, or of what there is of them', (by) => {
    for (const [w, h] of SIZES) {
      const from = noise(w * h, w);
      bytes().set(from, 1024);
      const [sw, sh] = [Math.ceil(w / by), Math.ceil(h / by)];
      const stride = (sw + 2 * PAD + 15) & ~15;
      const out = 100_000 + PAD * stride + PAD;
      kernels.shrink(1024, w, h, w, by, out, stride);
      for (let y = -PAD; y < sh + PAD; y++) {
        const row: number[] = [];
        for (let x = -PAD; x < sw + PAD; x++) {
          // Around it, its border is repeated.
          const [cx, cy] = [Math.min(sw - 1, Math.max(0, x)), Math.min(sh - 1, Math.max(0, y))];
          let [sum, n] = [0, 0];
          for (let j = cy * by; j < Math.min(h, (cy + 1) * by); j++)
            for (let i = cx * by; i < Math.min(w, (cx + 1) * by); i++, n++) sum += from[j * w + i]!;
          row.push(Math.floor((sum + (n >> 1)) / n));
        }
        const begin = out + y * stride - PAD;
        expect(Array.from(bytes().subarray(begin, begin + row.length))).toEqual(row);
      }
    }
  });

  it('the median of nine, each component by itself, at borders of what is nearest', () => {
    for (const [w, h] of SIZES) {
      const from = Float32Array.from({ length: 2 * w * h }, (_, i) => 40 * hash(i, w, 7) - 20);
      new Float32Array(memory.buffer, 1024, from.length).set(from);
      kernels.median(1024, w, h, 200_000);
      const out = new Float32Array(memory.buffer, 200_000, from.length);
      const at = (x: number, y: number, c: number) =>
        from[2 * (Math.min(h - 1, Math.max(0, y)) * w + Math.min(w - 1, Math.max(0, x))) + c]!;
      const wanted = from.map((_, i) => {
        const [x, y] = [(i >> 1) % w, Math.floor(i / 2 / w)];
        const nine = [-1, 0, 1].flatMap((dy) => [-1, 0, 1].map((dx) => at(x + dx, y + dy, i % 2)));
        return nine.sort((a, b) => a - b)[4]!;
      });
      expect(out).toEqual(wanted);
    }
  });

  it('a plane along cells: each pixel from both sides at its place, by trust and share', () => {
    const [w, h, by] = [40, 24, 4];
    const [cw, ch] = [w / by, h / by];
    const [a, b] = [noise(w * h, 1), noise(w * h, 2)];
    bytes().set(a, 10_000);
    bytes().set(b, 20_000);
    const cells = 30_000;
    const set = (u: number, v: number, trust: number, first: number) => {
      const view = new DataView(memory.buffer);
      for (let k = 0; k < cw * ch; k++) {
        view.setInt16(cells + 8 * k, u * 32, true);
        view.setInt16(cells + 8 * k + 2, v * 32, true);
        view.setUint8(cells + 8 * k + 4, trust);
        view.setUint8(cells + 8 * k + 5, first);
      }
    };
    const made = (share: number) => {
      kernels.warp(10_000, 20_000, w, h, by, share, cells, cw, ch, 40_000, 50_000);
      return bytes().slice(40_000, 40_000 + w * h);
    };
    const inside = (x: number, y: number, at: Uint8Array) =>
      at[Math.min(h - 1, Math.max(0, y)) * w + Math.min(w - 1, Math.max(0, x))]!;
    // One cell right and half of one down, half way: two pixels and one, from each side.
    set(1, 0.5, 255, 128);
    made(16_384).forEach((value, i) => {
      const [x, y] = [i % w, Math.floor(i / w)];
      const both = (inside(x - 2, y - 1, a) + inside(x + 2, y + 1, b)) / 2;
      expect(Math.abs(value - both)).toBeLessThanOrEqual(1);
    });
    // Seen in one only: taken from that one, wherever in time it is.
    set(1, 0.5, 255, 255);
    made(16_384).forEach((value, i) => expect(value).toBe(inside((i % w) - 2, Math.floor(i / w) - 1, a)));
    set(1, 0.5, 255, 0);
    made(16_384).forEach((value, i) => expect(value).toBe(inside((i % w) + 2, Math.floor(i / w) + 1, b)));
    // Not trusted at all: the mean, to the byte.
    set(1, 0.5, 0, 128);
    made(10_000).forEach((value, i) => expect(value).toBe((a[i]! * 22_768 + b[i]! * 10_000 + 16_384) >> 15));
  });
});
