import { useHotkeys } from 'react-hotkeys-hook';
import { isHeld } from '../state/project-store';
import { chordsOf } from './chord';
import { over, pressesItself, takesKeys } from './focus';
import { KEYS, type KeyId } from './keys';

export type KeyHands = Partial<Record<KeyId, (event: KeyboardEvent) => void>>;

const idOf = new Map<string, KeyId>(
  Object.entries(KEYS).flatMap(([id, { keys }]) => keys.split(', ').map((k) => [k, id as KeyId] as const)),
);

/** What also works from inside a field, and while a sheet is open. */
const ALSO_TYPING: readonly KeyId[] = ['undo', 'redo'];
const ALSO_IN_SHEETS: readonly KeyId[] = ['undo', 'redo', 'play'];

/**
 * Binds the keys of a view. They are silent while a dialog or a menu is open, while something is held that edits, and
 * while something is typed; a button that was gone to by keyboard keeps Space and Enter for itself.
 */
export function useKeys(hands: KeyHands): void {
  useHotkeys(
    '*',
    (event) => {
      if (event.defaultPrevented || event.isComposing) return;
      const id = chordsOf(event)
        .map((chord) => idOf.get(chord))
        .find((found) => found !== undefined && hands[found]);
      const hand = id && hands[id];
      if (!hand) return;
      const typing = takesKeys(event.target);
      if (typing && !ALSO_TYPING.includes(id)) return;
      if ((event.key === ' ' || event.key === 'Enter') && pressesItself(event.target)) return;
      const lies = over();
      if (isHeld() || lies === 'dialog' || (lies === 'sheet' && !ALSO_IN_SHEETS.includes(id))) {
        // Or the browser would take back what was typed last, wherever that was.
        if (ALSO_TYPING.includes(id) && !typing) event.preventDefault();
        return;
      }
      event.preventDefault();
      hand(event);
    },
    { enableOnFormTags: true, enableOnContentEditable: true },
  );
}
