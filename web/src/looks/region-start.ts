import type { LookPlace } from '@skipback/core/project/look-actions';
import { type CompiledPiece, liesAt } from '@skipback/core/project/compile';
import { freshRegion } from '@skipback/core/regions/on-track';
import { type Region, moved } from '@skipback/core/regions/region';
import { undone } from '@skipback/core/steady/similar';
import { usePlaying } from '../state/playing';
import { useProjectStore } from '../state/project-store';

/** The frame of a piece's clip under the eye: the one looked at, or shown by the result; the span's first where it is neither. */
export function frameOf(piece: CompiledPiece, pieceStart: number): number {
  const { showing, sourceFrame, sourceClipId, position } = usePlaying.getState();
  if (showing === 'source' && sourceClipId === piece.clip.id) return sourceFrame;
  return piece.shown[position - pieceStart] ?? piece.piece.span.in;
}

interface Ground {
  /** The piece it is on; undefined for the whole result. */
  readonly piece: CompiledPiece | undefined;
  readonly pieceStart: number;
  readonly where: LookPlace;
}

/** An ellipse or a rectangle in the middle of the picture, at the frame that is looked at. */
export function middleRegion(shape: 'ellipse' | 'rectangle', { piece, pieceStart, where }: Ground): Region {
  const { width, height } = useProjectStore.getState().project!.size;
  const frame = piece ? frameOf(piece, pieceStart) : usePlaying.getState().position;
  const lies = piece && liesAt(piece, frame);
  const numbers = [width / 2, height / 2, height / 2.2, height / 2.2, 0];
  const values = lies ? moved(shape, numbers, undone(lies)) : numbers;
  return {
    ...freshRegion(where === null ? 'result' : 'clip'),
    shape,
    keys: [{ at: frame, ease: 'even', values }],
  };
}
