import type { FrameTable } from '../clip/frame-table';
import { rational } from '../time/rational';
import * as actions from './actions';
import { compilePiece, compileProject } from './compile';
import { formatFor, newPiece, newProject } from './new-project';
import { setDissolve } from './gather-actions';
import { duplicatePiece, shiftPiece, splitPiece } from './piece-actions';
import { readProject } from './read-project';
import { ProjectSchema } from './schema';

const table: FrameTable = { kind: 'constant', rate: rational(30), count: 300 };
const clip = {
  id: 'c',
  mediaId: 'm',
  name: 'drummer.mp4',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const start = () =>
  actions.addPiece(actions.addClip(newProject('p', 'Pier', 0), clip), newPiece('a', 'c', table));

describe('actions', () => {
  it('leave the project before them as it was', () => {
    const before = start();
    const copy = structuredClone(before);
    actions.setSpan(before, 'a', { in: 1, out: 9 }, 300);
    expect(before).toEqual(copy);
  });

  it('a new piece is two seconds of the middle, inside the clip', () => {
    expect(newPiece('a', 'c', table).span).toEqual({ in: 120, out: 180 });
    expect(newPiece('a', 'c', { ...table, count: 1 }).span).toEqual({ in: 0, out: 1 });
  });

  it('keep a span in order and inside its clip', () => {
    const span = (i: number, o: number) =>
      actions.setSpan(start(), 'a', { in: i, out: o }, 300).pieces[0]!.span;
    expect(span(-5, 400)).toEqual({ in: 0, out: 300 });
    expect(span(50, 50)).toEqual({ in: 49, out: 50 });
    expect(span(299, 300)).toEqual({ in: 299, out: 300 });
  });

  it('build, reorder, switch and empty a chain', () => {
    let p = actions.addStep(start(), 'a', { id: 's1', move: 'boomerang' });
    p = actions.addStep(p, 'a', { id: 's2', move: 'fit' });
    p = actions.shiftStep(p, 'a', 's2', -1);
    expect(p.pieces[0]!.chain.map((s) => s.id)).toEqual(['s2', 's1']);
    p = actions.switchStep(p, 'a', 's2', false);
    expect(p.pieces[0]!.chain[0]!.on).toBe(false);
    p = actions.removeStep(actions.removeStep(p, 'a', 's1'), 'a', 's2');
    expect(p.pieces[0]!.chain).toEqual([]);
  });

  it('refuse a value the move does not take', () => {
    const p = actions.addStep(start(), 'a', { id: 's', move: 'boomerang' });
    expect(actions.setStepValue(p, 'a', 's', 'trips', 0)).toBe(p);
    expect(actions.setStepValue(p, 'a', 's', 'trips', 5).pieces[0]!.chain[0]!.values['trips']).toBe(5);
  });

  it('taking out a clip takes out its pieces', () => {
    expect(actions.removeClip(start(), 'c')).toMatchObject({ clips: [], pieces: [] });
  });

  it('marks stay in order, one a frame', () => {
    let p = actions.addMark(start(), 'c', { id: 'm1', name: 'hit', frame: 90 });
    p = actions.addMark(p, 'c', { id: 'm2', name: 'lift', frame: 40 });
    p = actions.addMark(p, 'c', { id: 'm3', name: 'again', frame: 40 });
    expect(p.clips[0]!.marks.map((m) => m.name)).toEqual(['lift', 'hit']);
  });
});

describe('pieces', () => {
  let n = 0;
  const newId = () => `n${n++}`;
  const frames = (p: ReturnType<typeof start>) =>
    p.pieces.map((piece) => compilePiece(piece, clip, table, p.rate).shown.length);

  it('split anywhere play the same frames in two halves, each with all its values', () => {
    const whole = actions.addStep(start(), 'a', { id: 's', move: 'boomerang' });
    const before = [...compilePiece(whole.pieces[0]!, clip, table, whole.rate).shown];
    const split = splitPiece(whole, 'a', 77, before.length, newId);
    const after = split.pieces.flatMap((piece) => [...compilePiece(piece, clip, table, split.rate).shown]);
    expect(after).toEqual(before);
    expect(split.pieces.map((p) => p.chain[0]!.move)).toEqual(['boomerang', 'boomerang']);
    expect(splitPiece(whole, 'a', 0, before.length, newId)).toBe(whole);
    // Only the first half comes in as the piece did: within it nothing dissolves, nor into a copy of it.
    const dissolving = setDissolve(whole, 'a', 12);
    const dissolves = (p: typeof whole) => p.pieces.map((piece) => piece.dissolve);
    expect(dissolves(splitPiece(dissolving, 'a', 77, before.length, newId))).toEqual([12, 0]);
    expect(dissolves(duplicatePiece(dissolving, 'a', newId))).toEqual([12, 0]);
  });

  it('are duplicated with ids of their own, and moved along the row', () => {
    const two = duplicatePiece(actions.addStep(start(), 'a', { id: 's', move: 'hold' }), 'a', newId);
    expect(frames(two)).toEqual([80, 80]);
    expect(two.pieces[1]!.chain[0]!.id).not.toBe('s');
    const ids = (p: typeof two) => p.pieces.map((x) => x.id);
    expect(ids(shiftPiece(two, 'a', 1))).toEqual([two.pieces[1]!.id, 'a']);
    expect(ids(shiftPiece(two, 'a', -5))).toEqual(ids(two));
  });

  it('take a copy of a move, and limit it', () => {
    const two = duplicatePiece(actions.addStep(start(), 'a', { id: 's', move: 'speed' }), 'a', newId);
    const copied = actions.copyStep(two, 'a', 's', 'copy', two.pieces[1]!.id);
    expect(frames(copied)).toEqual([120, 240]);
    const limited = actions.setZone(copied, 'a', 's', { from: 0, to: 10 });
    expect(frames(limited)).toEqual([70, 240]);
    expect(actions.setZone(limited, 'a', 's', { from: 5, to: 5 })).toBe(limited);
    expect(frames(actions.setZone(limited, 'a', 's', null))).toEqual([120, 240]);
  });
});

describe('compiling', () => {
  it('moving the span moves every copy', () => {
    const p = actions.addStep(start(), 'a', { id: 's', move: 'boomerang' });
    const moved = actions.setSpan(p, 'a', { in: 10, out: 20 }, 300);
    const compiled = compilePiece(moved.pieces[0]!, clip, table, moved.rate);
    expect([Math.min(...compiled.shown), Math.max(...compiled.shown), compiled.shown.length]).toEqual([
      10, 19, 36,
    ]);
  });

  it('an unknown move and a bad value are said and left out', () => {
    const p = actions.addStep(start(), 'a', { id: 's', move: 'boomerang' });
    const piece = {
      ...p.pieces[0]!,
      chain: [
        { id: 'x', move: 'teleport', on: true, values: {} },
        { ...p.pieces[0]!.chain[0]!, values: { trips: -1 } },
      ],
    };
    const compiled = compilePiece(piece, clip, table, p.rate);
    expect(compiled.steps.map((s) => s.notices[0]!.code)).toEqual(['unknown-move', 'bad-value']);
    expect(compiled.shown.length).toBe(60);
  });

  it('lays pieces in a row and lists those without their clip', () => {
    const p = actions.addPiece(start(), { ...newPiece('b', 'c', table), span: { in: 0, out: 30 } });
    const laid = compileProject(p, (piece, c) => compilePiece(piece, c, table, p.rate));
    expect(laid.pieces.map((x) => x.startFrame)).toEqual([0, 60]);
    expect(laid.totalFrames).toBe(90);
    expect(compileProject(p, () => undefined).missing).toHaveLength(2);
  });
});

describe('project files', () => {
  it('read back as they were written', () => {
    const p = actions.addStep(start(), 'a', { id: 's', move: 'boomerang' });
    expect(readProject(JSON.parse(JSON.stringify(p)))).toEqual({ ok: true, project: p, lost: undefined });
  });

  it.each([
    [{}, 'not a Skip Back project'],
    [{ ...newProject('p', 'x', 0), version: 9 }, 'newer version'],
    [{ ...newProject('p', 'x', 0), id: 7 }, 'damaged at "id'],
  ])('that are no good say so', (data, words) => {
    const read = readProject(data);
    expect(!read.ok && read.sentence).toContain(words);
  });

  it.each([
    [{ ...newProject('p', 'x', 0), rate: 'fast' }, 'part of "rate"'],
    [{ ...start(), clips: [] }, 'left out: 1 piece.'],
  ])('that are damaged in part are read in part, and say so', (data, words) => {
    const read = readProject(data);
    expect(read.ok && read.lost).toContain(words);
  });

  it('new projects are valid, and take after their first clip', () => {
    expect(ProjectSchema.safeParse(start()).success).toBe(true);
    expect(formatFor(table, { width: 1279, height: 721 }).size).toEqual({ width: 1278, height: 720 });
    expect(formatFor({ ...table, rate: rational(120) }, { width: 960, height: 540 }).rate).toEqual(
      rational(30),
    );
    expect(formatFor({ ...table, rate: rational(100) }, { width: 960, height: 540 }).rate).toEqual(
      rational(25),
    );
  });
});
