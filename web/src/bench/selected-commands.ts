import { treatmentById } from '@skipback/core/looks/registry';
import { moveById } from '@skipback/core/moves/registry';
import { removeStep } from '@skipback/core/project/actions';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { looksAt, removeLook } from '@skipback/core/project/look-actions';
import type { Project } from '@skipback/core/project/schema';
import type { Hands } from '../commands/use-commands';
import { act } from '../state/project-store';
import { neighbour, select, useSelection } from '../state/selection';

/** What can be done with the move or the look that is selected. */
export function selectedCommands(project: Project, piece: CompiledPiece | undefined) {
  const removeSelected = (event?: KeyboardEvent) => {
    // Held down, it repeats: one thing goes, not all of them.
    if (event?.repeat) return undefined;
    const { selectedLast, stepId, lookId } = useSelection.getState();
    const step = selectedLast === 'move' ? piece?.piece.chain.find((s) => s.id === stepId) : undefined;
    if (piece && step) {
      const name = moveById(step.move)?.name ?? step.move;
      const ids = piece.piece.chain.map((s) => s.id);
      act(`remove ${name}`, (p) => removeStep(p, piece.piece.id, step.id, piece.steps));
      select({ stepId: neighbour(ids, step.id) });
      return `${name} is removed.`;
    }
    for (const where of [piece?.piece.id ?? null, null]) {
      const looks = looksAt(project, where);
      const look = selectedLast === 'look' && looks.find((l) => l.id === lookId);
      if (!look) continue;
      const name = treatmentById(look.look)?.name ?? look.look;
      act(`remove ${name}`, (p) => removeLook(p, where, look.id));
      select({
        lookId: neighbour(
          looks.map((l) => l.id),
          look.id,
        ),
      });
      return `${name} is removed.`;
    }
    return 'Select a move or a look first: click its card.';
  };
  return { removeSelected } satisfies Hands;
}
