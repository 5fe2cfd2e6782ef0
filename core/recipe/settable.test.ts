import type { FrameTable } from '../clip/frame-table';
import type { Field } from '../moves/move';
import { MOVES, moveById, valuesOf } from '../moves/registry';
import { compilePiece } from '../project/compile';
import { setStepValue } from '../project/actions';
import { newProject } from '../project/new-project';
import { type Piece, type Project, pieceOf } from '../project/schema';
import { spanPath } from '../path/path';
import { rational } from '../time/rational';
import { OUR_RECIPES } from './ours';
import { putRecipe } from './put';

const RATE = rational(30);
const TABLE: FrameTable = { kind: 'constant', rate: RATE, count: 300 };
const CLIP = {
  id: 'c',
  mediaId: 'm',
  name: 'c',
  marks: [],
  readAt: null,
  tracks: [],
  framing: 'fit' as const,
};
const SPAN = { in: 40, out: 160 };

/** Another value than the one there is, as a person could give it. */
function another(field: Field<Record<string, unknown>>, now: unknown): unknown {
  if (field.kind === 'choice') return field.options.find((o) => o.value !== now)!.value;
  if (field.kind === 'text') return field.read(field.write(now));
  const number = Number(now);
  return number + 1 <= field.max ? Math.max(field.min, Math.round(number) + 1) : field.min;
}

const projectOf = (piece: Piece): Project => ({ ...newProject('p', 'p', 0), clips: [CLIP], pieces: [piece] });

function expectAllSettable(piece: Piece): void {
  const project = projectOf(piece);
  for (const step of piece.chain)
    for (const field of moveById(step.move)!.fields) {
      const value = another(field, valuesOf(step)[field.key]);
      const changed = setStepValue(project, piece.id, step.id, field.key, value);
      const got = changed.pieces[0]!.chain.find((s) => s.id === step.id)!.values[field.key];
      expect([step.move, field.key, got]).toEqual([step.move, field.key, value]);
    }
}

describe('every value can be changed', () => {
  it.each(OUR_RECIPES.map((r) => [r.name, r] as const))('of the moves of %s', (_, recipe) => {
    let count = 0;
    const { chain, looks } = putRecipe(recipe, {
      ...{ clipId: 'c', span: SPAN, table: TABLE, marks: [], tracks: [], music: undefined },
      ...{ picture: { width: 1280, height: 720 }, path: spanPath(TABLE, SPAN.in, SPAN.out, RATE) },
      knows: () => false,
      newId: () => `n${++count}`,
    });
    expectAllSettable(pieceOf({ id: 'a', clipId: 'c', span: SPAN, chain: [...chain], looks: [...looks] }));
  });

  it.each(MOVES.map((m) => [m.name, m] as const))('of a stored %s with values missing', (_, move) => {
    for (const key of [undefined, ...move.fields.map((f) => f.key)]) {
      const values = key === undefined ? {} : { [key]: move.defaults[key] };
      const piece = pieceOf({
        ...{ id: 'a', clipId: 'c', span: SPAN },
        chain: [{ id: 's', move: move.id, on: true, values }],
      });
      expectAllSettable(piece);
      // It plays as the move with all its defaults.
      const whole = { ...piece, chain: [{ ...piece.chain[0]!, values: { ...move.defaults } }] };
      const shown = (p: Piece) => [...compilePiece(p, CLIP, TABLE, RATE).shown];
      expect(shown(piece)).toEqual(shown(whole));
    }
  });

  it.each(OUR_RECIPES.map((r) => [r.name, r] as const))('%s keeps to what the fields allow', (_, recipe) => {
    for (const step of [...recipe.chain, ...(recipe.unheard?.chain ?? [])])
      for (const field of moveById(step.move)!.fields) {
        const value = step.values[field.key];
        if (typeof value !== 'number' || !('max' in field)) continue;
        expect([field.key, value >= field.min && value <= field.max]).toEqual([field.key, true]);
      }
  });
});
