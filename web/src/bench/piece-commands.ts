import { removePiece } from '@skipback/core/project/actions';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import { duplicatePiece, shiftPiece, splitPiece } from '@skipback/core/project/piece-actions';
import type { Hands } from '../commands/use-commands';
import { freshId } from '../state/ids';
import { usePlaying } from '../state/playing';
import { act } from '../state/project-store';
import { neighbour, selectPiece } from '../state/selection';

const NONE = { why: 'There is no piece yet.' };

/** What can be done with the selected piece as a whole: its place in the row, copies, cutting it in two. */
export function pieceCommands(compiled: CompiledProject, piece: CompiledPiece | undefined) {
  if (!piece)
    return {
      ...{ split: NONE, duplicate: NONE, earlier: NONE, later: NONE, removePiece: NONE },
    } satisfies Hands;
  const place = compiled.pieces.findIndex((p) => p.compiled === piece);
  const startFrame = compiled.pieces[place]?.startFrame ?? 0;
  const { id } = piece.piece;
  return {
    split: () => {
      const { showing, position } = usePlaying.getState();
      const at = position - startFrame;
      if (showing === 'source' || at <= 0 || at >= piece.shown.length)
        return 'Put the playhead inside the piece, on the result strip, then split.';
      act('split the piece', (p) => splitPiece(p, id, at, piece.shown.length, freshId));
      return undefined;
    },
    duplicate: () => act('duplicate the piece', (p) => duplicatePiece(p, id, freshId)),
    earlier:
      place > 0
        ? () => act('move the piece earlier', (p) => shiftPiece(p, id, -1))
        : { why: 'It is the first piece.' },
    later:
      place < compiled.pieces.length - 1
        ? () => act('move the piece later', (p) => shiftPiece(p, id, 1))
        : { why: 'It is the last piece.' },
    removePiece: () => {
      const next = neighbour(
        compiled.pieces.map((p) => p.compiled.piece.id),
        id,
      );
      act('remove the piece', (p) => removePiece(p, id));
      selectPiece(next);
    },
  } satisfies Hands;
}
