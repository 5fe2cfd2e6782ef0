import { meanRateHz } from '../clip/frame-table';
import { isInBeats } from '../places/place';
import { inFrames } from '../moves/move';
import { type ChainStep, moveById, valuesOf } from '../moves/registry';
import type { Place } from '../places/place';
import type { CompiledPiece } from '../project/compile';
import type { Project } from '../project/schema';
import { MADE_KINDS } from '../sound/made/kinds';
import { toNumber } from '../time/rational';
import { type Recipe, RECIPE_VERSION, type RecipeStep } from './recipe';

/** What a length or a place is meant in. */
export type Meant = 'frames' | 'share' | 'beats';

/** One value of a chain that can be meant in several ways. */
export interface LengthValue {
  readonly stepId: string;
  readonly key: string;
  /** Its words: `Hold, at`. */
  readonly words: string;
  /** Frames it comes to now; undefined where it is in beats and there are none. */
  readonly frames: number | undefined;
  readonly beats: number | undefined;
  /** Frames that come in. */
  readonly incoming: number;
  /** How it is kept unless something else is said. */
  readonly meant: Meant;
}

/** Lengths and places of a piece's chain: beats stay beats, a place is a share of what comes in, a length its frames. */
export function lengthsOf(piece: CompiledPiece): LengthValue[] {
  return piece.piece.chain.flatMap((step, i): LengthValue[] => {
    const move = moveById(step.move);
    if (!move) return [];
    const incoming = piece.steps[i]?.incoming ?? 0;
    const values = valuesOf(step);
    return move.fields
      .filter(inFrames)
      .filter((f) => f.when?.(values, step.zone !== undefined) ?? true)
      .map((f) => {
        const value = values[f.key];
        const beats = isInBeats(value) ? value.beats : undefined;
        return {
          stepId: step.id,
          key: f.key,
          words: `${move.name}: ${f.label.toLowerCase()}`,
          frames: typeof value === 'number' ? value : undefined,
          beats,
          incoming,
          meant: beats !== undefined ? 'beats' : f.kind === 'place' && incoming > 0 ? 'share' : 'frames',
        };
      });
  });
}

/** A name for one value among `Meant` choices. */
export const lengthKey = ({ stepId, key }: Pick<LengthValue, 'stepId' | 'key'>): string => `${stepId} ${key}`;

/** Seconds of a beat where a piece lies; undefined without beats. */
export function beatSecondsOf(
  { music }: Pick<CompiledPiece, 'music'>,
  project: Pick<Project, 'rate'>,
): number | undefined {
  const beats = music?.beats ?? [];
  if (beats.length < 2) return undefined;
  const at = Math.min(
    beats.length - 2,
    Math.max(
      0,
      beats.findIndex((b) => b >= 0),
    ),
  );
  return (beats[at + 1]! - beats[at]!) / toNumber(project.rate);
}

/**
 * The recipe of a piece: its moves, looks and how its pictures are made, with each length as it is meant. `meant` says what
 * is meant otherwise than `lengthsOf` has it, by `lengthKey`.
 */
export function takeRecipe(
  piece: CompiledPiece,
  project: Project,
  name: string,
  meant: Readonly<Record<string, Meant>> = {},
): Recipe {
  const beatS = beatSecondsOf(piece, project);
  const beatFrames = beatS === undefined ? undefined : beatS * toNumber(project.rate);
  const lengths = lengthsOf(piece);
  const { span, chain, looks, between, shutter, steady } = piece.piece;
  const { table, sizes, clip } = piece;
  const kept = (step: ChainStep, i: number): RecipeStep => {
    const values = valuesOf(step);
    for (const length of lengths.filter((l) => l.stepId === step.id)) {
      const value = asMeant(length, meant[lengthKey(length)] ?? length.meant, beatFrames);
      if (value !== undefined) values[length.key] = value;
    }
    const incoming = piece.steps[i]?.incoming ?? 0;
    // Plain frames are meant as a share; every other place stays what it is.
    const share = (at: Place): Place =>
      typeof at === 'number' && incoming > 0 ? { share: Math.min(1, at / incoming) } : at;
    const zone =
      step.zone && 'from' in step.zone ? { from: share(step.zone.from), to: share(step.zone.to) } : step.zone;
    return {
      ...{ id: step.id, move: step.move, on: step.on, values, lists: 'along' },
      ...(zone && { zone }),
      ...(incoming > 0 && { incoming }),
    };
  };
  return {
    format: 'skip-back-recipe',
    version: RECIPE_VERSION,
    name: name.trim().slice(0, 200) || 'Recipe',
    says: '',
    madeOn: {
      clipId: clip.id,
      span,
      clipHz: meanRateHz(table),
      picture: sizes?.picture ?? project.size,
      frames: Math.max(1, piece.shown.length),
      marks: clip.marks.map(({ name: called, frame, id }) => ({ name: called, frame, id })),
      ...(beatS !== undefined && { beatS }),
    },
    chain: chain.map(kept),
    looks: [...looks],
    between,
    shutter,
    steady,
    sounds: MADE_KINDS.filter((kind) => project.made[kind].on),
  };
}

function asMeant(length: LengthValue, meant: Meant, beatFrames: number | undefined): unknown {
  const { frames, beats, incoming } = length;
  const inFramesNow = frames ?? (beats !== undefined && beatFrames ? beats * beatFrames : undefined);
  if (inFramesNow === undefined || (meant === 'beats' && beats !== undefined)) return undefined;
  if (meant === 'beats') return beatFrames ? { beats: inFramesNow / beatFrames } : undefined;
  if (meant === 'share') return incoming > 0 ? { share: inFramesNow / incoming } : undefined;
  return Math.round(inFramesNow);
}
