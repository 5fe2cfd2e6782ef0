import { loopsOf } from '@skipback/core/project/parts';
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
  /** The frame of it that is the first here: where a piece is a part of something longer, its looks count that. */
  readonly from: number;
}

/** What several parts of the bench ask of the same result, worked out once. */
const known = new WeakMap<CompiledProject, { readonly document: Project | null; readonly list: LookList }>();

function looksOfResult(project: CompiledProject, document: Project | null): LookList {
  const before = known.get(project);
  if (before?.document === document) return before.list;
  const facts = factsOfResult(project, document ? projectMusic(document) : undefined);
  const list = { facts, results: resolveLooks(document?.looks ?? [], facts).results, from: 0 };
  known.set(project, { document, list });
  return list;
}

/** The looks of a piece, worked out on all that they count, and seen where it is shown. */
function listOf(piece: CompiledPiece, loops: boolean): LookList {
  const { whole, from } = piece.partOf ?? { whole: piece, from: 0 };
  const end = from + piece.shown.length;
  const results = looksOfPiece(whole, loops).results.map((result) => ({
    ...result,
    strengths: result.strengths.map((s, i) => (i >= from && i < end ? s : 0)),
  }));
  return { facts: factsOfPiece(whole, loops), results, from };
}

/** The looks of a piece and of the whole result, worked out. */
export function useLooks(project: CompiledProject, piece: CompiledPiece | undefined) {
  const loops = loopsOf(project);
  const ofPiece = useMemo((): LookList | undefined => piece && listOf(piece, loops), [piece, loops]);
  const document = useProjectStore((s) => s.project);
  const ofResult = looksOfResult(project, document);
  return { ofPiece: ofPiece ?? { facts: ofResult.facts, results: [], from: 0 }, ofResult };
}
