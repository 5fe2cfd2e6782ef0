import { type Join, joinsOf } from '../checks/joins';
import { type FrameTable, readAt } from '../clip/frame-table';
import { type AppliedStep, applyChain } from '../moves/registry';
import { type TimePath, pathFrames, sampleFrames, spanPath } from '../path/path';
import type { Rational } from '../time/rational';
import type { Clip, Piece, Project } from './schema';

/** A piece worked out: its path, the source frame of each of its result frames, its joins. */
export interface CompiledPiece {
  readonly piece: Piece;
  readonly clip: Clip;
  /** The clip's frames as the project reads them. */
  readonly table: FrameTable;
  /** The span alone, before any move. */
  readonly base: TimePath;
  readonly path: TimePath;
  readonly shown: Int32Array;
  readonly joins: readonly Join[];
  readonly steps: readonly AppliedStep[];
}

/** Works out one piece. `table` is the clip's own; its `readAt` is applied here. */
export function compilePiece(piece: Piece, clip: Clip, table: FrameTable, rate: Rational): CompiledPiece {
  const read = readAt(table, clip.readAt);
  const base = spanPath(read, piece.span.in, piece.span.out, rate);
  const { path, steps } = applyChain(base, piece.chain, { table: read });
  return {
    piece,
    clip,
    table: read,
    base,
    path,
    shown: sampleFrames(path, read),
    joins: joinsOf(path, read),
    steps,
  };
}

/** The row of pieces worked out. A piece whose clip's frames are not known (yet) is left out and listed. */
export interface CompiledProject {
  readonly pieces: readonly { readonly startFrame: number; readonly compiled: CompiledPiece }[];
  readonly missing: readonly Piece[];
  readonly totalFrames: number;
}

/** Lays compiled pieces in a row. `compile` may remember pieces that did not change. */
export function compileProject(
  project: Project,
  compile: (piece: Piece, clip: Clip) => CompiledPiece | undefined,
): CompiledProject {
  const pieces: { startFrame: number; compiled: CompiledPiece }[] = [];
  const missing: Piece[] = [];
  let at = 0;
  for (const piece of project.pieces) {
    const clip = project.clips.find((c) => c.id === piece.clipId);
    const compiled = clip && compile(piece, clip);
    if (!compiled) {
      missing.push(piece);
      continue;
    }
    pieces.push({ startFrame: at, compiled });
    at += pathFrames(compiled.path);
  }
  return { pieces, missing, totalFrames: at };
}
