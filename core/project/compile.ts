import { type Frame, frame, framesBefore } from '../time/units';
import { type Join, joinsOf } from '../checks/joins';
import { type FrameTable, frameCount, readAt, meanRateHz } from '../clip/frame-table';
import { type Music, musicFrom, musicOf } from '../beats/music';
import { type Brought, NOTHING_BROUGHT } from '../looks/brought';
import { listensToMusic, withPlaces } from '../places/place';
import { type AppliedStep, applyChain } from '../moves/chain';
import { moveById, valuesOf } from '../moves/registry';
import { type TimePath, onWholeFrames, sampleFrames, spanPath, pathLength, joinPaths } from '../path/path';
import { LONGEST_S } from '../path/limits';
import { type Size, framed } from '../steady/framing';
import type { Similar } from '../steady/similar';
import { type Placing, mapAt, placingOf } from '../steady/steady';
import { type Rational, toNumber } from '../time/rational';
import type { Clip, Piece, Project } from './schema';

/** A piece worked out: its path, the source frame of each of its result frames, its joins. */
export interface CompiledPiece {
  readonly piece: Piece;
  readonly clip: Clip;
  /** The clip's frames as the project reads them. */
  readonly table: FrameTable;
  /** Seconds of its file that pass in a second of that: other than 1 where it is read at another rate. */
  readonly filePace: number;
  /** The song counted from the piece's first frame. */
  readonly music: Music | undefined;
  /** The span alone, before any move. */
  readonly base: TimePath;
  readonly path: TimePath;
  readonly shown: Int32Array;
  readonly joins: readonly Join[];
  readonly steps: readonly AppliedStep[];
  /** Where its frames are put by what holds it; undefined where the clip's framing alone says so. */
  readonly placing: Placing | undefined;
  /** Sizes of the clip's own picture and of the project's, where they are known. */
  readonly sizes: Sizes | undefined;
  /** The project's clips, for looks that bring their pictures in. */
  readonly brought: Brought;
  /** Where it is a part of something longer that its looks still count: that, and its frame that is the first here. */
  readonly partOf?: { readonly whole: CompiledPiece; readonly from: number };
}

/** Sizes of a clip's own picture, upright, and of the project's. */
export interface Sizes {
  readonly picture: Size;
  readonly frame: Size;
}

/** What a piece's pictures are read by: its clip as it is, or as the piece holds it. */
export const sourceIdOf = ({ clip, piece, placing }: CompiledPiece): string =>
  placing ? `${clip.id} ${piece.id}` : clip.id;

/** How a clip's pixels lie in the project's picture at a frame of it; undefined where the sizes are not known. */
export function liesAt({ placing, sizes, clip }: CompiledPiece, frame: number): Similar | undefined {
  if (placing) return mapAt(placing, frame);
  return sizes && framed(sizes.picture, sizes.frame, clip.framing);
}

/**
 * Works out one piece. `table` is the clip's own; its `readAt` is applied here. `music` is the song counted
 * from the piece's first result frame; `sizes` are needed for what is placed in the picture.
 */
export function compilePiece(
  piece: Piece,
  clip: Clip,
  table: FrameTable,
  rate: Rational,
  music?: Music,
  sizes?: Sizes,
  brought: Brought = NOTHING_BROUGHT,
): CompiledPiece {
  const read = readAt(table, clip.readAt);
  const filePace = clip.readAt ? toNumber(clip.readAt) / meanRateHz(table) : 1;
  const base = spanPath(read, piece.span.in, piece.span.out, rate);
  const {
    path: made,
    steps,
    leftOut,
  } = applyChain(base, piece.chain, {
    table: read,
    music,
    marks: clip.marks,
  });
  const on = (path: TimePath, itsMusic: Music | undefined, placing?: Placing) => {
    const shown = sampleFrames(path, read);
    return {
      ...{ piece, clip, table: read, filePace, music: itsMusic, base, path, shown, steps, sizes, brought },
      joins: joinsOf(path, read),
      placing: placing ?? (sizes && placed(piece, clip, frameCount(read), shown, sizes)),
    };
  };
  const path = onWholeFrames(made, read);
  if (!leftOut) return on(path, music);
  const from = framesBefore(pathLength(leftOut.before));
  const after = leftOut.after.segments.length > 0 ? onWholeFrames(leftOut.after, read) : leftOut.after;
  const all = leftOut.whole
    ? onWholeFrames(leftOut.whole, read)
    : joinPaths(rate, [leftOut.before, path, after]);
  const whole = on(all, music && musicFrom(music, -from));
  return { ...on(path, music, whole.placing), partOf: { whole, from } };
}

function placed(
  { steady, span }: Piece,
  { tracks, framing }: Clip,
  clipFrames: number,
  shown: Int32Array,
  sizes: Sizes,
): Placing | undefined {
  const track = steady?.on ? tracks.find((t) => t.id === steady.track) : undefined;
  if (!steady || !track) return undefined;
  const seen = [shown.reduce((a, b) => Math.min(a, b)), 1 + shown.reduce((a, b) => Math.max(a, b))] as const;
  return placingOf({ steady, track, ...sizes, framing, clipFrames, begins: span.in, seen });
}

/** The row of pieces worked out. A piece whose clip's frames are not known (yet) is left out and listed. */
export interface CompiledProject {
  readonly pieces: readonly { readonly startFrame: Frame; readonly compiled: CompiledPiece }[];
  readonly missing: readonly Piece[];
  /** Pieces left out because the whole would be too long with them. */
  readonly beyond: readonly Piece[];
  readonly totalFrames: Frame;
  /** As in its pieces. */
  readonly brought: Brought;
}

/** Whether any place in a value lies in the music. */
function listensIn(value: object): boolean {
  let listening = false;
  withPlaces(value, (place) => {
    listening ||= listensToMusic(place);
    return undefined;
  });
  return listening;
}

/** Whether a piece depends on where it lies under the song. */
export const listens = (piece: Piece): boolean =>
  piece.chain.some((s) => {
    if (!s.on) return false;
    const values = valuesOf(s);
    return moveById(s.move)?.listens?.(values) === true || listensIn({ values, zone: s.zone });
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
  brought: Brought = NOTHING_BROUGHT,
): CompiledProject {
  const pieces: { startFrame: Frame; compiled: CompiledPiece }[] = [];
  const missing: Piece[] = [];
  const beyond: Piece[] = [];
  const most = LONGEST_S * toNumber(project.rate);
  let at = frame(0);
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
    at = frame(at + frames);
  }
  return { pieces, missing, beyond, totalFrames: at, brought };
}
