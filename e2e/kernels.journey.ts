/** The kernels' bytes, kernel by kernel, in Node and in Chromium. */
import { KERNELS } from '@skipback/core/pixels/kernels/bytes';
import { expect, test } from './journey';

interface Shape {
  readonly width: number;
  readonly height: number;
}

/** Runs every kernel on the same made-up memory and gives a sum of what each wrote; plain, so that a page can run it. */
function exercise({ kernels: base64, shapes }: { kernels: string; shapes: Shape[] }): Record<string, number> {
  const memory = new WebAssembly.Memory({ initial: 80, maximum: 16_384 });
  const module = new WebAssembly.Module(Uint8Array.from(atob(base64), (c) => c.charCodeAt(0)));
  const { exports } = new WebAssembly.Instance(module, { env: { memory, abort: () => undefined } });
  const k = exports as Record<string, (...args: (number | bigint)[]) => void>;
  const bytes = new Uint8Array(memory.buffer);
  const words = new Int32Array(memory.buffer);
  const [A, B, C, OUT, SUMS] = [4096, 700_000, 1_400_000, 2_100_000, 2_800_000] as const;
  const sums: Record<string, number> = {};
  for (const { width: w, height: h } of shapes) {
    const [pixels, size] = [w * h, 4 * w * h];
    const runs: Record<string, (number | bigint)[]> = {
      toRgba: [A, B, C, OUT, w, h],
      fromRgba: [A, OUT, B, C, w, h],
      mix: [A, B, OUT, size, 77],
      fill: [A, pixels, 0xff3366cc, 200],
      maskFill: [A, pixels, B, 0xffcc8811],
      lookUp: [A, pixels, B],
      matrix: [A, pixels, B],
      add: [A, B, size],
      screen: [A, B, size],
      multiply: [A, B, size],
      affine: [A, OUT, w, h, 60_001n, 9_111n, 65_537n, -8_003n, 61_007n, 12_345n, 2, 0xffffffff],
      shift: [A, OUT, w, h, 123_457, -98_765, 1, 0xff00ffff],
      edges: [A, OUT, w, h, 2, 12, 40],
      meanOfTwo: [A, OUT, w, h, -3, 2, 4, -1, 1],
      boxAcross: [A, OUT, w, h, 7],
      boxDown: [A, OUT, w, h, 5, SUMS],
      cube: [A, pixels, B, 17],
      blend: [A, B, size, 2, 77],
      mean: [A, pixels, B, 3, OUT, pixels],
      placePlane: [A, w, h, OUT, w, h, 60_001n, 9_111n, -65_537n, -8_003n, 61_007n, 12_345n, 2, 16],
      ellipse: [OUT, w, h, w, w / 2.1, h / 1.9, 0.921, 0.389, w / 3, h / 4 + 0.3, 1.5, 7.3, 0],
      rectangle: [OUT, w, h, w, w / 2.1, h / 1.9, 0.921, 0.389, w / 3, h / 4 + 0.3, -1.5, 4.7, 1],
      maskMix: [A, B, pixels, C],
      differ: [A, B, B + 30_000, C, OUT + 9000, OUT + 20_000, w, h, SUMS, 40, 300],
      meanAcross: [A, OUT, w, h, 6],
      meanDown: [A, OUT, w, h, 4, SUMS],
      steepen: [A, pixels, 90, 4],
      spread: [A, w, h, OUT, w + 5, h + 3, 60_001, -70_000, 59_111, -30_001, 0, 255, SUMS],
      recolour: [A, B, OUT, w, h, C],
      maskBoth: [A, B, pixels],
      lay: [A, B, pixels, 4, 200],
      takeAlpha: [A, B, pixels],
      clearOutside: [A, w, h, 2, 1, w - 3, h - 1],
      rowsAside: [A, OUT, w, h, SUMS],
      grain: [A, pixels, 12_345, 40],
      apart: [A, OUT, OUT + 30_000, pixels],
      toBytes: [A, OUT, pixels, 2],
      toTen: [A, OUT, pixels],
      premultiply: [A, pixels],
      turn: [A, w, h, OUT, 1, 1, 0],
      throughCube: [A, B, C, OUT, OUT + 30_000, OUT + 60_000, w, h, 3_100_000],
    };
    const fill = () => {
      let seed = 0x2545f491;
      for (let i = 0; i < words.length; i++) {
        seed = (Math.imul(seed, 1_103_515_245) + 12_345) | 0;
        words[i] = seed ^ (seed >>> 15);
      }
    };
    const run = (name: string, args: (number | bigint)[]) => {
      k[name]!(...args);
      let sum = 0;
      for (let i = 0; i < words.length; i++) sum = (Math.imul(sum, 31) + words[i]!) | 0;
      sums[`${name} ${w} x ${h}`] = sum;
    };
    for (const [name, args] of Object.entries(runs)) {
      fill();
      run(name, args);
    }
    fill();
    new Float32Array(memory.buffer, 1024, 10).set(
      [0.5, 0.05, 0.8, 0.95, 0.02, 0.35, 0.98, 0.35, 0.2, 0.95].map((v, i) => v * (i % 2 ? h : w)),
    );
    run('polygon', [OUT, w, h, w, 1024, 5, 1, 6.1, 0]);
    fill();
    for (const [place, size] of [
      [SUMS, w],
      [SUMS + 8192, h],
    ] as const)
      new Int32Array(memory.buffer, place, size + 4).set(
        Array.from({ length: size + 4 }, (_, i) => Math.min(i, size - 1)),
      );
    run('resize', [A, w, OUT, SUMS, B, 8, w, SUMS + 8192, C, 3, 8, h, SUMS + 16_384, 6, 1]);
    // Those of motion work on what the ones before them made; the second picture is the first, a little aside.
    fill();
    const [mw, mh] = [w + 40, h + 40];
    const stride = (mw + 63) & ~15;
    const inside = 24 * stride + 24;
    const at = (place: number) => 300_000 * place;
    for (let i = 0; i < 4 * mw * mh; i++)
      bytes[at(1) + i] = 90 + 60 * Math.sin(i / 9) + (bytes[at(1) + i]! >> 4);
    bytes.copyWithin(at(2), at(1) + 6, at(1) + 4 * mw * mh);
    const [a, b] = [at(3) + inside, at(4) + inside] as const;
    const motion: [string, (number | bigint)[]][] = [
      ['shrink', [at(1), 2 * mw, 2 * mh, 2 * mw, 2, a, stride]],
      ['shrink', [at(2), 2 * mw, 2 * mh, 2 * mw, 2, b, stride]],
      ['surround', [a, mw, mh, stride]],
      ['search', [b, a, mw, mh, stride, 0, 0, 0, at(5), 1024, 4, 8]],
      ['densify', [b, a, mw, mh, stride, at(5), at(6), at(7)]],
      ['median', [at(6), mw, mh, at(9)]],
      ['search', [a, b, mw, mh, stride, 0, 0, 0, at(5), 1024, 4, 8]],
      ['densify', [a, b, mw, mh, stride, at(5), at(6), at(7)]],
      ['median', [at(6), mw, mh, at(8)]],
      ['check', [a, b, mw, mh, stride, at(8), at(9), at(10), at(10) + 100_000]],
      ['clear', [at(11), at(12), mw * mh]],
      ['carry', [at(10), at(10) + 100_000, mw, mh, 12_000, 1, at(11), at(12)]],
      ['judge', [a, b, mw, mh, stride, 12_000, at(11), at(13)]],
      ['warp', [at(1), at(2), 2 * mw, 2 * mh, 2, 12_000, at(11), mw, mh, at(5), 1024]],
    ];
    for (const [name, args] of motion) run(name, args);
  }
  return { ...sums, kernels: Object.keys(k).filter((name) => typeof k[name] === 'function').length };
}

test('every kernel writes the same bytes in Node and in Chromium, at even and odd sizes', async ({
  page,
}) => {
  const given = {
    kernels: KERNELS,
    shapes: [
      { width: 64, height: 36 },
      { width: 37, height: 23 },
      { width: 1, height: 5 },
    ],
  };
  const here = exercise(given);
  expect(await page.evaluate(exercise, given)).toEqual(here);
  // None was left out: as many as there are, for every size.
  expect(Object.keys(here)).toHaveLength(3 * here['kernels']! + 1);
});
