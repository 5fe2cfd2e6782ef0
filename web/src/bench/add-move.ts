import type { AnyMove } from '@skipback/core/moves/move';
import type { CompiledPiece } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { addStep } from '@skipback/core/project/actions';
import { pathFrames } from '@skipback/core/path/path';
import { frame } from '@skipback/core/time/units';
import { beginsAt } from '../state/begins';
import { openCard } from '../state/cards';
import { freshId } from '../state/ids';
import { playsAdded } from '../state/plays-added';
import { usePlaying } from '../state/playing';
import { act, useProjectStore } from '../state/project-store';
import { transport } from '../state/transport';

/** A piece, and the result frame at which it begins. */
export interface Placed {
  readonly piece: CompiledPiece;
  readonly startFrame: number;
}

/** What a move may know when it is added to a piece. */
export const contextOf = ({ piece, startFrame }: Placed) => ({
  ...{ table: piece.table, music: piece.music, marks: piece.clip.marks },
  begins: beginsAt(piece, startFrame),
});

/** Adds a move to a piece with values that suit it, opens its card, and plays it. */
export function addMove(move: AnyMove, at: Placed): void {
  const id = freshId();
  const values = { ...move.suggest?.(at.piece.path, contextOf(at)) };
  actAndPlay(at, `add ${move.name}`, (p) => addStep(p, at.piece.piece.id, { id, move: move.id, values }));
  openCard('move', id);
}

/**
 * Changes a piece by one named action, and has it played when it has been made anew: from the playhead where that is in
 * it, else from its beginning. Where nothing was changed nothing plays.
 */
export function actAndPlay(
  { piece, startFrame }: Placed,
  change: string,
  action: (project: Project) => Project,
): void {
  const before = useProjectStore.getState().project;
  act(change, action);
  const { step, showing, position } = usePlaying.getState();
  if (useProjectStore.getState().project === before || step !== 0 || !playsAdded()) return;
  const after = position - startFrame;
  const within = showing === 'result' && after >= 0 && after < pathFrames(piece.path);
  transport.playWhenReady(within ? position : frame(startFrame));
}
