import { gathersOf } from '@skipback/core/gather/gathers';
import { wholeFrame } from '@skipback/core/gather/gather';
import { looksOfPiece } from '@skipback/core/looks/resolve';
import { type CompiledPiece, compilePiece } from '@skipback/core/project/compile';
import { putOnPiece, withPut } from '@skipback/core/project/recipe-actions';
import type { Recipe } from '@skipback/core/recipe/recipe';
import { toNumber } from '@skipback/core/time/rational';
import { freshId } from '../state/ids';
import type { LoadedClip } from '../state/library';
import { type SmallFrame, framesOfSmall, smallFrame } from '../variations/small-frames';

/** What recipes are shown on: a piece, and its clip. */
export interface ShownOn {
  readonly piece: CompiledPiece;
  readonly clip: LoadedClip;
}

/** Pictures a second of a small loop, and how long one is at most, seconds. */
const PREVIEW_HZ = 15;
const LONGEST_S = 7;

/** A recipe as it would be on a piece: its pictures, so many a second. */
export interface Preview {
  readonly frames: readonly SmallFrame[];
  readonly tables: Readonly<Record<string, string>>;
  /** The source frames it needs. */
  readonly sources: readonly number[];
  readonly hz: number;
  /** Its thread: source time at evenly spaced result times, both 0 to 1. */
  readonly shape: readonly number[];
}

/** The piece that putting a recipe on it would make. */
export function pieceWith(recipe: Recipe, { piece, clip }: ShownOn): CompiledPiece {
  const put = putOnPiece(recipe, piece, 'instead', { knows: () => false, newId: freshId });
  return compilePiece(
    withPut(piece.piece, put, 'instead'),
    piece.clip,
    clip.record.facts.table,
    piece.path.rate,
    piece.music,
    piece.sizes,
  );
}

/** Points that a thread is drawn of. */
const POINTS = 28;

function shapeOf(shown: ArrayLike<number>): number[] {
  const at = Array.from(
    { length: POINTS },
    (_, i) => shown[Math.round((i / (POINTS - 1)) * (shown.length - 1))]!,
  );
  const [low, high] = [Math.min(...at), Math.max(...at)];
  return at.map((v) => (high > low ? (v - low) / (high - low) : 0.5));
}

/** Works out the small loop of a recipe. */
export function previewOf(recipe: Recipe, on: ShownOn): Preview {
  const compiled = pieceWith(recipe, on);
  const rateHz = toNumber(compiled.path.rate);
  const every = Math.max(1, Math.round(rateHz / PREVIEW_HZ));
  const gathers = gathersOf(compiled, true);
  const { drawn, tables } = looksOfPiece(compiled, true);
  const count = Math.min(compiled.shown.length, Math.round(LONGEST_S * rateHz));
  const frames: SmallFrame[] = [];
  for (let i = 0; i < count; i += every)
    frames.push(smallFrame(gathers?.[i] ?? wholeFrame(compiled.shown[i]!), drawn[i] ?? []));
  const sources = [...new Set(frames.flatMap(framesOfSmall))];
  const shape = shapeOf(compiled.shown);
  return { frames, tables: Object.fromEntries(tables), sources, hz: rateHz / every, shape };
}
