import fc from 'fast-check';
import type { FrameTable } from '../clip/frame-table';
import { boomerang } from '../moves/boomerang';
import { applyChain } from '../moves/chain';
import { type ChainStep, moveById } from '../moves/registry';
import { speed } from '../moves/speed';
import { sampleFrames, spanPath } from '../path/path';
import { compilePiece, compileProject } from '../project/compile';
import { newProject } from '../project/new-project';
import { type Piece, type Project, pieceOf } from '../project/schema';
import { rational } from '../time/rational';
import { repairsFor } from './repairs';
import { hintsFor } from './hints';
import { joinsOf, loopJoin } from './joins';
import { loopVerdict } from './result';
import { choppiest, everyFrameOncePercent, paceAlong } from './smoothness';
import { totalsOf, usesOf } from './totals';

const table: FrameTable = { kind: 'constant', rate: rational(120), count: 600 };
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'tea.mp4',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const rate = rational(30);
const withChain = (...chain: Piece['chain']): Project => ({
  ...newProject('p', 'Pier', 0),
  clips: [clip],
  pieces: [pieceOf({ id: 'a', clipId: 'c', span: { in: 0, out: 240 }, chain })],
});
const compile = (project: Project) =>
  compileProject(project, (piece, c) => compilePiece(piece, c, table, project.rate));
const trips = (values: object) => ({
  id: 'b',
  move: 'boomerang',
  on: true,
  values: { ...boomerang.defaults, ...values },
});

describe('repairs', () => {
  it.each([
    ['an open span', withChain(), 'Add a return trip'],
    ['a boomerang that ends away', withChain(trips({ ends: 'away' })), 'End at the start'],
  ])('%s is closed by one action', (_, project, words) => {
    expect(loopVerdict(compile(project)).closes).toBe(false);
    const repair = repairsFor(compile(project), project).find((r) => r.mends === 'loop')!;
    expect(repair.words).toBe(words);
    expect(loopVerdict(compile(repair.apply(project, () => 'new'))).closes).toBe(true);
  });

  it('doubled turn frames are dropped by one action', () => {
    const project = withChain(trips({ turn: 'twice' }));
    expect(loopVerdict(compile(project)).doubled).toHaveLength(4);
    const mended = repairsFor(compile(project), project)
      .find((r) => r.mends === 'doubled')!
      .apply(project, () => 'new');
    expect(loopVerdict(compile(mended)).doubled).toEqual([]);
    expect(repairsFor(compile(mended), mended)).toEqual([]);
  });
});

describe('more repairs', () => {
  it('a boomerang in the middle of a span leaves forward', () => {
    const project = withChain({ ...trips({}), zone: { from: 10, to: 30 } });
    expect(loopVerdict(compile(project)).skips).toHaveLength(1);
    const mended = repairsFor(compile(project), project)
      .find((r) => r.mends === 'skip')!
      .apply(project, () => 'new');
    expect(loopVerdict(compile(mended)).skips).toEqual([]);
  });

  it('what is repeated and skips goes there and back', () => {
    const project = withChain({
      id: 'f',
      move: 'fit',
      on: true,
      values: { length: 150, by: 'repeats' },
    });
    expect(loopVerdict(compile(project)).skips).toHaveLength(2);
    const repair = repairsFor(compile(project), project).find((r) => r.mends === 'skip')!;
    expect(repair.words).toBe('Repeat there and back');
    const mended = repair.apply(project, () => 'new');
    expect(mended.pieces[0]!.chain.map((s) => s.move)).toEqual(['boomerang', 'fit']);
    expect(loopVerdict(compile(mended)).skips).toEqual([]);
  });

  it('a loop over several pieces may end on a cut', () => {
    const project = withChain();
    const two = { ...project, pieces: [project.pieces[0]!, { ...project.pieces[0]!, id: 'b' }] };
    expect(loopVerdict(compile(two))).toMatchObject({ closes: false, cut: true });
    expect(repairsFor(compile(two), two)).toEqual([]);
  });

  it('a coast that runs out starts slower', () => {
    const project = withChain({ id: 'c', move: 'coast', on: true, values: { from: 900, to: 2, over: 60 } });
    const mended = repairsFor(compile(project), project)
      .find((r) => r.mends === 'ran-out')!
      .apply(project, () => 'new');
    expect(
      compile(mended).pieces[0]!.compiled.steps[0]!.notices.filter((n) => n.level === 'warning'),
    ).toEqual([]);
  });
});

describe('smoothness', () => {
  it('the cleanest slow speed shows every frame once', () => {
    expect(everyFrameOncePercent(table, rate)).toBe(25);
    expect(everyFrameOncePercent({ kind: 'constant', rate: rational(100), count: 9 }, rational(25))).toBe(25);
  });

  it.each([
    [25, 30],
    [12.5, 15],
    [100, 30],
  ])('at %d percent %d different frames a second', (percent, distinct) => {
    const { path } = speed.apply(spanPath(table, 0, 240, rate), { ...speed.defaults, percent }, { table });
    expect(choppiest(path, sampleFrames(path, table))!.distinctPerS).toBeCloseTo(distinct, 6);
  });

  it.each([
    ['as it is', 100, 30],
    ['half of them twice', 12.5, 15],
  ])('along a result %s, everywhere', (_, percent, newPerS) => {
    const { path } = speed.apply(spanPath(table, 0, 240, rate), { ...speed.defaults, percent }, { table });
    const along = paceAlong(sampleFrames(path, table), rate, 40);
    expect(along).toHaveLength(40);
    expect(along[0]!.atFrame).toBe(0);
    for (const { newPerS: here } of along)
      expect(Math.abs(here - newPerS)).toBeLessThanOrEqual(30 / 8 + 0.01);
  });

  it('what stands has no new pictures; one picture is one', () => {
    const held = Int32Array.from({ length: 90 }, (_, i) => (i < 30 ? i : i < 60 ? 29 : i - 30));
    const along = paceAlong(held, rational(30), 90);
    expect(along.map((p) => p.atFrame)).toEqual([...held.keys()]);
    expect([along[10]!.newPerS, along[45]!.newPerS, along[80]!.newPerS]).toEqual([30, 0, 30]);
    expect(paceAlong(Int32Array.of(7), rational(30), 90)).toEqual([{ atFrame: 0, newPerS: 30 }]);
    expect(paceAlong(new Int32Array(), rational(30), 90)).toEqual([]);
  });

  it('slower than every frame once, Speed names the clean speed', () => {
    const { notices } = speed.apply(
      spanPath(table, 0, 240, rate),
      { ...speed.defaults, percent: 10 },
      { table },
    );
    expect(notices.map((n) => n.text).join(' ')).toContain('Frames repeat: 25 % shows each once.');
  });
});

describe('hints', () => {
  const hints = (...chain: Piece['chain']) => hintsFor(compile(withChain(...chain)).pieces[0]!.compiled);
  const slow = (percent: number) => ({
    id: 's',
    move: 'speed',
    on: true,
    values: { ...speed.defaults, percent },
  });

  it('name the frames that repeat, the cleanest speed, and the Speed that could take it', () => {
    const [hint] = hints(slow(5));
    expect(hint!.text).toBe("240 frames repeat 5x here: 25 % is this clip's cleanest slow speed.");
    expect(hint!.cure).toEqual({ stepId: 's', percent: 25 });
    expect(hints(slow(25))).toEqual([]);
  });

  it('tell a newcomer where to begin', () => {
    expect(hints().map((h) => h.code)).toEqual(['no-moves']);
  });
});

it('totals count what is shown, and how often each frame is', () => {
  const shown = Int32Array.from([4, 4, 4, 5, 6, 5]);
  expect(totalsOf(shown)).toEqual({
    resultFrames: 6,
    distinctFrames: 3,
    longestRun: { frame: 4, count: 3, atFrame: 0 },
  });
  expect([...usesOf(shown, 4, 7)]).toEqual([3, 2, 1]);
  expect(totalsOf(new Int32Array()).resultFrames).toBe(0);
});

it('no repair on offer makes any finding worse, whatever the chain', () => {
  const link = fc.oneof(
    fc.record({
      move: fc.constant('boomerang'),
      values: fc.record({
        trips: fc.integer({ min: 1, max: 3 }),
        backPercent: fc.integer({ min: 20, max: 600 }),
        turn: fc.constantFrom('once', 'twice'),
        ends: fc.constantFrom('home', 'away'),
      }),
    }),
    fc.record({
      move: fc.constant('speed'),
      values: fc.record({ percent: fc.integer({ min: 10, max: 500 }) }),
    }),
    fc.record({ move: fc.constant('fit'), values: fc.record({ length: fc.integer({ min: 20, max: 400 }) }) }),
    fc.record({
      move: fc.constant('stutter'),
      values: fc.record({ shorter: fc.integer({ min: 0, max: 60 }) }),
    }),
    fc.record({ move: fc.constant('step'), values: fc.record({ rate: fc.integer({ min: 3, max: 20 }) }) }),
    fc.record({
      move: fc.constant('coast'),
      values: fc.record({ from: fc.integer({ min: 50, max: 1500 }) }),
    }),
  );
  const zone = fc.option(
    fc
      .tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 4, max: 60 }))
      .map(([from, n]) => ({ from, to: from + n })),
    { nil: undefined },
  );
  const bad = (project: Project) => {
    const compiled = compile(project);
    const { skips, doubled, closes, cut } = loopVerdict(compiled);
    const short = compiled.pieces[0]!.compiled.steps.flatMap((s) => s.notices).filter(
      (n) => n.code === 'ran-out',
    );
    return [skips.length, doubled.length, closes || cut ? 0 : 1, short.length];
  };
  fc.assert(
    fc.property(fc.array(fc.tuple(link, zone), { minLength: 1, maxLength: 4 }), (links) => {
      const project = withChain(
        ...links.map(([{ move, values }, z], i) => ({
          ...{ id: `s${i}`, move, on: true },
          values: { ...moveById(move)!.defaults, ...values },
          ...(z && { zone: z }),
        })),
      );
      const before = bad(project);
      let made = 0;
      for (const repair of repairsFor(compile(project), project)) {
        const after = bad(repair.apply(project, () => `new-${made++}`));
        after.forEach((n, i) => expect(n).toBeLessThanOrEqual(before[i]!));
        expect(after.reduce((a, b) => a + b)).toBeLessThan(before.reduce((a, b) => a + b));
      }
    }),
    { numRuns: 150 },
  );
});

it('a Step in a part of a piece is no finding', () => {
  const project = withChain({
    ...{ id: 's', move: 'step', on: true, values: { rate: 5 }, zone: { from: 13, to: 41 } },
  });
  expect(loopVerdict(compile(project))).toMatchObject({ skips: [], doubled: [] });
});

it.each(['once', 'twice'] as const)(
  'a fitted boomerang that turns %s has no skip, however short the span; nor a loop of two frames',
  (turn) => {
    const fps = { kind: 'constant', rate: rational(30), count: 300 } as const;
    const link = (move: string, values: object): ChainStep => ({
      ...{ id: move, move, on: true },
      values: { ...moveById(move)!.defaults, ...values },
    });
    const ways = [
      [link('boomerang', { by: 'length', length: 90, turn }), link('fit', { length: 90, by: 'speed' })],
      [link('boomerang', { by: 'length', length: 90, turn, total: 'exact' })],
      [link('boomerang', { trips: 2, turn, backPercent: 150 }), link('fit', { length: 100, by: 'speed' })],
    ];
    const skips: string[] = [];
    for (let length = 4; length <= 60; length++)
      for (const [i, chain] of ways.entries()) {
        const { path } = applyChain(spanPath(fps, 60, 60 + length, rational(30)), chain, { table: fps });
        if (joinsOf(path, fps).some((j) => j.skips) || loopJoin(path, fps)?.skips)
          skips.push(`${length} by way ${i}`);
      }
    expect(skips).toEqual([]);
    const two = [link('boomerang', { by: 'length', length: 60, turn, total: 'whole' })];
    const { path } = applyChain(spanPath(fps, 60, 62, rational(30)), two, { table: fps });
    expect(joinsOf(path, fps).some((j) => j.skips)).toBe(false);
    expect(loopJoin(path, fps)?.skips).toBe(false);
  },
);
