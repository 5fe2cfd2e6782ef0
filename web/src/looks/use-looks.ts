import { type Facts, factsOfPiece, factsOfResult } from '@skipback/core/looks/facts';
import { type LookResult, looksOfPiece, resolveLooks } from '@skipback/core/looks/resolve';
import { type CompiledPiece, type CompiledProject, projectMusic } from '@skipback/core/project/compile';
import { useMemo } from 'react';
import { useProjectStore } from '../state/project-store';

/** A list of looks as it comes out, and what it was worked out from. */
export interface LookList {
  readonly facts: Facts;
  readonly results: readonly LookResult[];
}

/** The looks of a piece and of the whole result, worked out. */
export function useLooks(project: CompiledProject, piece: CompiledPiece | undefined) {
  const loops = project.pieces.length === 1;
  const ofPiece = useMemo(
    (): LookList | undefined =>
      piece && { facts: factsOfPiece(piece, loops), results: looksOfPiece(piece, loops).results },
    [piece, loops],
  );
  const document = useProjectStore((s) => s.project);
  const ofResult = useMemo((): LookList => {
    const facts = factsOfResult(project, document ? projectMusic(document) : undefined);
    return { facts, results: resolveLooks(document?.looks ?? [], facts).results };
  }, [project, document]);
  return { ofPiece: ofPiece ?? { facts: ofResult.facts, results: [] }, ofResult };
}
