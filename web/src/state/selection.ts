import { create } from 'zustand';

/** What is selected: one selection for the strips, the threads, the chain and the keys. */
export interface Selection {
  readonly pieceId: string | null;
  /** The selected segment, by its place in the selected piece. */
  readonly segment: number | null;
  readonly stepId: string | null;
  /** The selected look, whose values are open. */
  readonly lookId: string | null;
  /** The value of the selected look whose driver is looked at. */
  readonly drivenKey: string | null;
  /** What was selected last, for the key of variations. */
  readonly selectedLast: 'move' | 'look';
  /** The clip on the source strip, where it is not the selected piece's. */
  readonly clipId: string | null;
}

export const NOTHING: Selection = {
  pieceId: null,
  segment: null,
  stepId: null,
  lookId: null,
  drivenKey: null,
  selectedLast: 'move',
  clipId: null,
};

export const useSelection = create<Selection>(() => NOTHING);
export const select = (change: Partial<Selection>): void => useSelection.setState(change);

/** Selects a piece, and one of its segments or none. */
export function selectPiece(pieceId: string | null, segment: number | null = null): void {
  const now = useSelection.getState();
  if (now.pieceId === pieceId && now.segment === segment) return;
  select({ pieceId, segment, ...(now.pieceId !== pieceId && { stepId: null, clipId: null }) });
}

/** What is selected when one of a row is taken away: the one after it, or before it where it was the last. */
export function neighbour(ids: readonly string[], gone: string): string | null {
  const at = ids.indexOf(gone);
  return ids[at + 1] ?? ids[at - 1] ?? null;
}
