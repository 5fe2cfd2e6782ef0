import type { CompiledPiece } from '@skipback/core/project/compile';
import type { SourcePlace } from '@skipback/core/places/place';
import { resolvePlace } from '@skipback/core/places/resolve';
import { usePlaying } from './playing';

/** A place of the clip, meant the time it is shown at a result position of its piece; the first time without one. */
function shownAt(piece: CompiledPiece, place: SourcePlace, position: number | undefined): SourcePlace {
  if (position === undefined) return place;
  const { path, table, clip, music } = piece;
  const every = { ...place, showing: 'every' as const };
  const { at, said } = resolvePlace(every, { path, table, marks: clip.marks, music });
  const nth = said ? 0 : at.filter((a) => a <= position + 0.5 + 1e-6).length;
  return nth > 1 ? { ...place, showing: nth } : place;
}

/** The frame of a piece's clip that is looked at, and where in its result; undefined where the eye is elsewhere. */
function lookedAt(
  piece: CompiledPiece,
  startFrame: number,
): { readonly frame: number; readonly position?: number } | undefined {
  const { showing, position, sourceFrame, sourceClipId } = usePlaying.getState();
  if (showing === 'source') return sourceClipId === piece.clip.id ? { frame: sourceFrame } : undefined;
  const frame = piece.shown[position - startFrame];
  return frame === undefined ? undefined : { frame, position: position - startFrame };
}

/** The frame that is looked at in a piece as a place: its mark where it has one. Undefined where the eye is elsewhere. */
export function placeLookedAt(piece: CompiledPiece, startFrame: number): SourcePlace | undefined {
  const eye = lookedAt(piece, startFrame);
  if (!eye) return undefined;
  const mark = piece.clip.marks.find((m) => m.frame === eye.frame);
  return shownAt(piece, mark ? { mark: mark.id } : { source: eye.frame }, eye.position);
}

/**
 * Where something new begins: at the mark under the playhead, else the nearest mark inside the span, else the frame
 * that is looked at.
 */
export function beginsAt(piece: CompiledPiece, startFrame: number): SourcePlace | undefined {
  const { span } = piece.piece;
  const here = placeLookedAt(piece, startFrame);
  if (here && 'mark' in here) return here;
  const eye = lookedAt(piece, startFrame)?.frame ?? (span.in + span.out) / 2;
  const inside = piece.clip.marks.filter((m) => m.frame >= span.in && m.frame < span.out);
  const nearest = inside.toSorted((a, b) => Math.abs(a.frame - eye) - Math.abs(b.frame - eye))[0];
  return nearest ? { mark: nearest.id } : here;
}
