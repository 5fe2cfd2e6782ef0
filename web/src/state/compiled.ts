import { frame } from '@skipback/core/time/units';
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
import { type FrameTable, readAt } from '@skipback/core/clip/frame-table';
import { type Brought, type BroughtClip, NOTHING_BROUGHT, broughtId } from '@skipback/core/looks/brought';
import { layersOf } from '@skipback/core/looks/draw';
import { type Recipes, recipesOf } from '@skipback/core/looks/recipes';
import { treatmentById } from '@skipback/core/looks/registry';
import { musicFrom } from '@skipback/core/beats/music';
import { type TimePath, sampleFrames } from '@skipback/core/path/path';
import type { Clip, Piece, Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import type { ClipSource } from '@skipback/media/frames/clip-row';
import { type ClipState, type LoadedClip, tableOf } from './library';

interface Remembered {
  readonly clip: Clip;
  readonly table: FrameTable;
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

const known = new WeakMap<readonly ClipState[], Brought>();

/** The project's clips as looks know them. */
function broughtOf(clips: readonly ClipState[]): Brought {
  let brought = known.get(clips);
  if (!brought) {
    const byId = new Map(
      clips.flatMap(({ clip, loaded }): [string, BroughtClip][] => {
        if (!loaded) return [];
        const { width, height, clear, hasSound } = loaded.record.facts;
        const table = readAt(loaded.record.facts.table, clip.readAt);
        const { name, framing } = clip;
        return [
          [clip.id, { name, framing, table, size: { width, height }, clear: clear === true, hasSound }],
        ];
      }),
    );
    known.set(clips, (brought = (id) => byId.get(id)));
  }
  return brought;
}

/** Whether some of its looks show other clips. */
const bringsIn = ({ looks }: Piece): boolean =>
  looks.some(
    (l) =>
      l.matte?.clip ||
      treatmentById(l.look)
        ?.brings?.({ clip: '', ...l.values })
        .some(Boolean),
  );

/** A project worked out, each piece only when it changed. */
export function compileWith(project: Project, clips: readonly ClipState[]): CompiledProject {
  const music = projectMusic(project);
  const everything = broughtOf(clips);
  const compile = (piece: Piece, clip: Clip, startFrame: number) => {
    const state = clips.find((c) => c.clip.id === clip.id);
    const table = tableOf(state);
    if (!table) return undefined;
    const { width, height } = state!.loaded!.record.facts;
    const { song, rate } = project;
    const known = remembered.get(piece);
    const sizes = { picture: { width, height }, frame: project.size };
    const brought = bringsIn(piece) ? everything : NOTHING_BROUGHT;
    const same =
      known?.clip === clip &&
      known.table === table &&
      known.rate === rate &&
      known.compiled.brought === brought &&
      sameSizes(known.sizes, sizes);
    const stays = known?.song === song && known.startFrame === startFrame;
    if (same && stays) return known.compiled;
    const here = music && musicFrom(music, startFrame);
    const moved = same && !listens(piece) ? known.compiled : undefined;
    const compiled =
      moved && (here || moved.music)
        ? { ...moved, music: here }
        : (moved ?? compilePiece(piece, clip, table, rate, here, sizes, brought));
    remembered.set(piece, { clip, table, rate, sizes, song, startFrame, compiled });
    return compiled;
  };
  return compileProject(project, compile, everything);
}

/** The open project worked out. */
export function useCompiled(project: Project, clips: readonly ClipState[]): CompiledProject {
  return useMemo(() => compileWith(project, clips), [project, clips]);
}

/** One piece as the whole result, on another path than its own: to be looked at, not kept. */
export function resultOfPiece(piece: CompiledPiece, path: TimePath): CompiledProject {
  const shown = sampleFrames(path, piece.table);
  return {
    pieces: [{ startFrame: frame(0), compiled: { ...piece, path, shown, joins: [] } }],
    missing: [],
    beyond: [],
    totalFrames: frame(shown.length),
    brought: piece.brought,
  };
}

/** Clip places and frames of the whole result, and what is drawn on them, as workers take them. */
export interface ResultArrays {
  readonly clipPlaces: Int32Array;
  readonly clipFrames: Int32Array;
  readonly recipes: Recipes;
}

const FRAMINGS = ['fit', 'fill', 'centre'] as const;

/**
 * What a result is read from: the clips in their order, those that pieces hold by a track, and those that looks bring in,
 * in every framing, so that a change of that reads nothing anew.
 */
function sourcesOf(
  compiled: CompiledProject,
  clips: readonly LoadedClip[],
  { stacks }: Recipes,
): readonly ClipSource[] {
  const held = compiled.pieces.flatMap(({ compiled: piece }) => {
    const own = piece.placing && clips.find((c) => c.clip.id === piece.clip.id);
    if (!own || !piece.placing) return [];
    const { maps, edges, key } = piece.placing;
    return [{ ...own.source, clipId: sourceIdOf(piece), placing: { maps, edges, key } }];
  });
  const named = new Set(stacks.flatMap((stack) => stack.flatMap(layersOf).map((l) => l.of)));
  const brought = clips.flatMap(({ clip, source, record }) => {
    const as = (clear: boolean) =>
      FRAMINGS.map((framing) => ({ ...source, clipId: broughtId(clip.id, framing, clear), framing, clear }));
    const all = [...as(false), ...(record.facts.clear ? as(true) : [])];
    return all.some((s) => named.has(s.clipId)) ? all : [];
  });
  return [...clips.map((c) => c.source), ...held, ...brought];
}

/** The whole result as workers take it, and what it is read from; `project` says what its own looks are, without it there are none. */
export function resultOf(
  compiled: CompiledProject,
  clips: readonly LoadedClip[],
  project?: Project,
): { readonly arrays: ResultArrays; readonly sources: readonly ClipSource[] } {
  const { recipes } = recipesOf(compiled, project?.looks ?? [], project && projectMusic(project));
  const sources = sourcesOf(compiled, clips, recipes);
  const places = new Map(sources.map((s, i) => [s.clipId, i]));
  const clipPlaces = new Int32Array(compiled.totalFrames);
  const clipFrames = new Int32Array(compiled.totalFrames);
  for (const { startFrame, compiled: piece } of compiled.pieces) {
    clipPlaces.fill(places.get(sourceIdOf(piece)) ?? -1, startFrame, startFrame + piece.shown.length);
    clipFrames.set(piece.shown, startFrame);
  }
  return { arrays: { clipPlaces, clipFrames, recipes }, sources };
}
