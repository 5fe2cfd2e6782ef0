import { treatmentById, TREATMENTS } from '@skipback/core/looks/registry';
import { MOVE_GROUPS } from '@skipback/core/moves/move';
import { MOVES, moveById } from '@skipback/core/moves/registry';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { Recipe } from '@skipback/core/recipe/recipe';
import { frame } from '@skipback/core/time/units';
import type { Find } from '../finder/finds';
import { addLookTo } from '../looks/add-look';
import type { ListedRecipe } from '../recipes/own-recipes';
import { openCard } from '../state/cards';
import { inCount } from '../state/counting';
import type { ClipState } from '../state/library';
import { setOpen, useOpen } from '../state/open';
import { select, selectPiece } from '../state/selection';
import { transport } from '../state/transport';
import { addMove } from './add-move';

interface Ground {
  readonly compiled: CompiledProject;
  readonly piece: CompiledPiece | undefined;
  readonly clips: readonly ClipState[];
  readonly recipes: readonly ListedRecipe[];
  /** What the first frame is called. */
  readonly first: 0 | 1;
  putRecipe(recipe: Recipe): void;
}

const NO_PIECE = 'There is no piece yet.';

/** How the piece's clip is read, by what it is called: each opens where it is set. */
const READING: readonly (readonly [name: string, label: string, also: string])[] = [
  ['Play clip at', 'Play clip at', 'frame rate, slow motion by rate'],
  ['Framing', 'Framing', 'fit, fill, crop, letterbox'],
  ['In-between frames', 'In-between frames', 'optical flow, frame blending, motion flow, smooth slow motion'],
  ['Shutter', 'Shutter', 'motion blur, shutter angle'],
  ['Stabilise', 'Stabilise', 'lock, steady, follow, tracking'],
  ['Dissolve in', 'Dissolve in', 'crossfade, transition, mix'],
];

/** Goes to a field by its label, once it is drawn. */
const focusField = (label: string): void =>
  void requestAnimationFrame(() =>
    document.querySelector<HTMLElement>(`[aria-label="${CSS.escape(label)}"]`)?.focus(),
  );

/** What can be found on the bench: what can be added, what the piece is set to, what the project has. */
export function benchFinds({ compiled, piece, clips, recipes, first, putRecipe }: Ground): readonly Find[] {
  const why = piece ? undefined : NO_PIECE;
  const startFrame = compiled.pieces.find((p) => p.compiled === piece)?.startFrame ?? 0;
  return [
    ...MOVES.map((move) => ({
      ...{ id: `move ${move.id}`, kind: 'move' as const, name: move.name, says: move.summary, why },
      ...{ also: `${move.also ?? ''}, ${MOVE_GROUPS[move.group]}`, shape: move.shape },
      run: () => piece && addMove(move, { piece, startFrame }),
    })),
    ...TREATMENTS.map((look) => ({
      ...{ id: `look ${look.id}`, kind: 'look' as const, name: look.name, says: look.summary, why },
      ...(look.also && { also: look.also }),
      run: () =>
        addLookTo(
          look,
          piece && { piece, startFrame },
          useOpen.getState().onWhole ? null : (piece?.piece.id ?? null),
        ),
    })),
    ...recipes.map(({ id, recipe }) => ({
      ...{ id: `recipe ${id}`, kind: 'recipe' as const, name: recipe.name, says: recipe.says },
      run: () => putRecipe(recipe),
    })),
    ...settings(piece),
    ...compiled.pieces.map(({ compiled: p, startFrame: at }, i) => ({
      ...{ id: `piece ${p.piece.id}`, kind: 'piece' as const, name: `Piece ${i + 1}, ${p.clip.name}` },
      says: inCount(`from frame ${at} of the result`, first),
      run: () => {
        selectPiece(p.piece.id);
        transport.seekResult(frame(at));
      },
    })),
    ...clips.flatMap(({ clip }) => [
      {
        ...{ id: `clip ${clip.id}`, kind: 'clip' as const, name: clip.name, says: 'on the source strip' },
        run: () => select({ clipId: clip.id }),
      },
      ...clip.marks.map((mark) => ({
        ...{ id: `mark ${clip.id} ${mark.id}`, kind: 'mark' as const, name: mark.name },
        says: `frame ${mark.frame + first} of ${clip.name}`,
        run: () => {
          select({ clipId: clip.id });
          transport.seekSource(clip.id, frame(mark.frame));
        },
      })),
    ]),
  ];
}

/** The values of what the selected piece has: its clip's reading, its moves, its looks. */
function settings(piece: CompiledPiece | undefined): Find[] {
  if (!piece) return [];
  const { chain, looks } = piece.piece;
  return [
    ...READING.map(([name, label, also]) => ({
      ...{ id: `setting ${label}`, kind: 'setting' as const, name, says: 'of the selected piece', also },
      run: () => {
        setOpen({ reading: true });
        focusField(label);
      },
    })),
    ...chain.flatMap((step) => {
      const move = moveById(step.move);
      return (move?.fields ?? []).map((field) => ({
        ...{ id: `setting ${step.id} ${field.key}`, kind: 'setting' as const },
        ...{ name: `${move!.name}: ${field.label}`, says: field.help },
        run: () => {
          openCard('move', step.id);
          focusField(`${move!.name}: ${field.label}`);
        },
      }));
    }),
    ...looks.flatMap((look) => {
      const treatment = treatmentById(look.look);
      return (treatment?.fields ?? []).map((field) => ({
        ...{ id: `setting ${look.id} ${field.key}`, kind: 'setting' as const },
        ...{ name: `${treatment!.name}: ${field.label}`, says: field.help },
        run: () => {
          openCard('look', look.id);
          focusField(`${treatment!.name}: ${field.label}`);
        },
      }));
    }),
  ];
}
