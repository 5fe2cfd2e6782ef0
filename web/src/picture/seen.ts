import { usePlaying } from '../state/playing';
import { type CompiledProject, liesAt } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { framed } from '@skipback/core/steady/framing';
import type { Similar } from '@skipback/core/steady/similar';
import { useShallow } from 'zustand/react/shallow';
import type { ClipState, LoadedClip } from '../state/library';

/** What the picture shows: which clip's frame, and how that lies in the project's picture. */
export interface Seen {
  readonly loaded: LoadedClip;
  /** Frame of the clip. */
  readonly frame: number;
  /** Result frame, where the result is shown, and the piece it is of. */
  readonly position: number | undefined;
  readonly pieceId: string | undefined;
  /** Result frame from which what the piece's looks count begins. */
  readonly countsFrom: number;
  readonly map: Similar;
}

export function useSeen(
  project: Project,
  compiled: CompiledProject,
  clips: readonly ClipState[],
): Seen | undefined {
  const { showing, position, sourceFrame, sourceClipId } = usePlaying(
    useShallow(({ showing, position, sourceFrame, sourceClipId }) => ({
      showing,
      position,
      sourceFrame,
      sourceClipId,
    })),
  );
  if (showing === 'source') {
    const loaded = clips.find((c) => c.clip.id === sourceClipId)?.loaded;
    if (!loaded) return undefined;
    const map = framed(loaded.record.facts, project.size, loaded.clip.framing);
    return { loaded, frame: sourceFrame, position: undefined, pieceId: undefined, countsFrom: 0, map };
  }
  const at = compiled.pieces.findLast((p) => p.startFrame <= position);
  const loaded = at && clips.find((c) => c.clip.id === at.compiled.clip.id)?.loaded;
  const frame = at?.compiled.shown[position - at.startFrame];
  const map = at && frame !== undefined ? liesAt(at.compiled, frame) : undefined;
  if (!loaded || frame === undefined || !map) return undefined;
  return {
    ...{ loaded, frame, position, map },
    pieceId: at.compiled.piece.id,
    countsFrom: at.startFrame - (at.compiled.partOf?.from ?? 0),
  };
}
