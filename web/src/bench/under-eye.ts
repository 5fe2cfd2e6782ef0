import { frameCount } from '@skipback/core/clip/frame-table';
import type { CompiledPiece, CompiledProject } from '@skipback/core/project/compile';
import type { ClipState, LoadedClip } from '../state/library';
import { usePlaying } from '../state/playing';

/** What is under the eye: a frame of a clip, and the piece that shows it where the result is seen. */
export interface UnderEye {
  readonly clip: LoadedClip;
  readonly frame: number;
  /** Frames the clip has. */
  readonly count: number;
  readonly piece: CompiledPiece | undefined;
  /** Result frame the piece begins with. */
  readonly startFrame: number;
}

/**
 * The clip and frame under the playhead, whichever clip is on the source strip, or that the pointer rests on in a clip; or
 * why there is none.
 */
export function underEye(compiled: CompiledProject, clips: readonly ClipState[]): UnderEye | string {
  const { showing, position, sourceFrame, sourceClipId, peek } = usePlaying.getState();
  const of = (clipId: string | null, frame: number, piece?: CompiledPiece, startFrame = 0) => {
    const clip = clips.find((c) => c.clip.id === clipId)?.loaded;
    if (!clip) return 'The file of this clip is not here.';
    return { clip, frame, count: frameCount(clip.record.facts.table), piece, startFrame };
  };
  if (peek?.kind === 'source') return of(peek.clipId, peek.frame);
  if (showing === 'source') return of(sourceClipId, sourceFrame);
  const found = compiled.pieces.findLast((p) => p.startFrame <= position);
  const frame = found?.compiled.shown[position - found.startFrame];
  if (!found || frame === undefined) return 'There is no frame under the playhead yet.';
  return of(found.compiled.clip.id, frame, found.compiled, found.startFrame);
}
