import {
  type CompiledPiece,
  type CompiledProject,
  type Sizes,
  compilePiece,
  compileProject,
  listens,
  projectMusic,
  sourceIdOf,
} from '@skipback/core/project/compile';
import { type Recipes, recipesOf } from '@skipback/core/looks/recipes';
import { musicFrom } from '@skipback/core/beats/music';
import { type TimePath, sampleFrames } from '@skipback/core/path/path';
import type { Clip, Piece, Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import type { ClipSource } from '@skipback/media/frames/clip-row';
import { type ClipState, type LoadedClip, tableOf } from './library';

interface Remembered {
  readonly clip: Clip;
  readonly rate: Project['rate'];
  readonly sizes: Sizes;
  /** Under which song it lay, and where. */
  readonly song: Project['song'];
  readonly startFrame: number;
  readonly compiled: CompiledPiece;
}

/** Pieces worked out before, by the objects they were made of: an unchanged piece is not worked out again. */
const remembered = new WeakMap<Piece, Remembered>();

const sameSizes = (a: Sizes, b: Sizes): boolean =>
  a.frame === b.frame && a.picture.width === b.picture.width && a.picture.height === b.picture.height;

/** A project worked out, each piece only when it changed. */
export function compileWith(project: Project, clips: readonly ClipState[]): CompiledProject {
  const music = projectMusic(project);
  return compileProject(project, (piece, clip, startFrame) => {
    const state = clips.find((c) => c.clip.id === clip.id);
    const table = tableOf(state);
    if (!table) return undefined;
    const { width, height } = state!.loaded!.record.facts;
    const { song, rate } = project;
    const known = remembered.get(piece);
    const sizes = { picture: { width, height }, frame: project.size };
    const same = known?.clip === clip && known.rate === rate && sameSizes(known.sizes, sizes);
    const stays = known?.song === song && known.startFrame === startFrame;
    if (same && stays) return known.compiled;
    const here = music && musicFrom(music, startFrame);
    const compiled =
      same && !listens(piece)
        ? { ...known.compiled, music: here }
        : compilePiece(piece, clip, table, rate, here, sizes);
    remembered.set(piece, { clip, rate, sizes, song, startFrame, compiled });
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

/** What a result is read from: the clips in their order, then those that pieces hold by a track. */
export function sourcesOf(compiled: CompiledProject, clips: readonly LoadedClip[]): readonly ClipSource[] {
  const held = compiled.pieces.flatMap(({ compiled: piece }) => {
    const own = piece.placing && clips.find((c) => c.clip.id === piece.clip.id);
    if (!own || !piece.placing) return [];
    const { maps, edges, key } = piece.placing;
    return [{ ...own.source, clipId: sourceIdOf(piece), placing: { maps, edges, key } }];
  });
  return [...clips.map((c) => c.source), ...held];
}

/** The whole result as workers take it, `sourceIds` being those of `sourcesOf`; `project` says what its own looks are, without it there are none. */
export function resultArrays(
  compiled: CompiledProject,
  sourceIds: readonly string[],
  project?: Project,
): ResultArrays {
  const clipPlaces = new Int32Array(compiled.totalFrames);
  const clipFrames = new Int32Array(compiled.totalFrames);
  for (const { startFrame, compiled: piece } of compiled.pieces) {
    clipPlaces.fill(sourceIds.indexOf(sourceIdOf(piece)), startFrame, startFrame + piece.shown.length);
    clipFrames.set(piece.shown, startFrame);
  }
  const { recipes } = recipesOf(compiled, project?.looks ?? [], project && projectMusic(project));
  return { clipPlaces, clipFrames, recipes };
}
