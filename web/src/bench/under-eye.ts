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

/** What is under the playhead, of the result or of the clip that is looked at, whichever clip is on the source strip; or why there is nothing. */
export function underPlayhead(compiled: CompiledProject, clips: readonly ClipState[]): UnderEye | string {
  const { showing, position, sourceFrame, sourceClipId } = usePlaying.getState();
  if (showing === 'source') return frameOf(clips, sourceClipId, sourceFrame);
  const found = compiled.pieces.findLast((p) => p.startFrame <= position);
  const frame = found?.compiled.shown[position - found.startFrame];
  if (!found || frame === undefined) return 'There is no frame under the playhead yet.';
  return frameOf(clips, found.compiled.clip.id, frame, found.compiled, found.startFrame);
}

/** The frame of a clip that the pointer rests on; else what is under the playhead. */
export function underEye(compiled: CompiledProject, clips: readonly ClipState[]): UnderEye | string {
  const { peek } = usePlaying.getState();
  if (peek?.kind === 'source') return frameOf(clips, peek.clipId, peek.frame);
  return underPlayhead(compiled, clips);
}

function frameOf(
  clips: readonly ClipState[],
  clipId: string | null,
  frame: number,
  piece?: CompiledPiece,
  startFrame = 0,
): UnderEye | string {
  const clip = clips.find((c) => c.clip.id === clipId)?.loaded;
  if (!clip) return 'The file of this clip is not here.';
  return { clip, frame, count: frameCount(clip.record.facts.table), piece, startFrame };
}
