import type { FrameTable } from '../clip/frame-table';
import { rational } from '../time/rational';
import * as actions from './actions';
import { compilePiece } from './compile';
import { newPiece, newProject } from './new-project';
import type { Project } from './schema';
import { behindSegment, stretchSegment } from './stretch';

const table: FrameTable = { kind: 'constant', rate: rational(30), count: 300 };
const clip = {
  ...{ id: 'c', mediaId: 'm', name: 'boards.mp4', marks: [], readAt: null, tracks: [] },
  framing: 'fit' as const,
};
let ids = 0;
const newId = () => `id${ids++}`;

const spanned = (from: number, to: number): Project =>
  actions.setSpan(
    actions.addPiece(actions.addClip(newProject('p', 'Pier', 0), clip), newPiece('a', 'c', table)),
    'a',
    { in: from, out: to },
    300,
  );
const span = (project: Project, from: number, to: number) =>
  actions.setSpan(project, 'a', { in: from, out: to }, 300);
const add = (project: Project, move: string, values: Record<string, unknown>) =>
  actions.addStep(project, 'a', { id: move, move, values });
const compile = (project: Project) => compilePiece(project.pieces[0]!, clip, table, project.rate);
const shown = (project: Project) => [...compile(project).shown];
const chainOf = (project: Project) => project.pieces[0]!.chain;
const drag = (project: Project, index: number, length: number, alone = false) =>
  stretchSegment(project, compile(project), index, length, newId, alone);

const row = (from: number, to: number) =>
  Array.from({ length: Math.abs(to - from) }, (_, i) => from + i * Math.sign(to - from));
const still = (frame: number, count: number) => Array.from({ length: count }, () => frame);

describe('the end of a segment, dragged', () => {
  it('changes how long a hold is, which keeps that wherever it goes', () => {
    const held = add(spanned(0, 120), 'hold', { at: 45, length: 30 });
    const longer = drag(held, 1, 50);
    expect(chainOf(longer)).toHaveLength(1);
    expect(chainOf(longer)[0]!.values['length']).toBe(50);
    expect(shown(longer)).toEqual([...row(0, 45), ...still(45, 50), ...row(45, 120)]);
    const moved = actions.setStepValue(longer, 'a', 'hold', 'at', 60);
    expect(shown(moved)).toEqual([...row(0, 60), ...still(60, 50), ...row(60, 120)]);
    const typed = actions.setStepValue(longer, 'a', 'hold', 'length', 40);
    expect(shown(typed)).toHaveLength(160);
  });

  it('changes the speed of a span without moves, which a longer one goes on with', () => {
    const slow = drag(spanned(0, 60), 0, 120);
    expect(shown(slow)).toEqual(row(0, 60).flatMap((n) => [n, n]));
    expect(shown(span(slow, 0, 90))).toEqual(row(0, 90).flatMap((n) => [n, n]));
    // And again: it is that speed that changes.
    const slower = drag(slow, 0, 180);
    expect(chainOf(slower)).toHaveLength(1);
    expect(shown(slower)).toHaveLength(180);
  });

  it('keeps the length of a way back when the span is another', () => {
    const there = add(spanned(40, 100), 'boomerang', { trips: 1, backPercent: 100 });
    const quick = drag(there, 1, 20);
    expect(chainOf(quick)).toHaveLength(1);
    expect(shown(quick)).toHaveLength(80);
    expect(shown(quick).slice(0, 60)).toEqual(row(40, 100));
    const shorter = span(quick, 40, 80);
    expect(shown(shorter)).toHaveLength(60);
    expect(shown(shorter).slice(0, 40)).toEqual(row(40, 80));
  });

  it('changes every copy of it: both ways back of two trips, a hold in all passes', () => {
    const trips = add(spanned(0, 60), 'boomerang', { trips: 2, turn: 'twice', backPercent: 100 });
    expect(behindSegment(compile(trips), 1)).toEqual({
      stepId: 'boomerang',
      words: 'Boomerang, way back',
      copies: 2,
    });
    const quick = drag(trips, 1, 30);
    expect(shown(quick)).toHaveLength(60 + 30 + 60 + 30);
    const held = add(add(spanned(0, 40), 'hold', { at: 20, length: 10 }), 'boomerang', {
      ...{ trips: 2, turn: 'twice', backPercent: 50 },
    });
    const before = compile(held);
    // In the way back, at half the speed, it lasts twice as long.
    const inBack = before.path.segments.findIndex((s, i) => i > 2 && s.from === s.to);
    expect(before.path.segments[inBack]!.length).toBe(20);
    expect(behindSegment(before, inBack)).toMatchObject({ words: 'Hold, for', copies: 4 });
    const longer = drag(held, inBack, 40);
    expect(chainOf(longer)[0]!.values['length']).toBe(20);
    expect(shown(longer)).toHaveLength(2 * (60 + 120));
  });

  it('with Alt changes this copy alone, and then that', () => {
    const held = add(add(spanned(0, 40), 'hold', { at: 20, length: 10 }), 'boomerang', {
      ...{ trips: 1, turn: 'twice', backPercent: 100 },
    });
    const alone = drag(held, 1, 30, true);
    expect(chainOf(alone)).toHaveLength(3);
    expect(shown(alone)).toHaveLength(120);
    const again = drag(alone, 1, 15, true);
    expect(chainOf(again)).toHaveLength(3);
    expect(shown(again)).toHaveLength(105);
    // It holds on to that hold, wherever it comes to lie.
    const later = actions.setStepValue(again, 'a', 'hold', 'at', 30);
    expect(shown(later)).toHaveLength(105);
    expect(shown(later).slice(30, 45)).toEqual(still(30, 15));
  });

  it('where no value says it, puts a Fit behind that goes with the segment', () => {
    const held = add(spanned(0, 120), 'hold', { at: 45, length: 30 });
    const stretched = drag(held, 0, 90);
    expect(chainOf(stretched).map((s) => s.move)).toEqual(['hold', 'fit']);
    expect(shown(stretched).slice(0, 90)).toEqual(row(0, 45).flatMap((n) => [n, n]));
    const moved = actions.setStepValue(stretched, 'a', 'hold', 'at', 60);
    expect(shown(moved).slice(90, 120)).toEqual(still(60, 30));
    expect(shown(moved)).toHaveLength(90 + 30 + 60);
  });

  it('changes the speed of a ramp’s stretch in every pass', () => {
    const ramped = add(
      add(spanned(0, 120), 'ramp', {
        points: [
          { at: 0, percent: 100 },
          { at: 40, percent: 50 },
          { at: 80, percent: 100 },
        ],
        ...{ before: 0, after: 0 },
      }),
      'boomerang',
      { trips: 2, turn: 'twice', backPercent: 100 },
    );
    const before = compile(ramped);
    const slow = before.path.segments.findIndex((s) => Math.abs(s.length - 80) < 1e-6);
    const behind = behindSegment(before, slow);
    expect(behind).toMatchObject({ words: 'Ramp, speeds', copies: 4 });
    const slower = drag(ramped, slow, 160);
    expect(chainOf(slower)).toHaveLength(2);
    expect(shown(slower)).toHaveLength(4 * (40 + 160 + 40));
  });
});
