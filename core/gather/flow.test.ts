import fc from 'fast-check';
import { LookSchema } from '../looks/look';
import { compilePiece, compileProject } from '../project/compile';
import { mixNothing, mixPairs } from '../project/gather-actions';
import { newProject } from '../project/new-project';
import { type Piece, ProjectSchema, pieceOf } from '../project/schema';
import { recipesOf } from '../looks/recipes';
import { rational } from '../time/rational';
import { WHOLE } from './gather';
import { WEAK, gathersOf, isGathered, picturesOf, weakPairs } from './gathers';

const tableAt = (rate: number) => ({ kind: 'constant', rate: rational(rate), count: 480 }) as const;
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'c',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const speed = (percent: number, direction = 'forward') => ({
  ...{ id: 's', move: 'speed', on: true },
  values: { by: 'percent', percent, direction },
});
const flowing = (chain: Piece['chain'], rest: Partial<Piece> = {}, span = { in: 20, out: 40 }): Piece =>
  pieceOf({ id: 'p', clipId: 'c', span, chain, between: 'flow', ...rest });

/** Where in the clip's row of frames the pictures of each result frame are. */
function places(piece: Piece, rate = 30): (number | number[])[] {
  const compiled = compilePiece(piece, clip, tableAt(rate), rational(30));
  const gathers = gathersOf(compiled, false);
  return Array.from(compiled.shown, (n, i) => {
    const gather = gathers?.[i];
    if (!gather) return n;
    const at = (gather.along ?? [0]).map((a) => Math.round((gather.frames[0]! + a / WHOLE) * 1000) / 1000);
    return at.length === 1 ? at[0]! : at;
  });
}

describe('flow', () => {
  it('at half speed from frame 20: 20 as it is, between 20 and 21, 21 as it is', () => {
    expect(places(flowing([speed(50)])).slice(0, 5)).toEqual([20, 20.5, 21, 21.5, 22]);
  });

  it('at a quarter every fourth picture is a source frame; at two fifths none is moved', () => {
    expect(places(flowing([speed(25)])).slice(0, 9)).toEqual([
      19.75, 20, 20.25, 20.5, 20.75, 21, 21.25, 21.5, 21.75,
    ]);
    expect(places(flowing([speed(40)])).slice(0, 5)).toEqual([19.7, 20.1, 20.5, 20.9, 21.3]);
  });

  it('at a k-th of every frame once, whatever the clip’s rate, every k-th picture is a source frame', () => {
    fc.assert(
      fc.property(fc.constantFrom(24, 30, 60, 120), fc.integer({ min: 2, max: 12 }), (rate, k) => {
        const at = places(flowing([speed((100 * 30) / rate / k)]), rate);
        const whole = at
          .slice(k, 3 * k)
          .filter((p) => typeof p === 'number' && Math.abs(p - Math.round(p)) < 0.002);
        expect(whole).toHaveLength(2);
      }),
    );
  });

  it('goes back through the very pictures it came by', () => {
    const forward = places(flowing([speed(50)]));
    const backward = places(flowing([speed(50, 'backward')]));
    expect(backward.toReversed().slice(1, -1)).toEqual(forward.slice(1, -1));
  });

  it('full speed stays as it is, and a ramp is not moved where it passes through half', () => {
    expect(places(flowing([speed(100)]))).toEqual(Array.from({ length: 20 }, (_, i) => 20 + i));
    const ramp = { id: 'r', move: 'ramp', on: true, values: { from: 100, to: 25 } };
    const at = places(flowing([ramp])).filter((p): p is number => typeof p === 'number');
    const steps = at.slice(1).map((p, i) => p - at[i]!);
    steps.slice(1).forEach((s, i) => expect(Math.abs(s - steps[i]!)).toBeLessThan(0.1));
  });

  it('gathers a shutter narrower than a frame along the motion, and a wider one of whole frames', () => {
    const at = places(flowing([speed(50)], { shutter: 180 }))[1] as number[];
    expect(at).toHaveLength(4);
    expect(at.map((p) => Math.round((p - 20.5) * 1000))).toEqual([-94, -31, 31, 94]);
    const [whole] = places(flowing([speed(100)], { shutter: 180 })).slice(3) as [number[]];
    expect(whole).toHaveLength(8);
    expect(Math.max(...whole) - Math.min(...whole)).toBeCloseTo(0.5 - 0.5 / 8, 2);
    const wide = compilePiece(flowing([speed(400)], { shutter: 360 }), clip, tableAt(30), rational(30));
    const gather = gathersOf(wide, false)![2]!;
    expect(gather.along).toBeUndefined();
    expect(gather.weights).toEqual([8192, 8192, 8192, 8192]);
  });

  it('counts as many pictures as there are', () => {
    const compiled = compilePiece(flowing([speed(25)]), clip, tableAt(30), rational(30));
    expect(new Set(picturesOf(compiled)).size).toBe(compiled.shown.length);
  });

  it('is mixed between the pairs that are named, as the same instants', () => {
    const piece = flowing([speed(50)]);
    const project = { ...newProject('n', 'n', 0), clips: [clip], pieces: [piece] };
    const mixed = mixPairs(mixPairs(project, 'p', [22]), 'p', [21, 30, 23]);
    expect(mixed.pieces[0]!.mixed).toEqual([
      { from: 21, to: 24 },
      { from: 30, to: 31 },
    ]);
    expect(ProjectSchema.parse(mixed).pieces[0]).toEqual(mixed.pieces[0]);
    const compiled = compilePiece(mixed.pieces[0]!, clip, tableAt(30), rational(30));
    const gathers = gathersOf(compiled, false)!;
    expect(gathers[3]).toEqual({ frames: [21, 22], weights: [WHOLE / 2, WHOLE / 2] });
    expect(gathers[1]!.along).toEqual([WHOLE / 2]);
    expect(mixNothing(mixed, 'p').pieces[0]!.mixed).toEqual([]);
  });

  it('the pairs that are weak are those of pictures that lost more than a little', () => {
    const compiled = compilePiece(flowing([speed(50)]), clip, tableAt(30), rational(30));
    const lost = [
      [1, WEAK / 2],
      [3, 2 * WEAK],
      [4, 0.9],
      [7, 0.3],
    ] as const;
    expect(weakPairs(compiled, false, lost)).toEqual({ pairs: [21, 23], pictures: 2 });
  });

  it('a look of neighbours over a part leaves the rest along the motion', () => {
    const smear = LookSchema.parse({
      ...{ id: 'l', look: 'smear', values: { back: 1, on: 1 } },
      scope: { all: [{ kind: 'range', from: 0, to: 4 }] },
    });
    const compiled = compilePiece(flowing([speed(50)], { looks: [smear] }), clip, tableAt(30), rational(30));
    expect(gathersOf(compiled, false)!.at(-1)!.along).toBeDefined();
  });

  it('a trail that lies over the pictures leaves them along the motion', () => {
    const trail = LookSchema.parse({ id: 'l', look: 'trail', values: { copies: 2 } });
    const compiled = compilePiece(flowing([speed(40)], { looks: [trail] }), clip, tableAt(30), rational(30));
    expect(gathersOf(compiled, false)!.filter((g) => g?.along).length).toBeGreaterThan(20);
  });

  it('equal pictures are one recipe, whichever way they are passed', () => {
    const boomerang = {
      ...{ id: 'b', move: 'boomerang', on: true },
      values: { trips: 2, backPercent: 100, turn: 'once' },
    };
    const project = {
      ...newProject('n', 'n', 0),
      clips: [clip],
      pieces: [flowing([speed(50), boomerang])],
    };
    const compiled = compileProject(project, (p, c) => compilePiece(p, c, tableAt(30), rational(30)));
    const { recipes } = recipesOf(compiled, [], undefined);
    const moved = recipes.gathers.filter((g) => g.along);
    // Twenty frames at half speed: at most one picture between each and the next, and what lies past the last.
    expect(moved.length).toBeLessThanOrEqual(21);
  });
});

it('a clip is looked through for cuts only where pictures are made of several of its frames', () => {
  const withLook = (values: Record<string, unknown>, look = 'trail') =>
    newProjectWith(LookSchema.parse({ id: 'l', look, on: true, values }));
  const newProjectWith = (look: unknown) =>
    ProjectSchema.parse({
      ...newProject('p', 'p', 0),
      clips: [clip],
      pieces: [{ ...pieceOf({ id: 'p', clipId: 'c', span: { in: 0, out: 9 }, chain: [] }), looks: [look] }],
    });
  const moved = { copies: { kind: 'progress', from: 1, to: 4, ease: 'in' } };
  expect(isGathered(withLook({ blend: 'lighten', ...moved }), 'c')).toBe(false);
  expect(isGathered(withLook({ blend: 'average', ...moved }), 'c')).toBe(true);
  expect(isGathered(withLook({ smear: 'motion' }), 'c')).toBe(true);
  expect(isGathered(withLook({}, 'smear'), 'c')).toBe(true);
  expect(isGathered(withLook({}, 'smear'), 'other')).toBe(false);
  expect(isGathered(withLook({}, 'flash'), 'c')).toBe(false);
});
