import fc from 'fast-check';
import { loadKernels } from '../pixels/kernels/module';
import { compilePiece } from '../project/compile';
import { type Clip, pieceOf } from '../project/schema';
import { LookSchema } from '../looks/look';
import { drawStack, tablesOf } from '../looks/draw';
import { looksOfPiece } from '../looks/resolve';
import { Surface } from '../pixels/surface';
import { rational } from '../time/rational';
import { masksOfPiece } from './masks';
import { type Region, RegionSchema, maskOf, moved, numbersAt } from './region';

const HERE = { a: 1, b: 0, x: 0, y: 0 };
const region = (change: object = {}): Region =>
  RegionSchema.parse({ shape: 'ellipse', keys: [{ at: 0, values: [100, 60, 40, 20, 0] }], ...change });

describe('a region', () => {
  it('stands still with one key, and goes from key to key with their eases', () => {
    expect(numbersAt(region(), 99)).toEqual([100, 60, 40, 20, 0]);
    const keyed = region({
      keys: [
        { at: 10, values: [0, 0, 10, 10, 0] },
        { at: 20, ease: 'hold', values: [100, 50, 30, 10, 90] },
        { at: 30, values: [200, 0, 10, 10, 0] },
      ],
    });
    expect([0, 10, 15, 20, 29, 30, 50].map((n) => numbersAt(keyed, n)[0])).toEqual([
      0, 0, 50, 100, 100, 200, 200,
    ]);
  });

  it('is put elsewhere with its size and turn', () => {
    const map = { a: 0, b: 2, x: 300, y: 0 };
    expect(moved('ellipse', [10, 20, 40, 30, 15], map)).toEqual([260, 20, 80, 60, 105]);
    expect(moved('polygon', [0, 0, 10, 0, 10, 10], map)).toEqual([300, 0, 300, 20, 280, 20]);
    expect(maskOf(region(), [1.01, 2.02, 3, 4, 5], HERE).numbers).toEqual([1, 2, 3, 4, 5]);
  });

  it.each([
    [
      'a polygon of an odd number of numbers',
      { shape: 'polygon', keys: [{ at: 0, values: [0, 0, 9, 0, 9, 9, 4] }] },
    ],
    ['an ellipse without a turn', { keys: [{ at: 0, values: [1, 2, 3, 4] }] }],
    ['keys out of order', { keys: [3, 1].map((at) => ({ at, values: [1, 2, 3, 4, 5] })) }],
    ['no keys', { keys: [] }],
  ])('is not %s', (_, change) => {
    expect(RegionSchema.safeParse({ shape: 'ellipse', ...change }).success).toBe(false);
  });
});

/** A clip of 60 frames whose track goes across by 5 pixels a frame, lost from frame 40 on. */
const clip: Clip = {
  ...{ id: 'c', mediaId: 'm', name: 'c', marks: [], readAt: null, framing: 'fit' },
  tracks: [
    {
      ...{ id: 't', name: 'lamp', kind: 'point', width: 20, height: 20 },
      keys: [{ frame: 0, ease: 'even', values: [20, 40] }],
      runs: [
        {
          from: 1,
          values: Array.from({ length: 39 }, (_, i) => [20 + 5 * (i + 1), 40]).flat(),
          sure: Array.from({ length: 39 }, () => 95),
        },
      ],
    },
  ],
};
const table = { kind: 'constant' as const, rate: rational(30), count: 60 };
const sizes = { picture: { width: 320, height: 180 }, frame: { width: 320, height: 180 } };
const tint = (change: object) =>
  LookSchema.parse({
    id: 'l',
    look: 'vignette',
    values: { amount: 100, size: 0, soft: 1, colour: '#ff0000' },
    ...change,
  });
const piece = (change: object) =>
  compilePiece(
    pieceOf({ id: 'p', clipId: 'c', span: { in: 0, out: 50 }, chain: [], ...change }),
    clip,
    table,
    rational(30),
    undefined,
    sizes,
  );
const carried = region({ carried: { track: 't', from: 0 }, keys: [{ at: 0, values: [20, 40, 16, 16, 0] }] });

describe('a region carried by a track', () => {
  const chain = [{ id: 's', move: 'boomerang', on: true, values: {} }];

  it('lies on the same pixels of the clip forward and backward, and nowhere where the track is lost', () => {
    const compiled = piece({ chain, looks: [tint({ region: carried })] });
    const [look] = compiled.piece.looks;
    const masks = masksOfPiece(compiled, true)(look!);
    const byFrame = new Map<number, string>();
    compiled.shown.forEach((n, i) => {
      const mask = masks.at(i);
      if (n > 39) return expect(mask).toBeUndefined();
      expect(mask!.numbers[0]).toBeCloseTo(20 + 5 * n);
      const text = JSON.stringify(mask);
      expect(byFrame.get(n) ?? text).toBe(text);
      byFrame.set(n, text);
    });
    expect(looksOfPiece(compiled, true).results[0]?.notices[0]?.text).toMatch(
      /lamp is lost in \d+ of its frames/,
    );
  });

  it('goes where the piece is held: on a track that stands still it stands still', () => {
    const compiled = piece({
      span: { in: 0, out: 40 },
      chain,
      looks: [tint({ region: carried })],
      steady: {
        on: true,
        track: 't',
        how: 'stays',
        turns: true,
        amount: 100,
        smooth: 0,
        edges: 'black',
        closer: 100,
      },
    });
    const masks = masksOfPiece(compiled, true)(compiled.piece.looks[0]!);
    for (let i = 0; i < compiled.shown.length; i++) expect(masks.at(i)?.numbers).toEqual([20, 40, 16, 16, 0]);
  });

  it('between two frames lies between where it is on them', () => {
    const compiled = piece({
      between: 'mix',
      chain: [{ id: 's', move: 'speed', on: true, values: { percent: 50 } }],
      looks: [tint({ region: carried })],
    });
    const masks = masksOfPiece(compiled, true)(compiled.piece.looks[0]!);
    // The second picture is a quarter of the way from frame 0 to 1, the third three quarters.
    expect([1, 2].map((i) => masks.at(i)?.numbers[0])).toEqual([21.25, 23.75]);
  });

  it('stands still where its track is gone, and says so', () => {
    const compiled = compilePiece(
      pieceOf({
        id: 'p',
        clipId: 'c',
        span: { in: 0, out: 9 },
        chain: [],
        looks: [tint({ region: carried })],
      }),
      { ...clip, tracks: [] },
      table,
      rational(30),
      undefined,
      sizes,
    );
    const { results, drawn } = looksOfPiece(compiled, true);
    expect(results[0]?.notices.map((n) => n.code)).toEqual(['region-no-track']);
    expect(drawn.map((d) => d[0]?.mask?.numbers[0])).toEqual(Array.from({ length: 9 }, () => 20));
  });
});

it('a look in a region changes its inside alone, by its strength; inverted, its outside alone', () => {
  const [width, height] = [32, 18];
  const surface = new Surface(width, height);
  const grey = new Uint8Array(4 * width * height).fill(100).map((v, i) => (i % 4 === 3 ? 255 : v));
  const draw = (inverted: boolean, strength: number) => {
    const look = tint({
      look: 'flash',
      values: { kind: 'white' },
      strength,
      region: region({
        shape: 'rectangle',
        feather: 0,
        inverted,
        keys: [{ at: 0, values: [100, 90, 100, 60, 0] }],
      }),
    });
    const compiled = piece({ looks: [look] });
    surface.loadRgba(grey);
    drawStack(surface, looksOfPiece(compiled, true).drawn[0]!, 0.1, tablesOf({}));
    return Array.from({ length: width * height }, (_, i) => surface.pixels[4 * i]!);
  };
  // In the project's picture x from 50 to 150, y from 60 to 120; here a tenth of that.
  const inside = (i: number) => {
    const [x, y] = [(i % width) + 0.5, Math.floor(i / width) + 0.5];
    return x > 5 && x < 15 && y > 6 && y < 12;
  };
  expect(draw(false, 100)).toEqual(draw(false, 100).map((_, i) => (inside(i) ? 255 : 100)));
  expect(draw(true, 100)).toEqual(draw(true, 100).map((_, i) => (inside(i) ? 100 : 255)));
  expect(new Set(draw(false, 50))).toEqual(new Set([100, 178]));
});

it('a smear in a region is laid over the picture there', () => {
  const compiled = piece({
    looks: [tint({ look: 'smear', values: { back: 2, on: 0 }, region: region() })],
  });
  const drawn = looksOfPiece(compiled, true).drawn[20]!;
  expect(drawn).toHaveLength(1);
  expect(drawn[0]!.drawing).toMatchObject({ madeOf: true, layers: [{ frames: [18, 19, 20] }] });
  expect(drawn[0]!.mask?.shape).toBe('ellipse');
});

it('only the part of a mask that it reaches is worked out, and that is all of it', () => {
  const [width, height] = [96, 64];
  const { kernels, memory } = loadKernels(1 << 16);
  const surface = new Surface(width, height);
  fc.assert(
    fc.property(
      fc.record({
        x: fc.integer({ min: -20, max: 110 }),
        y: fc.integer({ min: -20, max: 80 }),
        w: fc.integer({ min: 0, max: 120 }),
        h: fc.integer({ min: 0, max: 90 }),
        turn: fc.integer({ min: 0, max: 180 }),
        feather: fc.integer({ min: 0, max: 60 }),
        grow: fc.integer({ min: -20, max: 20 }),
        inverted: fc.boolean(),
        shape: fc.constantFrom('ellipse', 'rectangle'),
      }),
      ({ x, y, w, h, turn, feather, grow, inverted, shape }) => {
        surface.loadRgba(new Uint8Array(4 * width * height));
        const mask = { shape: shape as 'ellipse', numbers: [x, y, w, h, turn], feather, grow, inverted };
        surface.within({ mask }, 1, 1, () => surface.fill([255, 255, 255], 1));
        const angle = (turn * Math.PI) / 180;
        kernels[mask.shape](
          ...([4096, width, height, width, x, y, Math.cos(angle), Math.sin(angle)] as const),
          // An ellipse grows by its axes.
          ...(shape === 'ellipse'
            ? ([Math.max(0.25, w / 2 + grow), Math.max(0.25, h / 2 + grow), 0] as const)
            : ([Math.max(0.25, w / 2), Math.max(0.25, h / 2), grow] as const)),
          ...([feather, Number(inverted)] as const),
        );
        const whole = new Uint8Array(memory.buffer, 4096, width * height);
        const off = whole.reduce((most, v, i) => Math.max(most, Math.abs(v - surface.pixels[4 * i]!)), 0);
        expect(off).toBeLessThanOrEqual(1);
      },
    ),
    { numRuns: 400 },
  );
});
