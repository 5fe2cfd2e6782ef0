import { rational } from '../time/rational';
import { LookSchema } from '../looks/look';
import { compilePiece, compileProject } from '../project/compile';
import { newProject } from '../project/new-project';
import { type Piece, pieceOf } from '../project/schema';
import { recipesOf } from '../looks/recipes';
import { MOST_GATHERED, WHOLE } from './gather';
import { gathersOf } from './gathers';

const table = { kind: 'constant', rate: rational(30), count: 240 } as const;
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'c',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const step = (move: string, values: Record<string, unknown>) => ({ id: move, move, on: true, values });
const boomerang = step('boomerang', { trips: 1, backPercent: 100, turn: 'twice' });

const piece = (chain: Piece['chain'], rest: Partial<Piece> = {}, span = { in: 100, out: 130 }): Piece =>
  pieceOf({ id: 'p', clipId: 'c', span, chain, ...rest });
const smear = (values: Record<string, unknown>, rest: Record<string, unknown> = {}) =>
  LookSchema.parse({ id: 'l', look: 'smear', values, ...rest });

/** What each result frame is made of: shares in hundredths by source frame. */
function made(p: Piece): Record<number, number>[] {
  const compiled = compilePiece(p, clip, table, table.rate);
  const gathers = gathersOf(compiled, true);
  return Array.from(compiled.shown, (n, i) => {
    const gather = gathers?.[i];
    if (!gather) return { [n]: 100 };
    const hundredths = (w: number) => Math.round((w / WHOLE) * 10_000) / 100;
    return Object.fromEntries(gather.frames.map((f, k) => [f, hundredths(gather.weights[k]!)]));
  });
}

describe('smear', () => {
  it('is the mean of frames around, of the clip: the same forward and backward', () => {
    const frames = made(piece([boomerang], { looks: [smear({ back: 1, on: 2 })] }));
    expect(frames[10]).toEqual({ 109: 25, 110: 25, 111: 25, 112: 25 });
    expect(frames[49]).toEqual(frames[10]);
  });

  it('of the result it follows what was seen: backward the frames before lie later in the clip', () => {
    const frames = made(piece([boomerang], { looks: [smear({ back: 3, on: 0, counts: 'result' })] }));
    expect(frames[10]).toEqual({ 107: 25, 108: 25, 109: 25, 110: 25 });
    expect(frames[49]).toEqual({ 110: 25, 111: 25, 112: 25, 113: 25 });
    // Over the turn frames are seen twice, and weigh twice.
    expect(frames[31]).toEqual({ 128: 50, 129: 50 });
  });

  it('at the ends of the clip, or of the result, takes what there is, never less than the whole', () => {
    const start = { in: 0, out: 30 };
    expect(made(piece([], { looks: [smear({ back: 4, on: 0 })] }, start))[1]).toEqual({ 0: 50, 1: 50 });
    const seen = smear({ back: 4, on: 0, counts: 'result' });
    expect(made(piece([], { looks: [seen] }))[0]).toEqual({ 100: 100 });
    expect(made(piece([], { looks: [seen] }))[1]).toEqual({ 100: 50, 101: 50 });
  });

  it('fading, the farther ones have less', () => {
    const look = smear({ back: 1, on: 1, weights: 'fading' });
    expect(made(piece([], { looks: [look] }))[10]).toEqual({ 109: 25, 110: 50, 111: 25 });
  });

  it('held at six a second five frames show one mean: step printing', () => {
    const frames = made(piece([], { looks: [smear({ back: 1, on: 0, rate: 6 })] }));
    for (let i = 0; i < 30; i++) {
      const held = 100 + 5 * Math.floor(i / 5);
      expect(frames[i]).toEqual({ [held - 1]: 50, [held]: 50 });
    }
    // Of one frame it holds that.
    const plain = made(piece([], { looks: [smear({ back: 0, on: 0, rate: 6 })] }));
    expect(plain[13]).toEqual({ 110: 100 });
  });

  it('at a rate that does not divide the project’s each is held as long as comes nearest', () => {
    const frames = made(piece([], { looks: [smear({ back: 0, on: 0, rate: 7 })] }));
    const starts = frames.flatMap((f, i) =>
      i === 0 || JSON.stringify(f) !== JSON.stringify(frames[i - 1]) ? [i] : [],
    );
    expect(starts).toEqual([0, 5, 9, 13, 18, 22, 26]);
  });

  it('strength mixes with the picture as it was; only where it applies', () => {
    const look = smear(
      { back: 1, on: 0 },
      { strength: 50, scope: { all: [{ kind: 'range', from: 5, to: 8 }] } },
    );
    const frames = made(piece([], { looks: [look] }));
    expect(frames[4]).toEqual({ 104: 100 });
    expect(frames[5]).toEqual({ 104: 25, 105: 75 });
    expect(frames[8]).toEqual({ 108: 100 });
  });

  it('run six times as fast and stretched back is the picture of a shutter all the way round at 600 %', () => {
    const six = { in: 60, out: 120 };
    const fast = step('speed', { by: 'percent', percent: 600, direction: 'forward' });
    const round = made(piece([fast], { shutter: 360 }, six));
    const held = made(piece([], { looks: [smear({ back: 0, on: 5, rate: 5 })] }, six));
    // Six pictures of the one are one of the other.
    for (let i = 0; i < 60; i++) expect(held[i]).toEqual(round[Math.floor(i / 6)]);
  });

  it('of the result over a wide shutter at any speed, one after the other: never more frames than a picture may have', () => {
    const speeds = [25, 100, 700, 3000];
    for (const percent of speeds)
      for (const between of ['repeat', 'mix'] as const) {
        const fast = step('speed', { by: 'percent', percent, direction: 'forward' });
        const wide = smear({ back: 30, on: 30, counts: 'result', weights: 'fading' });
        const compiled = compilePiece(
          piece([fast], { between, shutter: 720, looks: [wide, { ...wide, id: 'm' }] }, { in: 0, out: 240 }),
          clip,
          table,
          table.rate,
        );
        for (const gather of gathersOf(compiled, true) ?? []) {
          if (!gather) continue;
          expect(gather.frames.length).toBeLessThanOrEqual(MOST_GATHERED);
          expect(gather.weights.reduce((a, b) => a + b, 0)).toBe(WHOLE);
          expect(gather.frames.every((f) => f >= 0 && f < 240)).toBe(true);
        }
      }
  });

  it('of the whole result stays within each piece, and what it makes goes into the recipes', () => {
    const project = {
      ...newProject('p', 'p', 0),
      clips: [clip],
      pieces: ['a', 'b'].map((id) => ({ ...piece([]), id })),
    };
    const compiled = compileProject(project, (p, c) => compilePiece(p, c, table, table.rate));
    const { recipes } = recipesOf(compiled, [smear({ back: 2, on: 0, counts: 'result' })], undefined);
    const framesAt = (i: number) => recipes.gathers[recipes.gatherOf[i]!]!.frames;
    expect(framesAt(29)).toEqual([127, 128, 129]);
    expect(framesAt(30)).toEqual([]);
    expect(framesAt(31)).toEqual([100, 101]);
    expect(recipes.stacks).toHaveLength(1);
    // Equal pictures are there once.
    expect(recipes.gathers).toHaveLength(1 + 29);
  });
});
