import { frame } from '@skipback/core/time/units';
import {
  type PutHow,
  type PutSaid,
  type Target,
  putOn,
  soundsSwitchedOn,
} from '@skipback/core/project/recipe-actions';
import type { Look } from '@skipback/core/looks/look';
import { treatmentById } from '@skipback/core/looks/registry';
import type { Project } from '@skipback/core/project/schema';
import type { Recipe } from '@skipback/core/recipe/recipe';
import { darkOnLight } from '../state/clip-light';
import { compileWith } from '../state/compiled';
import { freshId } from '../state/ids';
import { type ClipState, tableOf } from '../state/library';
import { selectPiece } from '../state/selection';
import { act, useProjectStore } from '../state/project-store';
import { transport } from '../state/transport';

/** What came of putting a recipe on: what had to give on each target, and sounds that are on now. */
export interface PutOutcome {
  readonly said: readonly PutSaid[];
  readonly sounds: readonly string[];
}

/** What putting a recipe on is called in the history. */
export const changeOf = (recipe: Recipe): string => `put on ${recipe.name}`;

/** Puts a recipe on pieces and clips of the open project, as one change, and plays the first of them. */
export function putOnTargets(
  recipe: Recipe,
  targets: readonly Target[],
  how: PutHow,
  clips: readonly ClipState[],
): PutOutcome {
  let said: readonly PutSaid[] = [];
  let sounds: readonly string[] = [];
  act(changeOf(recipe), (project) => {
    const put = putOn(project, recipe, targets, how, {
      compile: (p) => compileWith(p, clips),
      table: (id) => tableOf(clips.find((c) => c.clip.id === id)),
      newId: freshId,
    });
    said = put.said;
    sounds = said.length > 0 ? soundsSwitchedOn(project, recipe) : [];
    return suited(put.project, new Set(said.map((s) => s.pieceId)));
  });
  const first = said[0]?.pieceId;
  if (first !== undefined) watch(first, clips);
  return { said, sounds };
}

/** Looks that were just put on, with values that suit their clips where the recipe leaves them open. */
function suited(project: Project, pieceIds: ReadonlySet<string>): Project {
  const suits = (look: Look, mediaId: string | undefined): Look => {
    const onLight = treatmentById(look.look)?.onLight;
    if (!onLight || mediaId === undefined || !darkOnLight(mediaId)) return look;
    return { ...look, values: { ...onLight, ...look.values } };
  };
  const mediaOf = (clipId: string) => project.clips.find((c) => c.id === clipId)?.mediaId;
  return {
    ...project,
    pieces: project.pieces.map((piece) =>
      pieceIds.has(piece.id)
        ? { ...piece, looks: piece.looks.map((look) => suits(look, mediaOf(piece.clipId))) }
        : piece,
    ),
  };
}

/** Selects a piece and plays from where it begins. */
function watch(pieceId: string, clips: readonly ClipState[]): void {
  selectPiece(pieceId);
  const { project } = useProjectStore.getState();
  const startFrame =
    (project &&
      compileWith(project, clips).pieces.find((p) => p.compiled.piece.id === pieceId)?.startFrame) ??
    frame(0);
  // Once the page has given the new result to the picture.
  setTimeout(() => {
    transport.seekResult(startFrame);
    transport.play(1);
  });
}

/** Everything that is to be said after putting, in one text. */
export function outcomeText(name: string, { said, sounds }: PutOutcome): string {
  const sentences = said.flatMap((s) => s.sentences);
  const on = sounds.length > 0 ? [`${sounds.join(' and ')} are switched on.`] : [];
  const where = said.length === 1 ? said[0]!.clipName : `${said.length} pieces`;
  return [`${name} is on ${where}.`, ...sentences, ...on.map((s) => s[0]!.toUpperCase() + s.slice(1))].join(
    ' ',
  );
}
