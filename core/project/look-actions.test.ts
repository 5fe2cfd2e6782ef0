import { track } from '../looks/looks-fixtures';
import { LookSchema } from '../looks/look';
import { recipesOf } from '../looks/recipes';
import { compilePiece, compileProject } from './compile';
import * as looks from './look-actions';
import { newProject } from './new-project';
import { duplicatePiece, splitPiece } from './piece-actions';
import type { Project } from './schema';

let count = 0;
const id = () => `n${count++}`;
const from = track([100, 160], { move: 'boomerang', values: { trips: 1, turn: 'twice' } });
const { piece, clip, table } = from.pieces[0]!.compiled;
const begun: Project = { ...newProject('p', 'Pier', 0), clips: [clip], pieces: [piece] };
const added = looks.addLook(begun, piece.id, { id: 'x', look: 'split' });
const recipes = (project: Project) =>
  recipesOf(
    compileProject(project, (p, c) => compilePiece(p, c, table, project.rate)),
    project.looks,
    undefined,
  ).recipes;
const treated = (project: Project) => [...recipes(project).stackOf].map((s) => (s > 0 ? 1 : 0));

it('values that a treatment refuses, and treatments there are none of, change nothing', () => {
  expect(looks.setLookValue(added, piece.id, 'x', 'redX', NaN)).toBe(added);
  expect(looks.setLookValue(added, piece.id, 'x', 'redX', { kind: 'pulse' })).toBe(added);
  expect(looks.setLookValue(added, piece.id, 'x', 'hue', 3)).toBe(added);
  expect(looks.addLook(begun, null, { id: 'y', look: 'hologram' })).toBe(begun);
  expect(looks.setLookValue(added, piece.id, 'x', 'redX', 40).pieces[0]!.looks[0]!.values).toEqual({
    redX: 40,
  });
});

it('looks are put in another place, copied to other lists and taken away', () => {
  const two = looks.addLook(added, piece.id, { id: 'y', look: 'grade' });
  const ids = (p: Project) => looks.looksAt(p, piece.id).map((l) => l.id);
  expect(ids(looks.shiftLook(two, piece.id, 'y', -5))).toEqual(['y', 'x']);
  expect(ids(looks.copyLook(two, piece.id, 'x', 'z'))).toEqual(['x', 'z', 'y']);
  expect(looks.copyLook(two, piece.id, 'x', 'z', null).looks.map((l) => l.look)).toEqual(['split']);
  expect(ids(looks.removeLook(two, piece.id, 'x'))).toEqual(['y']);
});

it('a piece cut in two or doubled keeps its looks on the same frames, under ids of their own', () => {
  const scope = { all: [{ kind: 'range', from: 40, to: 70 }] };
  const ranged = {
    ...begun,
    pieces: [{ ...piece, looks: [LookSchema.parse({ id: 'x', look: 'split', scope })] }],
  };
  const cut = splitPiece(ranged, piece.id, 50, 120, id);
  expect(cut.pieces).toHaveLength(2);
  expect(treated(cut)).toEqual(treated(ranged));
  const twice = duplicatePiece(ranged, piece.id, id);
  expect(treated(twice)).toEqual([...treated(ranged), ...treated(ranged)]);
  expect(new Set(twice.pieces.flatMap((p) => p.looks.map((l) => l.id))).size).toBe(2);
});
