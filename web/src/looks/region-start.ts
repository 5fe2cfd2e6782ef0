import type { LookPlace } from '@skipback/core/project/look-actions';
import { type CompiledPiece, liesAt } from '@skipback/core/project/compile';
import { type Region, moved } from '@skipback/core/regions/region';
import { undone } from '@skipback/core/steady/similar';
import { type Track, placeAt } from '@skipback/core/tracks/track';
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

/** What a region has beside its shape and where that is, at first. */
const freshRegion = (counts: Region['counts']) =>
  ({ feather: 24, grow: 0, inverted: false, carried: null, counts }) as const;

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

/**
 * An ellipse on what a track follows, which goes along with it, at a frame of the clip that is `height` pixels high. A
 * box tells how large it is; a point stands for something of about half the picture's height.
 */
export function regionOn(track: Track, frame: number, height: number): Region {
  // Where it is known: at the frame that is looked at, or the first of its own.
  const at = placeAt(track, frame) ? frame : track.keys[0]!.frame;
  const [x, y] = placeAt(track, at)?.values ?? track.keys[0]!.values;
  const [across, down] =
    track.kind === 'box' ? [track.width * 1.3, track.height * 1.3] : [height / 2.2, height / 2.2];
  return {
    ...freshRegion('clip'),
    ...{ shape: 'ellipse', keys: [{ at, ease: 'even', values: [x!, y!, across, down, 0] }] },
    carried: { track: track.id, from: at, turns: true },
  };
}
