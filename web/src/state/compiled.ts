import {
  type CompiledPiece,
  type CompiledProject,
  compilePiece,
  compileProject,
  listens,
  projectMusic,
} from '@skipback/core/project/compile';
import { type Recipes, recipesOf } from '@skipback/core/looks/recipes';
import { musicFrom } from '@skipback/core/beats/music';
import { type TimePath, sampleFrames } from '@skipback/core/path/path';
import type { Clip, Piece, Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { type ClipState, tableOf } from './library';

interface Remembered {
  readonly clip: Clip;
  readonly rate: Project['rate'];
  /** Under which song it lay, and where. */
  readonly song: Project['song'];
  readonly startFrame: number;
  readonly compiled: CompiledPiece;
}

/** Pieces worked out before, by the objects they were made of: an unchanged piece is not worked out again. */
const remembered = new WeakMap<Piece, Remembered>();

/** A project worked out, each piece only when it changed. */
export function compileWith(project: Project, clips: readonly ClipState[]): CompiledProject {
  const music = projectMusic(project);
  return compileProject(project, (piece, clip, startFrame) => {
    const table = tableOf(clips.find((c) => c.clip.id === clip.id));
    if (!table) return undefined;
    const { song, rate } = project;
    const known = remembered.get(piece);
    const same = known?.clip === clip && known.rate === rate;
    const stays = known?.song === song && known.startFrame === startFrame;
    if (same && stays) return known.compiled;
    const here = music && musicFrom(music, startFrame);
    const compiled =
      same && !listens(piece)
        ? { ...known.compiled, music: here }
        : compilePiece(piece, clip, table, rate, here);
    remembered.set(piece, { clip, rate, song, startFrame, compiled });
    return compiled;
  });
}

/** The open project worked out. */
export function useCompiled(project: Project, clips: readonly ClipState[]): CompiledProject {
  return useMemo(() => compileWith(project, clips), [project, clips]);
}

/** One piece as the whole result, on another path than its own: to be looked at, not kept. */
export function resultOfPiece(piece: CompiledPiece, path: TimePath): CompiledProject {
  const shown = sampleFrames(path, piece.table);
  return {
    pieces: [{ startFrame: 0, compiled: { ...piece, path, shown, joins: [] } }],
    missing: [],
    beyond: [],
    totalFrames: shown.length,
  };
}

/** Clip places and frames of the whole result, and what is drawn on them, as workers take them. */
export interface ResultArrays {
  readonly clipPlaces: Int32Array;
  readonly clipFrames: Int32Array;
  readonly recipes: Recipes;
}

/** The whole result as workers take it; `project` says what its own looks are, without it there are none. */
export function resultArrays(
  compiled: CompiledProject,
  clipIds: readonly string[],
  project?: Project,
): ResultArrays {
  const clipPlaces = new Int32Array(compiled.totalFrames);
  const clipFrames = new Int32Array(compiled.totalFrames);
  for (const { startFrame, compiled: piece } of compiled.pieces) {
    clipPlaces.fill(clipIds.indexOf(piece.clip.id), startFrame, startFrame + piece.shown.length);
    clipFrames.set(piece.shown, startFrame);
  }
  const { recipes } = recipesOf(compiled, project?.looks ?? [], project && projectMusic(project));
  return { clipPlaces, clipFrames, recipes };
}
