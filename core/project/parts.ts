import type { CompiledPiece, CompiledProject } from './compile';

/** Whether a piece goes on where the one before it was cut off from it. */
export const goesOn = (before: CompiledPiece | undefined, { partOf, clip, piece }: CompiledPiece): boolean =>
  partOf !== undefined &&
  before?.partOf !== undefined &&
  before.clip.id === clip.id &&
  before.piece.span.in === piece.span.in &&
  before.piece.span.out === piece.span.out &&
  before.partOf.from + before.shown.length === partOf.from;

/** Whether the end of a result leads to its own beginning: it is one piece, or the parts of one, in order. */
export function loopsOf({ pieces }: Pick<CompiledProject, 'pieces'>): boolean {
  if (pieces.length === 1) return true;
  const [first, last] = [pieces[0]?.compiled, pieces[pieces.length - 1]?.compiled];
  return (
    first?.partOf?.from === 0 &&
    pieces.every(({ compiled }, i) => i === 0 || goesOn(pieces[i - 1]!.compiled, compiled)) &&
    last?.partOf?.whole.shown.length === last!.partOf!.from + last!.shown.length
  );
}
