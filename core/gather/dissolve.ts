import { frameAfter } from '../beats/music';
import { isInBeats } from '../places/place';
import { resolvePlace } from '../places/resolve';
import { LONGEST_DISSOLVE } from '../project/schema';
import { framesBefore } from '../time/units';
import type { CompiledPiece, CompiledProject } from '../project/compile';
import { runOn } from './gathers';

/** A join at which one piece runs into the next: result frames [first, end), `at` is the join itself. */
export interface Dissolve {
  readonly at: number;
  readonly first: number;
  readonly end: number;
  readonly before: CompiledPiece;
  readonly after: CompiledPiece;
  /** Frames that were asked for: more than there are where a piece is too short. */
  readonly wanted: number;
  /** Pictures for which the clip of the piece before, or of the one after, has no frame left. */
  readonly heldBefore: number;
  readonly heldAfter: number;
}

/** The length of the dissolve a piece begins with, in frames; 0 where it is in beats and there are none. */
export function dissolveFrames({ piece, music, path, table, clip }: CompiledPiece): number {
  const { dissolve } = piece;
  if (typeof dissolve === 'number') return Math.round(dissolve);
  if (!isInBeats(dissolve)) {
    const [at = 0] = resolvePlace(dissolve.until, { path, table, marks: clip.marks, music }).at;
    return Math.min(LONGEST_DISSOLVE, Math.max(0, 2 * framesBefore(at)));
  }
  return music && music.beats.length > 1 ? Math.max(0, Math.round(frameAfter(music, dissolve.beats))) : 0;
}

/**
 * The dissolves of a row of pieces: centred on the joins (of an odd number the later part is the longer), no longer
 * than the pieces are. The result stays as long as it is: both sides run on beyond what they show.
 */
export function dissolvesOf(pieces: CompiledProject['pieces']): Dissolve[] {
  const dissolves: Dissolve[] = [];
  let taken = 0;
  pieces.forEach(({ startFrame: at, compiled: after }, i) => {
    const before = pieces[i - 1]?.compiled;
    const wanted = before ? dissolveFrames(after) : 0;
    const earlier = Math.min(Math.floor(wanted / 2), (before?.shown.length ?? 0) - taken);
    const later = Math.min(wanted - Math.floor(wanted / 2), after.shown.length);
    taken = wanted > 0 ? later : 0;
    if (!before || earlier + later <= 0) return;
    const held = (piece: CompiledPiece, by: readonly number[]) =>
      by.filter((k) => runOn(piece, k, false).held).length;
    dissolves.push({
      ...{ at, first: at - earlier, end: at + later, before, after, wanted },
      heldBefore: held(
        before,
        Array.from({ length: later }, (_, k) => k + 1),
      ),
      heldAfter: held(
        after,
        Array.from({ length: earlier }, (_, k) => -1 - k),
      ),
    });
  });
  return dissolves;
}

/** How much of a frame's picture is the later piece's, 0 to 1: a half at the join. */
export const laterShare = ({ first, end }: Dissolve, frame: number): number =>
  (frame - first + 0.5) / (end - first);
