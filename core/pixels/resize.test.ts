/** Planes of another size against plain sums, byte for byte, at sizes that are no multiple of anything. */
import { seeded } from '../moves/random';
import { type Taps, ONE, pitchOf, resize } from './resize';

const random = seeded(11);
const whole = (from: number, to: number) => from + Math.floor(random() * (to - from + 1));

/** Some target values of some of a source's: places that grow, weights that sum to one. */
function taps(size: number, reach: number): Taps {
  const first = whole(0, 5);
  const end = first + whole(1, 70);
  const pitch = pitchOf(reach);
  const weights = new Int16Array((end - first) * pitch);
  const starts = Int32Array.from({ length: end - first }, () => whole(0, Math.max(0, size - reach))).sort();
  for (let i = 0; i < end - first; i++) {
    const within = Math.min(reach, size);
    let left = ONE;
    for (let k = 1; k < within; k++) {
      weights[i * pitch + k] = whole(0, Math.floor(left / 2));
      left -= weights[i * pitch + k]!;
    }
    weights[i * pitch] = left;
  }
  return { first, end, starts, reach, pitch, weights };
}

/** A value as it is meant: sums across, kept to some bits, and of those down. */
function plain(from: Uint8Array, stride: number, across: Taps, down: Taps, x: number, y: number): number {
  const bits = across.reach === 2 && down.reach === 2 && stride >= 2 && from.length >= 2 * stride ? 4 : 6;
  const sum = (of: Taps, i: number, value: (at: number) => number) =>
    Array.from({ length: of.reach }, (_, k) => of.weights[i * of.pitch + k]!).reduce(
      (total, weight, k) => (weight === 0 ? total : total + weight * value(of.starts[i]! + k)),
      0,
    );
  const row = (at: number) => (sum(across, x, (i) => from[at * stride + i]!) + (bits === 6 ? 32 : 0)) >> bits;
  return (sum(down, y, row) + 2 ** (23 - bits)) >> (24 - bits);
}

it.each([2, 3, 4, 6, 8, 9, 17])('a value of %i each way, and of others down', (reach) => {
  for (let n = 0; n < 15; n++) {
    const [stride, height] = [whole(1, 60), whole(1, 40)];
    const from = Uint8Array.from({ length: stride * height }, () => [0, 255, whole(0, 255)][whole(0, 2)]!);
    const [across, down] = [taps(stride, reach), taps(height, n % 2 === 0 ? reach : whole(2, 9))];
    const toStride = across.end + whole(0, 4);
    const to = new Uint8Array(toStride * down.end).fill(77);
    resize(from, stride, to, toStride, { across, down });
    const expected = Array.from(to, (_, at) => {
      const [x, y] = [(at % toStride) - across.first, Math.floor(at / toStride) - down.first];
      const here = x >= 0 && y >= 0 && x < across.end - across.first;
      return here ? plain(from, stride, across, down, x, y) : 77;
    });
    expect([...to]).toEqual(expected);
  }
});

it('a large picture after a small one, and the small one again', () => {
  const once = (size: number) => {
    const from = Uint8Array.from({ length: size * size }, (_, i) => i % 251);
    const same: Taps = {
      ...{ first: 0, end: size, reach: 2, pitch: 2 },
      starts: Int32Array.from({ length: size }, (_, i) => Math.min(i, size - 2)),
      weights: Int16Array.from({ length: 2 * size }, (_, i) =>
        (i >> 1 === size - 1) === (i % 2 === 1) ? ONE : 0,
      ),
    };
    const to = new Uint8Array(size * size);
    resize(from, size, to, size, { across: same, down: same });
    return Buffer.compare(from, to) === 0;
  };
  expect([16, 1500, 16].map(once)).toEqual([true, true, true]);
});
