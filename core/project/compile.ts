import { type Join, joinsOf } from '../checks/joins';
import { type FrameTable, readAt } from '../clip/frame-table';
import { type Music, musicOf } from '../beats/music';
import { isInBeats } from '../moves/beat-values';
import { type AppliedStep, applyChain, moveById } from '../moves/registry';
import { type TimePath, onWholeFrames, sampleFrames, spanPath } from '../path/path';
import { LONGEST_S } from '../path/limits';
import { type Rational, toNumber } from '../time/rational';
import type { Clip, Piece, Project } from './schema';

/** A piece worked out: its path, the source frame of each of its result frames, its joins. */
export interface CompiledPiece {
  readonly piece: Piece;
  readonly clip: Clip;
  /** The clip's frames as the project reads them. */
  readonly table: FrameTable;
  /** The song counted from the piece's first frame. */
  readonly music: Music | undefined;
  /** The span alone, before any move. */
  readonly base: TimePath;
  readonly path: TimePath;
  readonly shown: Int32Array;
  readonly joins: readonly Join[];
  readonly steps: readonly AppliedStep[];
}

/**
 * Works out one piece. `table` is the clip's own; its `readAt` is applied here. `music` is the song counted
 * from the piece's first result frame.
 */
export function compilePiece(
  piece: Piece,
  clip: Clip,
  table: FrameTable,
  rate: Rational,
  music?: Music,
): CompiledPiece {
  const read = readAt(table, clip.readAt);
  const base = spanPath(read, piece.span.in, piece.span.out, rate);
  const { path: made, steps } = applyChain(base, piece.chain, { table: read, music });
  const path = onWholeFrames(made, read);
  return {
    piece,
    clip,
    table: read,
    music,
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
  /** Pieces left out because the whole would be too long with them. */
  readonly beyond: readonly Piece[];
  readonly totalFrames: number;
}

/** Whether a piece depends on where it lies under the song. */
export const listens = (piece: Piece): boolean =>
  piece.chain.some((s) => {
    if (!s.on) return false;
    const move = moveById(s.move);
    return (
      move?.listens?.({ ...move.defaults, ...s.values }) === true || Object.values(s.values).some(isInBeats)
    );
  });

/** The project's song as music counted from the first result frame. */
export const projectMusic = ({ song, rate }: Project): Music | undefined =>
  song && song.grid.beats.length > 1 ? musicOf(song, song, rate) : undefined;

/**
 * Lays compiled pieces in a row. `compile` may remember pieces that did not change; it hears at which result
 * frame the piece begins.
 */
export function compileProject(
  project: Project,
  compile: (piece: Piece, clip: Clip, startFrame: number) => CompiledPiece | undefined,
): CompiledProject {
  const pieces: { startFrame: number; compiled: CompiledPiece }[] = [];
  const missing: Piece[] = [];
  const beyond: Piece[] = [];
  const most = LONGEST_S * toNumber(project.rate);
  let at = 0;
  for (const piece of project.pieces) {
    const clip = project.clips.find((c) => c.id === piece.clipId);
    const compiled = clip && compile(piece, clip, at);
    if (!compiled) {
      missing.push(piece);
      continue;
    }
    const frames = compiled.shown.length;
    if (at + frames > most) {
      beyond.push(piece);
      continue;
    }
    pieces.push({ startFrame: at, compiled });
    at += frames;
  }
  return { pieces, missing, beyond, totalFrames: at };
}
