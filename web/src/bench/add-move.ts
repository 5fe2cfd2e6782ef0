import type { AnyMove } from '@skipback/core/moves/move';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { addStep } from '@skipback/core/project/actions';
import { beginsAt } from '../state/begins';
import { openCard } from '../state/cards';
import { freshId } from '../state/ids';
import { act } from '../state/project-store';

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

/** Adds a move to a piece with values that suit it, and opens its card. */
export function addMove(move: AnyMove, at: Placed): void {
  const id = freshId();
  const values = { ...move.suggest?.(at.piece.path, contextOf(at)) };
  act(`add ${move.name}`, (p) => addStep(p, at.piece.piece.id, { id, move: move.id, values }));
  openCard('move', id);
}
