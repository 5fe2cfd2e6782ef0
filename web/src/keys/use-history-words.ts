import { useSaying } from '../notices';
import { redo, undo } from '../state/project-store';

/** Undo and redo as keys and buttons do them in every view: they say what they took back or did again. */
export function useHistoryWords(): { readonly undo: () => void; readonly redo: () => void } {
  const say = useSaying();
  const go = (words: string, take: () => string | undefined) => {
    const change = take();
    say(change === undefined ? `Nothing to ${words.toLowerCase()}` : `${words}: ${change}`);
  };
  return { undo: () => go('Undo', undo), redo: () => go('Redo', redo) };
}
