import { LookSchema } from '../looks/look';
import { looksOfPiece } from '../looks/resolve';
import type { FrameTable } from '../clip/frame-table';
import { rational } from '../time/rational';
import * as actions from './actions';
import { compilePiece } from './compile';
import { newProject } from './new-project';
import { readProject } from './read-project';
import { DEFAULT_MADE, type Project, ProjectSchema, pieceOf } from './schema';

const CLIP = {
  ...{ id: 'c', mediaId: 'm', name: 'c.mp4', readAt: null, tracks: [], framing: 'fit' as const },
  marks: [{ id: 'k', name: 'hit', frame: 12 }],
};
const TABLE: FrameTable = { kind: 'constant', rate: rational(30), count: 120 };

const whole = (): Project =>
  actions.addStep(
    ProjectSchema.parse({
      ...newProject('p', 'pier', 0),
      clips: [CLIP],
      pieces: [
        pieceOf({
          ...{ id: 'a', clipId: 'c', span: { in: 0, out: 60 }, chain: [] },
          looks: [
            LookSchema.parse({
              ...{ id: 'l', look: 'flash' },
              scope: {
                all: [
                  { kind: 'way', way: 'forward' },
                  { kind: 'range', from: 3, to: 9 },
                ],
              },
            }),
          ],
        }),
      ],
    }),
    'a',
    { id: 's', move: 'boomerang' },
  );

type Holder = Record<string, unknown>;

/** What lies at a place of a document, its keys divided by points. */
const at = (document: unknown, path: string): unknown =>
  path.split('.').reduce((here, key) => (here as Holder)[key], document);

/** Puts something there; takes it away where that is nothing. */
function put(document: unknown, path: string, value: unknown): void {
  const keys = path.split('.');
  const key = keys.pop()!;
  const holder = (keys.length > 0 ? at(document, keys.join('.')) : document) as Holder;
  if (value === undefined) delete holder[key];
  else holder[key] = value;
}

/** The project as a file has it, changed as another version or a fault might. */
function read(changes: Readonly<Record<string, unknown>>) {
  const document: unknown = JSON.parse(JSON.stringify(whole()));
  for (const [path, value] of Object.entries(changes)) put(document, path, value);
  const result = readProject(document);
  if (!result.ok) throw new Error(result.sentence);
  return result;
}

/** What is not known, and where. */
const VALUES: readonly (readonly [string, string, unknown])[] = [
  ['framing of a clip', 'clips.0.framing', 'stretch'],
  ['between of a piece', 'pieces.0.between', 'dream'],
  ['shutter of a piece', 'pieces.0.shutter', { kind: 'moon', phase: 3 }],
  ['what holds a piece', 'pieces.0.steady', 'glue'],
  ['dissolve of a piece', 'pieces.0.dissolve', 'long'],
  ['what new pieces begin with', 'between', 'dream'],
  ['pitch of the clips', 'clipSound.pitch', 'sings'],
  ['strength of a look', 'pieces.0.looks.0.strength', { kind: 'moon' }],
  ['a made sound', 'made.whoosh', 'loud'],
];

describe('a project of another version', () => {
  it.each(VALUES)('loses one value, where that is not known: %s', (_, path, value) => {
    const { project, lost } = read({ [path]: value });
    expect(lost).toMatch(/left out: 1 (value|part) of/);
    expect(project.clips).toHaveLength(1);
    expect(project.clips[0]!.marks).toHaveLength(1);
    expect(project.pieces[0]!.chain).toHaveLength(1);
    expect(project.pieces[0]!.looks[0]!.scope.all).toHaveLength(2);
    expect(project.made).toEqual(DEFAULT_MADE);
  });

  it('with a made sound too few or too many loses nothing', () => {
    const fewer = read({ 'made.thump': undefined });
    expect([fewer.lost, fewer.project.made]).toEqual([undefined, DEFAULT_MADE]);
    const more = read({ 'made.gong': { on: true, gainDb: -3 } });
    expect(more.lost).toBeUndefined();
    expect((more.project.made as Record<string, unknown>)['gong']).toEqual({ on: true, gainDb: -3 });
  });

  it('keeps what is not known through edits, and gives it to the next version', () => {
    const { project, lost } = read({
      grain: { size: 3 },
      'pieces.0.tempo': 'rubato',
      'clips.0.marks.0.colour': 'amber',
      'pieces.0.looks.0.scope.ends': 'softly',
    });
    expect(lost).toBeUndefined();
    const edited = actions.renameProject(actions.addStep(project, 'a', { id: 'h', move: 'hold' }), 'quay');
    const again: unknown = JSON.parse(JSON.stringify(edited));
    expect(at(again, 'grain')).toEqual({ size: 3 });
    expect(at(again, 'pieces.0.tempo')).toBe('rubato');
    expect(at(again, 'clips.0.marks.0.colour')).toBe('amber');
    expect(at(again, 'pieces.0.looks.0.scope.ends')).toBe('softly');
    expect(readProject(again)).toEqual({ ok: true, project: edited, lost: undefined });
  });

  it('a condition that is not known keeps its look off, is kept, and is known again by who knows it', () => {
    const moon = { kind: 'moon', not: false, phase: 3 };
    const { project, lost } = read({ 'pieces.0.looks.0.scope.all.0': moon });
    expect(lost).toMatch(/1 condition/);
    const [piece] = project.pieces;
    const compiled = compilePiece(piece!, CLIP, TABLE, project.rate);
    const { drawn, results } = looksOfPiece(compiled, true);
    expect(drawn.every((d) => d.length === 0)).toBe(true);
    expect(results[0]!.notices[0]!.code).toBe('unknown-condition');
    expect(piece!.looks[0]!.scope.all[0]).toEqual({ kind: 'unknown', not: false, was: moon });
    // Turned round it is not everywhere either.
    const turned = read({ 'pieces.0.looks.0.scope.all': [{ ...moon, not: true }] });
    const other = compilePiece(turned.project.pieces[0]!, CLIP, TABLE, project.rate);
    expect(looksOfPiece(other, true).drawn.every((d) => d.length === 0)).toBe(true);
    const known = read({
      'pieces.0.looks.0.scope.all': [{ kind: 'unknown', was: { kind: 'slower', percent: 60, not: false } }],
    });
    expect(known.project.pieces[0]!.looks[0]!.scope.all).toEqual([
      { kind: 'slower', percent: 60, not: false },
    ]);
  });
});
