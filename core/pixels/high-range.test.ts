import { seeded } from '../moves/random';
import { type Matrix, SHARES, type Transfer } from './colour';
import { HighRange } from './high-range';
import { halfOf, planesBytes, planesIn } from './planes';

const [WIDTH, HEIGHT] = [96, 64];
const chroma = halfOf(WIDTH) * halfOf(HEIGHT);

/** Colours as films have them, as ten-bit words: greys up to `brightest`, coloured by up to half. */
function drawn(random: () => number, brightest: number) {
  const [y, u, v] = [WIDTH * HEIGHT, chroma, chroma].map((n) => new Uint16Array(n)) as [
    Uint16Array,
    Uint16Array,
    Uint16Array,
  ];
  const { red, blue } = SHARES.bt2020;
  for (let pair = 0; pair < chroma; pair++) {
    const grey = 0.02 + brightest * random();
    const [r, g, b] = [0, 1, 2].map(() => grey * (1 - 0.5 * random())) as [number, number, number];
    const light = red * r + (1 - red - blue) * g + blue * b;
    u[pair] = Math.round(512 + (896 * (b - light)) / (2 * (1 - blue)));
    v[pair] = Math.round(512 + (896 * (r - light)) / (2 * (1 - red)));
    const at = 2 * Math.floor(pair / halfOf(WIDTH)) * WIDTH + 2 * (pair % halfOf(WIDTH));
    for (const d of [0, 1, WIDTH, WIDTH + 1]) y[at + d] = Math.round(64 + 876 * light);
  }
  return { width: WIDTH, height: HEIGHT, bits: 10, y, u, v };
}

it.each<[Transfer, Matrix, number]>([
  ['hlg', 'bt2020', 0.85],
  ['pq', 'bt2020', 0.58],
  ['sdr', 'bt2020', 0.9],
])('%s in %s: the cube is near to what each point comes to', (transfer, matrix, brightest) => {
  const range = new HighRange(transfer, matrix, false, 10);
  const from = drawn(seeded(3), brightest);
  const to = planesIn(new Uint8Array(planesBytes(WIDTH, HEIGHT)), WIDTH, HEIGHT);
  range.convert(from, to);
  const off = Array.from({ length: WIDTH * HEIGHT }, (_, i) => {
    const pair = (Math.floor(i / WIDTH) >> 1) * halfOf(WIDTH) + ((i % WIDTH) >> 1);
    const exact = range.exactly(from.y[i]!, from.u[pair]!, from.v[pair]!);
    return [to.y[i]! - exact[0], to.u[pair]! - exact[1], to.v[pair]! - exact[2]].map(Math.abs);
  }).flat();
  off.sort((a, b) => a - b);
  // A quarter of a level is the rounding alone; what is cut off at the edge of BT.709 is bent a little.
  expect(off.reduce((a, b) => a + b, 0) / off.length).toBeLessThan(0.6);
  expect(off[Math.floor(0.95 * off.length)]).toBeLessThan(2);
  expect(off[Math.floor(0.99 * off.length)]).toBeLessThan(6);
});

it('eight bits are as ten of the same, whatever the range', () => {
  for (const fullRange of [false, true]) {
    const { width, height, ...deep } = drawn(seeded(8), 0.9);
    const eight = planesIn(new Uint8Array(planesBytes(width, height)), width, height);
    for (const plane of ['y', 'u', 'v'] as const) eight[plane].set(deep[plane].map((v) => v >> 2));
    const words = {
      width,
      height,
      bits: 8,
      y: Uint16Array.from(eight.y),
      u: Uint16Array.from(eight.u),
      v: Uint16Array.from(eight.v),
    };
    const range = new HighRange('hlg', 'bt2020', fullRange, 8);
    const to = planesIn(new Uint8Array(planesBytes(width, height)), width, height);
    range.convert(words, to);
    range.convertEight(eight);
    expect(eight).toEqual(to);
  }
});
