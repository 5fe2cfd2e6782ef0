import { moveById, valuesOf } from '@skipback/core/moves/registry';
import type { Reading } from '@skipback/core/places/read';
import { type Telling, markText } from '@skipback/core/places/words';
import type { Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { type First, useFirst } from './counting';
import { useProjectStore } from './project-store';
import { timeAt } from './time-at';

/** What places of a piece are told and read with: its clip's marks, its moves, how frames are counted. */
export interface PlaceWords {
  readonly telling: Telling;
  reading(counts?: 'clip'): Reading;
  /** What can be typed, to be chosen from. */
  readonly offers: readonly string[];
}

function placeWords(project: Project | null, pieceId: string | null, first: First): PlaceWords {
  const piece = project?.pieces.find((p) => p.id === pieceId);
  const marks = project?.clips.find((c) => c.id === piece?.clipId)?.marks ?? [];
  const { song } = project ?? {};
  return {
    telling: {
      marks,
      first,
      partName: ({ step, part }) => {
        const link = piece?.chain.find((s) => s.id === step);
        const move = link && moveById(link.move);
        return link && move
          ? `${move.name.toLowerCase()}’s ${move.partName?.(part, valuesOf(link)) ?? 'part'}`
          : undefined;
      },
    },
    reading: (counts) => ({ marks, first, at: timeAt(), counts }),
    offers: [
      ...marks.map((m) => markText(m.name)),
      ...(song && song.grid.beats.length > 1 ? ['beat 1', 'bar 2', 'kick 1', 'snare 1'] : []),
      ...['1/3', '1/2', 'end'],
    ],
  };
}

/** The words for places of a piece; of the whole result for null. */
export function usePlaceWords(pieceId: string | null): PlaceWords {
  const project = useProjectStore((s) => s.project);
  const first = useFirst();
  return useMemo(() => placeWords(project, pieceId, first), [project, pieceId, first]);
}
