import {
  type CompiledPiece,
  type CompiledProject,
  compilePiece,
  compileProject,
} from '@skipback/core/project/compile';
import { type TimePath, sampleFrames } from '@skipback/core/path/path';
import type { Clip, Piece, Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { type ClipState, tableOf } from './library';

/** Pieces worked out before, by the objects they were made of: an unchanged piece is not worked out again. */
const remembered = new WeakMap<Piece, { clip: Clip; rate: Project['rate']; compiled: CompiledPiece }>();

/** A project worked out, each piece only when it changed. */
export function compileWith(project: Project, clips: readonly ClipState[]): CompiledProject {
  return compileProject(project, (piece, clip) => {
    const table = tableOf(clips.find((c) => c.clip.id === clip.id));
    if (!table) return undefined;
    const known = remembered.get(piece);
    if (known && known.clip === clip && known.rate === project.rate) return known.compiled;
    const compiled = compilePiece(piece, clip, table, project.rate);
    remembered.set(piece, { clip, rate: project.rate, compiled });
    return compiled;
  });
}

/** The open project worked out. */
export function useCompiled(project: Project, clips: readonly ClipState[]): CompiledProject {
  return useMemo(() => compileWith(project, clips), [project, clips]);
}

/** A piece alone as a result, on another path than its own: to be looked at, not kept. */
export function alone(piece: CompiledPiece, path: TimePath): CompiledProject {
  const shown = sampleFrames(path, piece.table);
  return {
    pieces: [{ startFrame: 0, compiled: { ...piece, path, shown, joins: [] } }],
    missing: [],
    totalFrames: shown.length,
  };
}

/** Clip places and frames of the whole result, as workers take them. */
export function resultArrays(
  compiled: CompiledProject,
  clipIds: readonly string[],
): { clipPlaces: Int32Array; clipFrames: Int32Array } {
  const clipPlaces = new Int32Array(compiled.totalFrames);
  const clipFrames = new Int32Array(compiled.totalFrames);
  for (const { startFrame, compiled: piece } of compiled.pieces) {
    clipPlaces.fill(clipIds.indexOf(piece.clip.id), startFrame, startFrame + piece.shown.length);
    clipFrames.set(piece.shown, startFrame);
  }
  return { clipPlaces, clipFrames };
}
