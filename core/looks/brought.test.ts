/** Looks that bring in other clips: which frame, where, what is said, what is heard. */
import type { FrameTable } from '../clip/frame-table';
import type { Gather } from '../gather/gather';
import { type CompiledProject, compilePiece, compileProject } from '../project/compile';
import { newProject } from '../project/new-project';
import { pieceOf } from '../project/schema';
import { MatteSchema } from '../regions/matte';
import { rational } from '../time/rational';
import { asGrey } from './as-grey';
import type { BroughtClip } from './brought';
import { layersOf } from './draw';
import { heardIn } from './heard';
import { LookSchema } from './look';
import { recipesOf } from './recipes';
import { looksOfPiece } from './resolve';

const constant = (rate: number, count: number): FrameTable => ({
  kind: 'constant',
  rate: rational(rate),
  count,
});
const clips: Record<string, BroughtClip> = Object.fromEntries(
  (
    [
      ['pier', constant(30, 300), false, true],
      ['dust', constant(30, 40), false, true],
      ['film', constant(24, 48), false, false],
      ['title', { kind: 'variable', starts: [0], endS: 5 } as const, true, false],
    ] as const
  ).map(([id, table, clear, hasSound]) => [
    id,
    {
      name: `${id}.webm`,
      table,
      clear,
      hasSound,
      size: { width: 640, height: 480 },
      framing: 'fit' as const,
    },
  ]),
);
const brought = (id: string) => clips[id];

/** A span of `pier` backward at the given speed, with one look. */
function made(look: object, { percent = -100, looks = true } = {}): CompiledProject {
  const one = LookSchema.parse({ id: 'l', ...look });
  const clip = {
    ...{ id: 'pier', mediaId: 'm', name: 'pier', marks: [], readAt: null, tracks: [] },
    framing: 'fit' as const,
  };
  const chain = [{ id: 's', move: 'speed', on: true, values: { percent: Math.abs(percent) } }];
  const piece = pieceOf({
    ...{ id: 'p', clipId: 'pier', span: { in: 100, out: 160 }, chain },
    looks: looks ? [one] : [],
  });
  const project = { ...newProject('x', 'Pier', 0), clips: [clip], pieces: [piece] };
  const sizes = { picture: { width: 1280, height: 720 }, frame: project.size };
  return compileProject(
    project,
    (p, c) => compilePiece(p, c, clips['pier']!.table, project.rate, undefined, sizes, brought),
    brought,
  );
}
const layersAt = (project: CompiledProject, frame: number): readonly Gather[] =>
  looksOfPiece(project.pieces[0]!.compiled, true).drawn[frame]!.flatMap(layersOf);
const frames = (project: CompiledProject, count: number) =>
  Array.from({ length: count }, (_, i) => layersAt(project, i)[0]?.frames[0]);
const up = (a: number, b: number) => Array.from({ length: b - a + 1 }, (_, i) => a + i);

describe('an overlay', () => {
  const dust = (values: object, scope: object = {}) =>
    made({ look: 'overlay', values: { clip: 'dust', ...values }, scope });

  it('plays its own frames whatever the piece does, and begins again', () => {
    expect(frames(dust({}), 60)).toEqual([...up(0, 39), ...up(0, 19)]);
    expect(layersAt(dust({}), 0)[0]!.of).toBe('dust as fill');
  });
  it('begins with each stretch that it is wanted in, from the frame it is told', () => {
    const scoped = dust({ from: 7 }, { all: [{ kind: 'range', from: 20, to: 30 }] });
    expect(frames(scoped, 32).slice(18)).toEqual([undefined, undefined, ...up(7, 16), undefined, undefined]);
  });
  it('has a speed of its own, also a backward one', () => {
    expect(frames(dust({ speed: 50 }), 6)).toEqual([0, 0, 1, 1, 2, 2]);
    expect(frames(dust({ speed: 200 }), 4)).toEqual([1, 3, 5, 7]);
    expect(frames(dust({ speed: -100, from: 2 }), 4)).toEqual([1, 0, 39, 38]);
  });
  it('at a speed that changes goes on from where it is', () => {
    const keys = {
      kind: 'keys',
      counts: 'stretch',
      keys: [
        { at: 0, value: 100, ease: 'hold' },
        { at: 10, value: 300, ease: 'hold' },
      ],
    };
    expect(frames(dust({ speed: keys }), 13)).toEqual([...up(0, 9), 11, 14, 17]);
  });
  it('is gone at its end, or stays, where it is not to repeat', () => {
    expect(frames(dust({ ends: 'once' }), 42).slice(38)).toEqual([38, 39, undefined, undefined]);
    expect(frames(dust({ ends: 'stays' }), 42).slice(38)).toEqual([38, 39, 39, 39]);
  });
  it('of another rate keeps its own time', () => {
    const film = made({ look: 'overlay', values: { clip: 'film' } });
    expect(frames(film, 6)).toEqual([0, 1, 2, 2, 3, 4]);
  });
  it('with transparency brings that along; one without has its own borders left out', () => {
    const title = made({ look: 'overlay', values: { clip: 'title', blend: 'normal', fits: 'centre' } });
    expect(layersAt(title, 3)).toEqual([
      { frames: [0], weights: [32_768], of: 'title as centre' },
      { frames: [0], weights: [32_768], of: 'title as centre clear' },
    ]);
    const [drawn] = looksOfPiece(dust({ fits: 'fit' }).pieces[0]!.compiled, true).drawn[0]!;
    expect(drawn!.drawing['own']).toEqual({ width: 640, height: 480, fits: 'fit' });
  });
  it('says what it misses', () => {
    const said = (values: object) =>
      looksOfPiece(made({ look: 'overlay', values }).pieces[0]!.compiled, true).results[0]!.notices.map(
        (n) => n.code,
      );
    expect(said({})).toEqual(['no-picture']);
    expect(said({ clip: 'nowhere' })).toEqual(['picture-gone']);
    expect(said({ clip: 'dust' })).toEqual([]);
  });
});

describe('a plate', () => {
  it('is a frame of the clip itself, or of another, framed as the clip is', () => {
    const own = made({ look: 'plate', values: { frame: 12 } });
    expect(layersAt(own, 30)).toEqual([{ frames: [12], weights: [32_768], of: 'pier as fit' }]);
    const other = made({ look: 'plate', values: { clip: 'film', frame: 1e6 } });
    expect(layersAt(other, 30)[0]).toMatchObject({ frames: [47], of: 'film as fit' });
  });
  it('counts to a picture’s content: another frame, another picture', () => {
    const stack = (frame: number) =>
      JSON.stringify(recipesOf(made({ look: 'plate', values: { frame } }), [], undefined).recipes.stacks[1]);
    expect(stack(12)).not.toBe(stack(13));
  });
});

describe('a matte', () => {
  const look = (matte: object) => ({ look: 'grade', values: {}, matte: MatteSchema.parse(matte) });
  it('asks for its plate with every picture that is drawn on', () => {
    expect(layersAt(made(look({ clip: 'title' })), 5)).toEqual([
      { frames: [0], weights: [32_768], of: 'title as fit' },
    ]);
    expect(layersAt(made(look({ frame: 40 })), 5)[0]).toMatchObject({ frames: [40], of: 'pier as fit' });
  });
  it('without its plate draws nothing, and says so', () => {
    const project = made(look({ clip: 'nowhere' }));
    expect(looksOfPiece(project.pieces[0]!.compiled, true).drawn[5]).toEqual([]);
    expect(looksOfPiece(project.pieces[0]!.compiled, true).results[0]!.notices[0]!.code).toBe('picture-gone');
  });
  it('is seen as grey in place of everything', () => {
    const one = LookSchema.parse({ id: 'l', ...look({}) });
    const project = {
      ...newProject('x', 'Pier', 0),
      pieces: [
        pieceOf({ id: 'p', clipId: 'c', span: { in: 0, out: 9 }, chain: [], looks: [one] }),
        pieceOf({ id: 'q', clipId: 'c', span: { in: 0, out: 9 }, chain: [] }),
      ],
    };
    const seen = asGrey(project, 'l');
    expect(seen.pieces[0]!.looks.map((l) => [l.look, l.matte !== null])).toEqual([
      ['flash', false],
      ['flash', true],
    ]);
    expect(seen.pieces[1]).toBe(project.pieces[1]);
    expect(asGrey(project, 'none')).toBe(project);
  });
});

describe('what looks let be heard', () => {
  it('is an overlay’s sound, from where it is seen on, at its speed, as loud as it is strong', () => {
    const scope = { all: [{ kind: 'range', from: 20, to: 24 }], fadeIn: 3 };
    const { laid, along } = heardIn(
      made({ look: 'overlay', values: { clip: 'dust', speed: 50, from: 30, level: 0 }, scope }),
      [],
      undefined,
    );
    expect(along).toEqual([]);
    expect(laid).toHaveLength(1);
    expect(laid[0]).toMatchObject({ clip: 'dust', atFrame: 20, repeatsS: 40 / 30 });
    expect([...laid[0]!.instants].map((s) => Number((s * 60).toFixed(6)))).toEqual([60, 61, 62, 63, 64]);
    expect([...laid[0]!.gains]).toEqual([0.25, 0.5, 0.75, 1]);
  });
  it('is nothing where it is silent, off, or has no sound', () => {
    const heard = (look: object) => heardIn(made({ look: 'overlay', ...look }), [], undefined).laid.length;
    expect(heard({ values: { clip: 'dust' } })).toBe(1);
    expect(heard({ values: { clip: 'dust', sound: 'no' } })).toBe(0);
    expect(heard({ values: { clip: 'dust' }, on: false })).toBe(0);
    expect(heard({ values: { clip: 'film' } })).toBe(0);
  });
  it('is tape where it runs fast, also of a look of the whole result', () => {
    const tape = LookSchema.parse({ id: 'w', look: 'worn-tape' });
    const fast = made({ look: 'grade' }, { percent: 600 });
    const { along } = heardIn(fast, [tape], undefined);
    expect(along).toHaveLength(1);
    expect(along[0]).toMatchObject({ kind: 'spool', atFrame: 0 });
    expect([...along[0]!.speeds]).toEqual(Array<number>(10).fill(6));
    expect(heardIn(made({ look: 'grade' }, { percent: 100 }), [tape], undefined).along).toEqual([]);
  });
});
