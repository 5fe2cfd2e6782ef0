/** What worn tape does, against its plain twins, byte for byte. */
import { seeded } from '../../moves/random';
import { loadKernels } from './module';

const { kernels: k, memory } = loadKernels(1 << 20);
const [A, OUT, SHIFTS] = [1 << 14, 1 << 18, 1 << 12];
const random = seeded(5);

describe.each([
  [1, 1],
  [7, 5],
  [33, 20],
])('at %i x %i', (width, height) => {
  const a = Uint8Array.from({ length: 4 * width * height }, () => Math.floor(random() * 256));
  const put = () => new Uint8Array(memory.buffer, A, a.length).set(a);
  const got = (at: number) => [...new Uint8Array(memory.buffer, at, a.length)];

  it('rows go aside, their edges on; no farther than the picture is wide', () => {
    const shifts = Int32Array.from({ length: height }, (_, y) => [0, 3, -2, 9999, -9999][y % 5]!);
    put();
    new Int32Array(memory.buffer, SHIFTS, height).set(shifts);
    k.rowsAside(A, OUT, width, height, SHIFTS);
    expect(got(OUT)).toEqual(
      [...a].map((_, i) => {
        const [x, y] = [(i >> 2) % width, Math.floor((i >> 2) / width)];
        const from = Math.min(width - 1, Math.max(0, x - shifts[y]!));
        return a[4 * (y * width + from) + (i & 3)];
      }),
    );
  });

  it.each([0, 15, 128])('grain of %i', (amount) => {
    put();
    k.grain(A, width * height, 77, amount);
    expect(got(A)).toEqual(
      [...a].map((v, i) => {
        if ((i & 3) === 3) return v;
        let h = (Math.imul(i >> 2, 0x27d4eb2d) + Math.imul(77, 0x9e3779b1)) >>> 0;
        h = Math.imul(h ^ (h >>> 15), 0x85ebca6b) >>> 0;
        h = (h ^ (h >>> 13)) >>> 0;
        const by = (Math.imul(h >>> 16, 2 * amount + 1) >>> 16) - amount;
        return Math.min(255, Math.max(0, v + by));
      }),
    );
  });
});
