import fc from 'fast-check';
import { musicFrom, musicOf } from '../beats/music';
import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { type FrameTable, meanRateHz } from '../clip/frame-table';
import { LookSchema } from '../looks/look';
import { applyChain } from '../moves/chain';
import { pathFrames, spanPath } from '../path/path';
import { compilePiece } from '../project/compile';
import { newProject } from '../project/new-project';
import { ClipSchema, PieceSchema, ProjectSchema, pieceOf } from '../project/schema';
import { rational } from '../time/rational';
import { GROUPED_RECIPES, OUR_RECIPES } from './ours';
import { type Ground, putRecipe } from './put';
import { type Recipe, RecipeSchema } from './recipe';
import { lengthKey, lengthsOf, takeRecipe } from './take';
import type { Track } from '../tracks/track';

const hand: Track = {
  ...{ id: 't', name: 'hand', kind: 'point', width: 30, height: 30, runs: [] },
  keys: [{ frame: 20, ease: 'even', values: [300, 200] }],
};

const RATE = rational(30);
const even = (hz: number, count: number): FrameTable => ({ kind: 'constant', rate: rational(hz), count });
const song = (bpm: number) =>
  musicOf(
    {
      grid: {
        beats: Array.from({ length: 200 }, (_, i) => (i * 60) / bpm),
        firstBar: 0,
        beatsPerBar: 4,
        held: [],
      } as never,
      accents: Array.from({ length: 100 }, (_, i) => ({
        at: (i * 60) / bpm,
        band: 'low' as const,
        strength: 1,
      })),
      envelopes: DEFAULT_ENVELOPES,
    },
    { startFrame: 0, fromS: 0 },
    RATE,
  );

let count = 0;
const ground = (
  table: FrameTable,
  span: { in: number; out: number },
  over: Partial<Ground> = {},
): Ground => ({
  clipId: 'other',
  span,
  table,
  marks: [],
  tracks: [],
  picture: { width: 1280, height: 720 },
  music: undefined,
  path: spanPath(table, span.in, span.out, RATE),
  knows: () => false,
  newId: () => `n${++count}`,
  ...over,
});

/** A piece worked out: a hold at frame 20 of 60 for 12 frames, on frames 30 to 90 of a clip of 30 a second. */
function piece(
  chain: { move: string; values: Record<string, unknown> }[],
  marks: { name: string; frame: number }[] = [],
) {
  const clip = ClipSchema.parse({
    ...{ id: 'drum', mediaId: 'm', name: 'drum.mp4', readAt: null },
    marks: marks.map((m, i) => ({ id: `${i}`, ...m })),
  });
  const steps = chain.map((s, i) => ({ id: `${i}`, on: true, ...s }));
  const made = pieceOf({ id: 'p', clipId: 'drum', span: { in: 30, out: 90 }, chain: steps });
  const size = { width: 1280, height: 720 };
  return compilePiece(made, clip, even(30, 200), RATE, undefined, { picture: size, frame: size });
}
const project = newProject('x', 'x', 0);
const withoutId = (look: object) => ({ ...look, id: '' });

describe('lengths are kept in what they were meant in', () => {
  const held = piece([{ move: 'hold', values: { at: 20, length: 12 } }]);

  test('a place is a share of what comes in, a length its frames', () => {
    expect(lengthsOf(held).map((l) => [l.words, l.meant])).toEqual([
      ['Hold: at', 'share'],
      ['Hold: for', 'frames'],
    ]);
    const put = putRecipe(takeRecipe(held, project, 'Rest'), ground(even(30, 400), { in: 0, out: 120 }));
    expect(put.chain[0]!.values).toMatchObject({ at: 40, length: 12 });
    expect(put.said).toEqual([]);
  });

  test('or as it is said', () => {
    const [at, length] = lengthsOf(held);
    const meant = { [lengthKey(at!)]: 'frames', [lengthKey(length!)]: 'share' } as const;
    const put = putRecipe(
      takeRecipe(held, project, 'Rest', meant),
      ground(even(30, 400), { in: 0, out: 120 }),
    );
    expect(put.chain[0]!.values).toMatchObject({ at: 20, length: 24 });
  });

  test('beats stay beats under a song, and are frames of their tempo without one, which is said', () => {
    const made = {
      ...takeRecipe(piece([{ move: 'hold', values: { at: 0, length: { beats: 2 } } }]), project, 'Rest'),
    };
    const recipe = { ...made, madeOn: { ...made.madeOn, beatS: 0.6 } };
    const there = ground(even(30, 400), { in: 0, out: 120 }, { music: song(90) });
    expect(putRecipe(recipe, there).chain[0]!.values['length']).toEqual({ beats: 2 });
    const silent = putRecipe(recipe, ground(even(30, 400), { in: 0, out: 120 }));
    expect(silent.chain[0]!.values['length']).toBe(36);
    expect(silent.said).toEqual(['There are no beats: Hold, for: 2 beats are 36 frames.']);
  });
});

describe('on clips of other rates', () => {
  test('a list of speeds stretches along, frames of the clip go as far along the span', () => {
    const made = piece([
      {
        move: 'ramp',
        values: {
          points: [
            { at: 0, percent: 100 },
            { at: 30, percent: 200 },
          ],
          before: 0,
          after: 0,
          soft: 'none',
        },
      },
      { move: 'rewind', values: { from: 'end', at: 1, to: 60, percent: 100 } },
    ]);
    // Frames 200 to 440 of 120 a second: two seconds, as before.
    const put = putRecipe(takeRecipe(made, project, 'Back'), ground(even(120, 600), { in: 200, out: 440 }));
    expect(put.chain[0]!.values['points']).toEqual([
      { at: 0, percent: 100 },
      { at: 30, percent: 200 },
    ]);
    expect(put.chain[1]!.values['to']).toBe(320);
    const path = applyChain(spanPath(even(120, 600), 200, 440, RATE), put.chain, {
      table: even(120, 600),
    }).path;
    expect(pathFrames(path)).toBe(made.shown.length);
  });

  test('a frame at a mark goes to the mark of its name', () => {
    const made = piece([{ move: 'land', values: { mark: 66, beat: 2 } }], [{ name: 'strike', frame: 66 }]);
    const marks = [{ id: 'a', name: 'Strike', frame: 111 }];
    const put = putRecipe(
      takeRecipe(made, project, 'Hit'),
      ground(even(25, 400), { in: 50, out: 150 }, { marks, music: song(100) }),
    );
    expect(put.chain[0]!.values['mark']).toBe(111);
  });
});

describe('what has to give is said', () => {
  test('a place after what comes in', () => {
    const [at] = lengthsOf(piece([{ move: 'hold', values: { at: 20, length: 12 } }]));
    const recipe = takeRecipe(piece([{ move: 'hold', values: { at: 20, length: 12 } }]), project, 'Rest', {
      [lengthKey(at!)]: 'frames',
    });
    const put = putRecipe(recipe, ground(even(30, 12), { in: 0, out: 12 }));
    expect(put.chain[0]!.values['at']).toBe(11);
    expect(put.said).toEqual(['Hold, at: frame 20 lies after what comes in, so it is 11.']);
  });

  test.each([
    ['a mark', { scope: { all: [{ kind: 'mark', name: 'strike', before: 0, after: 2 }] } }, /set one/],
    ['a clip', { look: 'overlay', values: { clip: 'gone' } }, /not in this project/],
    [
      'beats',
      { scope: { all: [{ kind: 'accents', band: 'low', before: 0, after: 2 }] } },
      /waits for a song/,
    ],
    ['a plate', { matte: { clip: null, frame: 3 } }, /drawn everywhere/],
  ])('a look that needs %s', (_, given, sentence) => {
    const looks = [LookSchema.parse({ id: 'l', look: 'flash', ...given })];
    const recipe = { ...takeRecipe(piece([]), project, 'x'), looks };
    expect(putRecipe(recipe, ground(even(30, 90), { in: 0, out: 60 })).said.join(' ')).toMatch(sentence);
  });

  test('a hold by a track where none is; by the one there is', () => {
    const locked = OUR_RECIPES.find((r) => r.steady)!;
    const on = (over: Partial<Ground>) => putRecipe(locked, ground(even(30, 90), { in: 0, out: 60 }, over));
    expect(on({}).steady).toBeNull();
    expect(on({}).said.join(' ')).toMatch(/follow it/);
    expect(on({ tracks: [hand] }).steady?.track).toBe('t');
  });
});

test('a region lies in the same part of a picture of another size', () => {
  const region = { shape: 'rectangle', keys: [{ at: 30, values: [320, 180, 100, 50, 0] }], carried: null };
  const recipe = {
    ...takeRecipe(piece([]), project, 'x'),
    looks: [LookSchema.parse({ id: 'l', look: 'grade', region })],
  };
  const put = putRecipe(
    recipe,
    ground(even(30, 90), { in: 0, out: 60 }, { picture: { width: 640, height: 360 } }),
  );
  expect(put.looks[0]!.region!.keys).toEqual([{ at: 0, ease: 'even', values: [160, 90, 50, 25, 0] }]);
});

describe('our own', () => {
  test('a region for whatever is tracked lies on it and goes along; with nothing tracked that is said', () => {
    const recipe = OUR_RECIPES.find((r) => r.name === 'Trail behind a post')!;
    const table = even(30, 120);
    const on = putRecipe(recipe, ground(table, { in: 20, out: 80 }, { tracks: [hand] }));
    expect(on.looks[0]!.region).toMatchObject({
      carried: { track: 't', from: 20 },
      keys: [{ at: 20, values: [300, 200, expect.any(Number), expect.any(Number), 0] }],
    });
    const off = putRecipe(recipe, ground(table, { in: 20, out: 80 }));
    expect(off.looks[0]!.region!.carried).toBeNull();
    expect(off.said.join(' ')).toContain('stands still in the middle: track what moves');
    // What stands in front stays where it is, either way.
    expect(on.looks[1]!.region).toEqual(off.looks[1]!.region);
  });

  test('there are twenty-five, each by another name and with what it is for', () => {
    expect(new Set(OUR_RECIPES.map((r) => r.name)).size).toBe(25);
    expect(new Set(GROUPED_RECIPES.map((r) => r.group)).size).toBeGreaterThan(3);
  });

  test.each(OUR_RECIPES.map((r) => [r.name, r] as const))(
    '%s does something to two seconds of a clip, and says nothing wrong',
    (_, recipe) => {
      for (const music of [undefined, song(108)]) {
        const table = even(30, 120);
        const put = putRecipe(recipe, ground(table, { in: 20, out: 80 }, { music, tracks: [hand] }));
        const plain = spanPath(table, 20, 80, RATE);
        const { path, steps } = applyChain(plain, put.chain, { table, music });
        expect(steps.flatMap((s) => s.notices).filter((n) => n.level === 'error')).toEqual([]);
        expect(path).not.toEqual(plain);
        expect(put.said.filter((s) => !/beats|stabilised by|region is on hand/.test(s))).toEqual([]);
      }
    },
  );
});

describe('whatever it is put on', () => {
  const grounds = fc.record({
    hz: fc.constantFrom(8, 24, 25, 29.97, 30, 60, 120),
    count: fc.integer({ min: 1, max: 400 }),
    from: fc.double({ min: 0, max: 1, noNaN: true }),
    to: fc.double({ min: 0, max: 1, noNaN: true }),
    bpm: fc.option(fc.integer({ min: 60, max: 180 }), { nil: undefined }),
    starts: fc.integer({ min: 0, max: 90 }),
  });

  test('what comes out is a piece that can be saved, and every sentence is one', () => {
    fc.assert(
      fc.property(
        fc.constantFrom(...OUR_RECIPES),
        grounds,
        (recipe, { hz, count: frames, from, to, bpm, starts }) => {
          const table: FrameTable = {
            kind: 'constant',
            rate: rational(Math.round(hz * 100), 100),
            count: frames,
          };
          const first = Math.min(frames - 1, Math.floor(from * frames));
          const span = { in: first, out: Math.min(frames, Math.max(first + 1, Math.ceil(to * frames))) };
          const music = bpm === undefined ? undefined : musicFrom(song(bpm), starts);
          const put = putRecipe(recipe, ground(table, span, { music }));
          const { chain, looks, between, shutter, steady, said } = put;
          const made = PieceSchema.safeParse({
            id: 'p',
            clipId: 'c',
            span,
            chain,
            looks,
            between,
            shutter,
            steady,
          });
          expect(made.error?.issues).toBeUndefined();
          for (const sentence of said) expect(sentence).toMatch(/^[A-Z].+[.]$/);
        },
      ),
      { numRuns: 150 },
    );
  });

  test('taken from a piece and put on the same span it is that piece again', () => {
    fc.assert(
      fc.property(fc.constantFrom(...OUR_RECIPES), (recipe) => {
        const table = even(30, 200);
        const first = putRecipe(recipe, ground(table, { in: 30, out: 90 }));
        const clip = ClipSchema.parse({ id: 'drum', mediaId: 'm', name: 'd', readAt: null, marks: [] });
        const size = { width: 1280, height: 720 };
        const made = pieceOf({
          ...first,
          id: 'p',
          clipId: 'drum',
          span: { in: 30, out: 90 },
          chain: [...first.chain],
          looks: [...first.looks],
        });
        const compiled = compilePiece(made, clip, table, RATE, undefined, { picture: size, frame: size });
        const again = putRecipe(
          takeRecipe(compiled, project, 'x'),
          ground(table, { in: 30, out: 90 }, { clipId: 'drum' }),
        );
        expect(compilePiece({ ...made, chain: [...again.chain] }, clip, table, RATE).shown).toEqual(
          compiled.shown,
        );
        expect(again.looks.map(withoutId)).toEqual(first.looks.map(withoutId));
      }),
    );
  });
});

test('values no move would take leave the span as it was, and that is said', () => {
  const recipe: Recipe = {
    ...OUR_RECIPES[1]!,
    chain: [{ move: 'hold', on: true, values: { at: 'x', length: null }, lists: 'along' }],
  };
  const table = even(30, 90);
  const put = putRecipe(RecipeSchema.parse(recipe), ground(table, { in: 0, out: 60 }));
  expect(put.said.join(' ')).toMatch(/out of range/);
  expect(meanRateHz(table)).toBe(30);
  expect(ProjectSchema.shape.looks.safeParse(put.looks).success).toBe(true);
});
