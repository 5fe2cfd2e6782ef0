import { Button } from '@mui/material';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Piece } from '@skipback/core/project/schema';
import { treatmentById } from '@skipback/core/looks/registry';
import type { Recipe } from '@skipback/core/recipe/recipe';
import { useSnackbar } from 'notistack';
import { CAUTION } from '../notices';
import { openCard } from '../state/cards';
import type { ClipState, LoadedClip } from '../state/library';
import { editOnPicture } from '../state/on-picture';
import { setOpen } from '../state/open';
import { undo, useProjectStore } from '../state/project-store';
import { changeOf, outcomeText, putOnTargets } from './put';

/** What a recipe takes the place of, in words; undefined where there is nothing. */
function replacedWords({ chain, looks }: Piece): string | undefined {
  const counted = (n: number, word: string) => (n === 0 ? [] : [`${n} ${word}${n === 1 ? '' : 's'}`]);
  const went = [...counted(chain.length, 'move'), ...counted(looks.length, 'look')];
  return went.length > 0 ? `It replaces ${went.join(' and ')}.` : undefined;
}

/** Opens the card of what the recipe begins with: its first look, else its first move. */
function showPut(target: { readonly pieceId?: string }): void {
  const pieces = useProjectStore.getState().project?.pieces;
  const piece = pieces?.find((p) => p.id === target.pieceId) ?? pieces?.at(-1);
  // What is put through a place of the picture is put there next.
  const through = piece?.looks.find((l) => treatmentById(l.look)?.through);
  const [look, step] = [through ?? piece?.looks[0], piece?.chain[0]];
  if (look) openCard('look', look.id);
  else if (step) openCard('move', step.id);
  if (!piece || !through) return;
  setOpen({ fresh: through.id });
  editOnPicture({ kind: 'region', where: piece.id, lookId: through.id });
}

/** Puts a recipe on the selected piece, or on the clip that is looked at; says what it replaced, with a way back. */
export function usePutRecipe(
  piece: CompiledPiece | undefined,
  clips: readonly ClipState[],
  clip: LoadedClip | undefined,
): (recipe: Recipe) => void {
  const { enqueueSnackbar, closeSnackbar } = useSnackbar();
  return (recipe) => {
    const target = piece ? { pieceId: piece.piece.id } : clip && { clipId: clip.clip.id };
    if (!target) return;
    const gone = piece && replacedWords(piece.piece);
    const outcome = putOnTargets(recipe, [target], 'instead', clips);
    showPut(target);
    const gave = outcome.said.some((s) => s.sentences.length > 0);
    const key = enqueueSnackbar([outcomeText(recipe.name, outcome), gone].filter(Boolean).join(' '), {
      ...(gave && CAUTION),
      // What went can be had back for as long as that takes to be seen.
      autoHideDuration: 12_000,
      onClose: () => forget(),
      action: (
        <Button
          color="inherit"
          onClick={() => {
            closeSnackbar(key);
            // Something else may have been done since.
            if (useProjectStore.getState().change === changeOf(recipe)) undo();
            else enqueueSnackbar('Something was changed after it: Ctrl Z goes back step by step.');
          }}
        >
          Undo
        </Button>
      ),
    });
    // It goes with its project.
    const { id } = useProjectStore.getState().project!;
    const forget = useProjectStore.subscribe(({ project }) => {
      if (project?.id !== id) closeSnackbar(key);
    });
  };
}
