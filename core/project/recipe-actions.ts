import { type FrameTable, frameCount, meanRateHz, readAt } from '../clip/frame-table';
import { type Put, putRecipe } from '../recipe/put';
import { type Recipe, spanSeconds } from '../recipe/recipe';
import { MADE_WORDS } from '../sound/made/kinds';
import type { CompiledPiece, CompiledProject } from './compile';
import { type Clip, type Piece, type Project, type Span, pieceOf } from './schema';

/** Whether a recipe comes instead of a piece's moves and looks, or after them. */
export type PutHow = 'instead' | 'after';

/** What a recipe is put on: a piece, or a clip, of which a piece is made at the end of the row. */
export type Target = { readonly pieceId: string } | { readonly clipId: string };

/** What had to give on one target. */
export interface PutSaid {
  readonly pieceId: string;
  readonly clipName: string;
  readonly sentences: readonly string[];
}

/** What putting needs to know of the project. */
export interface PutWith {
  /** The project worked out. */
  compile(project: Project): CompiledProject;
  /** A clip's own frames; undefined where they are not known. */
  table(clipId: string): FrameTable | undefined;
  newId(): string;
}

/** The span a recipe takes of a clip: as long as it is made for, around the first mark or in the middle. */
export function spanFor(recipe: Recipe, clip: Clip, table: FrameTable): Span {
  const count = frameCount(table);
  const length = Math.max(
    1,
    Math.min(count, Math.round(spanSeconds(recipe) * meanRateHz(readAt(table, clip.readAt)))),
  );
  const middle = clip.marks[0]?.frame ?? count / 2;
  const first = Math.max(0, Math.min(count - length, Math.round(middle - length / 2)));
  return { in: first, out: first + length };
}

/** A recipe worked out for a piece. */
export function putOnPiece(
  recipe: Recipe,
  on: CompiledPiece,
  how: PutHow,
  { knows, newId }: { knows(clipId: string): boolean; newId(): string },
): Put {
  return putRecipe(recipe, {
    clipId: on.clip.id,
    span: on.piece.span,
    table: on.table,
    marks: on.clip.marks,
    tracks: on.clip.tracks,
    picture: on.sizes?.picture,
    music: on.music,
    path: how === 'after' ? on.path : on.base,
    knows,
    newId,
  });
}

/** The piece with a recipe on it. */
export function withPut(piece: Piece, put: Put, how: PutHow): Piece {
  const { chain, looks, between, shutter, steady } = put;
  if (how === 'instead') return { ...piece, chain: [...chain], looks: [...looks], between, shutter, steady };
  return {
    ...piece,
    chain: [...piece.chain, ...chain],
    looks: [...piece.looks, ...looks],
    between: between === 'repeat' ? piece.between : between,
    shutter: shutter === 0 ? piece.shutter : shutter,
    steady: steady ?? piece.steady,
  };
}

/**
 * Puts a recipe on pieces, and on clips as new pieces. One after the other: a piece that becomes longer moves what comes
 * after it along the song. Gives the project and what had to give on each.
 */
export function putOn(
  project: Project,
  recipe: Recipe,
  targets: readonly Target[],
  how: PutHow,
  known: PutWith,
): { readonly project: Project; readonly said: readonly PutSaid[] } {
  const said: PutSaid[] = [];
  let now = project;
  for (const target of targets) {
    const sentences: string[] = [];
    let pieceId: string;
    if ('pieceId' in target) pieceId = target.pieceId;
    else {
      const clip = now.clips.find((c) => c.id === target.clipId);
      const table = known.table(target.clipId);
      if (!clip || !table) continue;
      pieceId = known.newId();
      const span = spanFor(recipe, clip, table);
      const hasS = (span.out - span.in) / meanRateHz(readAt(table, clip.readAt));
      if (hasS < 0.98 * spanSeconds(recipe))
        sentences.push(
          `The clip has ${hasS.toFixed(1)} of the ${spanSeconds(recipe).toFixed(1)} seconds it is made for: all of it is used.`,
        );
      now = { ...now, pieces: [...now.pieces, pieceOf({ id: pieceId, clipId: clip.id, span, chain: [] })] };
    }
    const compiled = known.compile(now).pieces.find((p) => p.compiled.piece.id === pieceId)?.compiled;
    if (!compiled) continue;
    const clips = new Set(now.clips.map((c) => c.id));
    const put = putOnPiece(recipe, compiled, how, { knows: (id) => clips.has(id), newId: known.newId });
    now = { ...now, pieces: now.pieces.map((p) => (p.id === pieceId ? withPut(p, put, how) : p)) };
    said.push({ pieceId, clipName: compiled.clip.name, sentences: [...sentences, ...put.said] });
  }
  return { project: said.length === 0 ? project : withSounds(now, recipe), said };
}

/** The project with the sounds a recipe needs switched on. */
function withSounds(project: Project, { sounds }: Recipe): Project {
  const missing = sounds.filter((kind) => !project.made[kind].on);
  if (missing.length === 0) return project;
  const made = { ...project.made };
  for (const kind of missing) made[kind] = { ...made[kind], on: true };
  return { ...project, made };
}

/** The sounds that a recipe switches on in a project, in words. */
export const soundsSwitchedOn = (project: Project, { sounds }: Recipe): readonly string[] =>
  sounds.filter((kind) => !project.made[kind].on).map((kind) => MADE_WORDS[kind].plural);
