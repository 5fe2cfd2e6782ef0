import { useHotkeys } from 'react-hotkeys-hook';
import { useSaying } from '../notices';
import { isHeld } from '../state/project-store';
import { chordsOf } from './chord';
import type { CommandId } from './commands';
import { over, pressesItself, takesKeys } from './focus';
import { idsOf } from './key-settings';
import { isBound, perform } from './use-commands';

/** What also works from inside a field, and while a sheet is open. */
const ALSO_TYPING: readonly CommandId[] = ['undo', 'redo', 'find'];
const ALSO_IN_SHEETS: readonly CommandId[] = ['undo', 'redo', 'play', 'find'];

/**
 * Hears the keys of the views that are open. They are silent while a dialog or a menu is open, while something is held
 * that edits, and while something is typed; a button that was gone to by keyboard keeps Space and Enter for itself.
 */
export function useKeys(): void {
  const say = useSaying();
  useHotkeys(
    '*',
    (event) => {
      if (event.defaultPrevented || event.isComposing) return;
      const id = chordsOf(event)
        .flatMap((chord) => idsOf(chord))
        .find(isBound);
      if (!id) return;
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
      const told = perform(id, event);
      if (told) say(told);
    },
    { enableOnFormTags: true, enableOnContentEditable: true },
  );
}

/** Nothing but keys: one for the whole page. */
export function Keys() {
  useKeys();
  return null;
}
