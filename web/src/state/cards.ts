import { setOpen, useOpen } from './open';
import { type Selection, select, useSelection } from './selection';

type Kind = Selection['selectedLast'];

/** Whether a card's values are shown: it is the one selected last, and was not folded. */
export function useCardOpen(kind: Kind, id: string): boolean {
  const selected = useSelection(
    (s) => s.selectedLast === kind && (kind === 'move' ? s.stepId : s.lookId) === id,
  );
  const shut = useOpen((s) => s.shut === id);
  return selected && !shut;
}

/** Selects a move or look and shows its values: one that was added, or that is gone to. */
export function openCard(kind: Kind, id: string): void {
  setOpen({ shut: null, inside: null });
  select({ ...(kind === 'move' ? { stepId: id } : { lookId: id }), selectedLast: kind });
}

/** Goes to the first value of a card, once it is drawn. */
export const focusFirstValue = (id: string): void =>
  void requestAnimationFrame(() =>
    document
      .querySelector<HTMLElement>(
        `[data-card="${CSS.escape(id)}"] :is(input:not([type="checkbox"]):not([type="file"]), select)`,
      )
      ?.focus({ preventScroll: true }),
  );

/** Opens a card, and folds the one that was open; or folds it. */
export function toggleCard(kind: Kind, id: string, open: boolean): void {
  openCard(kind, id);
  if (open) setOpen({ shut: id });
}
