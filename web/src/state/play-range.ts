import { frame } from '@skipback/core/time/units';
import { shownBy } from '@skipback/core/path/path';
import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { useEffect, useMemo } from 'react';
import { framesOfBeats } from './bar-loop';
import { usePlaying } from './playing';
import { useSelection } from './selection';
import { type PlayRange, transport } from './transport';

/**
 * The result frames that playing keeps to: the chosen bars of the song, or the selected segment or piece and some
 * around it; null for all.
 */
export function usePlayRange(
  project: Project,
  compiled: CompiledProject,
  pieceId: string | null,
): PlayRange | null {
  const { song, rate } = project;
  const beats = usePlaying((s) => s.beats);
  const nearFrames = usePlaying((s) => s.nearFrames);
  const segment = useSelection((s) => s.segment);
  const range = useMemo((): PlayRange | null => {
    if (beats && song) return framesOfBeats(song, beats, rate, compiled.totalFrames) ?? null;
    const at = compiled.pieces.find((p) => p.compiled.piece.id === pieceId);
    if (nearFrames === null || !at) return null;
    let first: number = at.startFrame;
    let end = first + at.compiled.shown.length;
    if (segment !== null) {
      const part = shownBy(at.compiled.path)[segment] ?? { first: 0, end: 1 };
      end = first + Math.max(part.end, part.first + 1);
      first += part.first;
    }
    return {
      first: frame(Math.max(0, first - nearFrames)),
      end: frame(Math.min(compiled.totalFrames, end + nearFrames)),
    };
  }, [compiled, pieceId, nearFrames, segment, beats, song, rate]);
  useEffect(() => transport.setRange(range), [range]);
  return range;
}
