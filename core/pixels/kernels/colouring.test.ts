/** Bringing planes to other colours against plain sums, byte for byte, at even and odd sizes. */
import { seeded } from '../../moves/random';
import { type Planes, halfOf, planesBytes, planesIn } from '../planes';
import { loadKernels } from './module';

const random = seeded(5);
const whole = (from: number, to: number) => from + Math.floor(random() * (to - from + 1));
const bounded = (value: number) => Math.min(255, Math.max(0, value >> 14));

it.each([
  [1, 1],
  [2, 2],
  [1, 6],
  [7, 4],
  [16, 3],
  [33, 21],
])('%i x %i', (width, height) => {
  const { kernels, memory } = loadKernels(1 << 16);
  const [at, tablesAt] = [32_768, 4096];
  const tables = Array.from({ length: 7 }, (_, t) =>
    Int32Array.from({ length: 256 }, (_, v) => (t === 0 ? v * 17_000 : (v - 128) * whole(-9000, 18_000))),
  );
  tables.forEach((table, t) => new Int32Array(memory.buffer, tablesAt + 1024 * t, 256).set(table));
  const given = Uint8Array.from(
    { length: planesBytes(width, height) },
    () => [0, 255, whole(0, 255)][whole(0, 2)]!,
  );
  const there = planesIn(new Uint8Array(memory.buffer, at, given.length), width, height);
  const from = planesIn(given.slice(), width, height);
  for (const plane of ['y', 'u', 'v'] as const) there[plane].set(from[plane]);
  kernels.recolour(there.y.byteOffset, there.u.byteOffset, there.v.byteOffset, width, height, tablesAt);

  const value = (table: number, of: number) => tables[table]![of]!;
  const half = 128 * 16_384 + 8192;
  const expected: Planes = {
    ...{ width, height },
    y: from.y.map((light, i) => {
      const pair = (Math.floor(i / width) >> 1) * halfOf(width) + ((i % width) >> 1);
      return bounded(value(0, light) + value(1, from.u[pair]!) + value(2, from.v[pair]!));
    }),
    u: from.u.map((cb, i) => bounded(value(3, cb) + value(4, from.v[i]!) + half)),
    v: from.v.map((cr, i) => bounded(value(5, from.u[i]!) + value(6, cr) + half)),
  };
  expect([...there.y, ...there.u, ...there.v]).toEqual([...expected.y, ...expected.u, ...expected.v]);
});
