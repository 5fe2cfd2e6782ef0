import { valuesOf } from '../moves/registry';
import { frameCount } from '../clip/frame-table';
import { picturesOf } from '../gather/gathers';
import { shownBy } from '../path/path';
import { kindOf } from '../path/segment';
import type { CompiledPiece } from '../project/compile';
import { percentText } from '../time/entry';
import { type Frame, frame } from '../time/units';
import { everyFrameOncePercent } from './smoothness';

/** Something worth knowing about a piece, in words that say what to do. */
export interface Hint {
  readonly code: 'repeats' | 'no-moves' | 'one-frame';
  readonly text: string;
  /** Result frame of the piece to look at. */
  readonly atFrame: Frame;
  /** A speed, in percent, that would help, and the Speed move that could take it. */
  readonly cure?: { readonly stepId: string; readonly percent: number };
}

/** The longest stretch of a piece in which frames repeat. */
function longestRepeat(piece: CompiledPiece): { atFrame: Frame; frames: number; times: number } | undefined {
  const pictures = picturesOf(piece);
  let best: { atFrame: Frame; frames: number; times: number } | undefined;
  for (const [i, { first, end }] of shownBy(piece.path).entries()) {
    if (end <= first || kindOf(piece.path.segments[i]!) === 'hold') continue;
    const distinct = new Set(pictures.subarray(first, end)).size;
    const times = (end - first) / distinct;
    if (times >= 1.5 && distinct > 1 && (!best || distinct > best.frames))
      best = { atFrame: first, frames: distinct, times };
  }
  return best;
}

/** Hints for a piece, most useful first. */
export function hintsFor(piece: CompiledPiece): Hint[] {
  const hints: Hint[] = [];
  if (piece.piece.span.out - piece.piece.span.in === 1 && frameCount(piece.table) > 1)
    hints.push({
      code: 'one-frame',
      text: 'The span is one frame long: drag its edges apart.',
      atFrame: frame(0),
    });
  const repeat = longestRepeat(piece);
  if (repeat) {
    const clean = everyFrameOncePercent(piece.table, piece.path.rate);
    const times = Number(repeat.times.toFixed(1));
    const speed = piece.piece.chain.find(
      (s) =>
        s.on &&
        s.move === 'speed' &&
        valuesOf(s)['by'] === 'percent' &&
        Number(valuesOf(s)['percent']) < clean,
    );
    hints.push({
      code: 'repeats',
      text: `${repeat.frames} frames repeat ${times}x here: ${percentText(clean)} is this clip's cleanest slow speed.`,
      atFrame: repeat.atFrame,
      ...(speed && { cure: { stepId: speed.id, percent: clean } }),
    });
  }
  if (piece.piece.chain.length === 0)
    hints.push({
      code: 'no-moves',
      text: 'Point at a move to see what it would do to this span; click it to add it.',
      atFrame: frame(0),
    });
  return hints;
}
