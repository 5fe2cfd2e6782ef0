import { fieldBytes, fieldSize } from '@skipback/core/flow/field';
import { SCENES, pictureOf } from '@skipback/core/flow/moving-textures';
import { psnr } from '@skipback/core/flow/quality';
import { WHOLE, wholeFrame } from '@skipback/core/gather/gather';
import type { FrameParts } from '../frames/frame-sets';
import { PixelPool } from '../pixels/pixel-pool';
import { Fields, alongIn, jobOf, pairsOf } from './fields';

const [W, H] = [160, 96];
const scene = SCENES['translating']!;
const picture = (t: number) => pictureOf((x, y) => scene(2 * x, 2 * y, t), 0, W, H);
const [first, second, third] = [picture(0), picture(2), picture(4)];
const half = { frames: [0, 1], weights: [WHOLE / 2, WHOLE / 2], along: [WHOLE / 2] };
const grade = { look: 'flash', drawing: { kind: 'invert', share: 1 }, share: 0.4 };
const plain = (frame: number): FrameParts => ({
  ...{ frames: [frame], gather: undefined, stack: [], layers: [], other: undefined },
});
const moved: FrameParts = { ...plain(7), frames: [7, 8], gather: half };
const size = { width: W, height: H, unit: 1, coarseness: 1, from: 'i420' as const };

describe('fields', () => {
  it('are found once for a pair, whoever asks and however often at once', async () => {
    const fields = new Fields(new PixelPool(1), W, H);
    expect(fields.has({ first: 7, along: [WHOLE / 2] })).toBe(false);
    await Promise.all([1, 2, 3].map(() => jobOf(moved, [first, second], fields)));
    await jobOf({ ...moved, gather: { ...half, along: [WHOLE / 4] } }, [first, second], fields);
    expect(fields.found).toBe(1);
    expect(fields.has({ first: 7, along: [WHOLE / 8] })).toBe(true);
    expect(fields.has({ first: 8, along: [WHOLE / 8] })).toBe(false);
  });

  it('are let go, the longest unused first, where there is no room', async () => {
    const bytes = fieldBytes(fieldSize(W, H)!);
    const fields = new Fields(new PixelPool(1), W, H, undefined, 4 * bytes);
    for (const n of [0, 1, 2, 3, 0, 4])
      await jobOf({ ...moved, frames: [n, n + 1] }, [first, second], fields);
    const there = [0, 1, 2, 3, 4].filter((n) => fields.has({ first: n, along: [1] }));
    expect(there).toEqual([0, 2, 3, 4]);
  });

  it('lie on the shelf for the next visit; what is none, or breaks, is found anew', async () => {
    const lies = new Map<string, Uint8Array>();
    const shelf = {
      get: (key: string) => Promise.resolve(lies.get(key)),
      put: (key: string, field: Uint8Array) => void lies.set(key, field.slice()),
    };
    const visit = async (number: number) => {
      const fields = new Fields(new PixelPool(1), W, H, { shelf, keyOf: (n) => `clip ${n}` });
      const { along } = await jobOf({ ...moved, frames: [number, number + 1] }, [first, second], fields);
      return { counts: [fields.found, fields.read], field: along!.fields[0]! };
    };
    const before = await visit(7);
    const after = await visit(7);
    expect([before.counts, after.counts]).toEqual([
      [1, 0],
      [0, 1],
    ]);
    expect(after.field.every((v, i) => v === before.field[i])).toBe(true);
    expect((await visit(8)).counts).toEqual([1, 0]);
    lies.set('clip 7', new Uint8Array(3));
    expect((await visit(7)).counts).toEqual([1, 0]);
  });

  it('name the pairs that are needed: none for a frame as it is', () => {
    expect(pairsOf([0, WHOLE])).toEqual([]);
    expect(pairsOf([WHOLE / 2, WHOLE - 1, WHOLE + 1])).toEqual([0, 1]);
    const layer = { frames: [3, 4, 5], gather: { frames: [3, 4, 5], weights: [], along: [WHOLE + 5] } };
    expect(alongIn({ ...plain(0), layers: [layer] })).toEqual([{ first: 3, along: [WHOLE + 5] }]);
  });

  it('pictures too small for motion are mixed', async () => {
    const tiny = new Fields(new PixelPool(1), 16, 16);
    expect(tiny.has({ first: 0, along: [1] })).toBe(true);
    expect(
      (await jobOf(moved, [first.subarray(0, 384), second.subarray(0, 384)], tiny)).along,
    ).toBeUndefined();
  });
});

describe('a picture of several', () => {
  const pictures: readonly (readonly [string, FrameParts, readonly Uint8Array[]])[] = [
    ['between two', moved, [first, second]],
    ['over three along the motion', { ...moved, frames: [7, 8, 9], gather: { frames: [0, 1, 2], weights: [8192, 16_384, 8192], along: [16_384, 32_768, 49_152] } }, [first, second, third]], // oxfmt-ignore
    ['drawn on', { ...moved, stack: [grade] }, [first, second]],
    ['at a dissolve', { ...moved, other: { ...plain(40), share: 8192, over: { stack: [], layers: [] } } }, [first, second, third]], // oxfmt-ignore
    ['at a dissolve with looks on each and on both', { ...moved, stack: [grade], other: { ...plain(40), stack: [grade], share: 8192, over: { stack: [grade], layers: [] } } }, [first, second, third]], // oxfmt-ignore
    ['with a copy along the motion laid over it', { ...plain(9), stack: [{ look: 'trail', drawing: { blend: 'lighten', opacities: [1], layers: [half] }, share: 1 }], layers: [{ frames: [7, 8], gather: half }] }, [third, first, second]], // oxfmt-ignore
  ];

  it.each(pictures)('%s is on the screen what it is in the file', async (_, parts, sources) => {
    const pool = new PixelPool(1);
    const job = { ...size, ...(await jobOf(parts, sources, new Fields(pool, W, H))) };
    const shown = (await pool.draw({ ...job, into: 'rgba' })).bytes.slice();
    const file = (await pool.draw({ ...job, into: 'i420' })).bytes.slice();
    const read = { sources: [file], weights: undefined, stack: [], layers: [] };
    const again = (await pool.draw({ ...size, ...read, into: 'rgba' })).bytes;
    // What was drawn on is stored once more on its way to the file: a step of its colour, no more.
    const off = shown.map((v, i) => Math.abs(v - again[i]!));
    const last = parts.other ? parts.other.over.stack : parts.stack;
    expect(Math.max(...off)).toBeLessThanOrEqual(last.length > 0 ? 4 : 0);
  });

  it('is mixed exactly where both meet, and along the motion is nearer to what is there', async () => {
    const pool = new PixelPool(1);
    const parts: FrameParts = {
      ...plain(0),
      other: { ...plain(9), share: 8192, over: { stack: [], layers: [] } },
    };
    const both = await pool.draw({
      ...size,
      ...(await jobOf(parts, [first, third], undefined)),
      into: 'i420',
    });
    expect(both.bytes.every((v, i) => v === (first[i]! * 24_576 + third[i]! * 8192 + 16_384) >> 15)).toBe(
      true,
    );
    const truth = picture(1);
    const between = async (fields: Fields | undefined) =>
      psnr(
        (
          await pool.draw({ ...size, ...(await jobOf(moved, [first, second], fields)), into: 'i420' })
        ).bytes.slice(),
        truth,
      );
    expect(await between(new Fields(pool, W, H))).toBeGreaterThan((await between(undefined)) + 6);
  });

  it('a layer is its own gather, not what was made before it', async () => {
    expect(wholeFrame(3)).toEqual({ frames: [3], weights: [WHOLE] });
    const pool = new PixelPool(1);
    const trail = {
      look: 'trail',
      drawing: { blend: 'lighten', opacities: [1, 1], layers: [half, half] },
      share: 1,
    };
    const layers = [
      { frames: [7, 8], gather: half },
      { frames: [8, 9], gather: half },
    ];
    const sources = [first, first, second, second, third];
    const job = await jobOf({ ...plain(7), stack: [trail], layers }, sources, new Fields(pool, W, H));
    const drawn = (await pool.draw({ ...size, ...job, into: 'rgba' })).bytes.slice();
    const turned = await jobOf({ ...plain(7), stack: [trail], layers: layers.toReversed() }, [first, second, third, first, second], new Fields(pool, W, H)); // oxfmt-ignore
    expect(
      (await pool.draw({ ...size, ...turned, into: 'rgba' })).bytes.every((v, i) => v === drawn[i]),
    ).toBe(true);
  });
});
