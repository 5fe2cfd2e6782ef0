import { type Facts, factsOfPiece, factsOfResult } from '@skipback/core/looks/facts';
import { type LookResult, looksOfPiece, resolveLooks } from '@skipback/core/looks/resolve';
import { type CompiledPiece, type CompiledProject, projectMusic } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { useProjectStore } from '../state/project-store';

/** A list of looks as it comes out, and what it was worked out from. */
export interface LookList {
  readonly facts: Facts;
  readonly results: readonly LookResult[];
}

/** What several parts of the bench ask of the same result, worked out once. */
const known = new WeakMap<CompiledProject, { readonly document: Project | null; readonly list: LookList }>();

function looksOfResult(project: CompiledProject, document: Project | null): LookList {
  const before = known.get(project);
  if (before?.document === document) return before.list;
  const facts = factsOfResult(project, document ? projectMusic(document) : undefined);
  const list = { facts, results: resolveLooks(document?.looks ?? [], facts).results };
  known.set(project, { document, list });
  return list;
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
  const ofResult = looksOfResult(project, document);
  return { ofPiece: ofPiece ?? { facts: ofResult.facts, results: [] }, ofResult };
}
