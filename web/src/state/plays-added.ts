import { create } from 'zustand';

const KEPT = 'skip-back-plays-added';

function read(): boolean {
  try {
    return localStorage.getItem(KEPT) !== 'no';
  } catch {
    return true;
  }
}

/** Whether a move that is added is played at once; kept in this browser. */
export const usePlaysAdded = create<{ readonly plays: boolean }>(() => ({ plays: read() }));

export function setPlaysAdded(plays: boolean): void {
  usePlaysAdded.setState({ plays });
  try {
    localStorage.setItem(KEPT, plays ? 'yes' : 'no');
  } catch {
    // It holds until the page closes.
  }
}

/** Whether to play what is added now: not for who wants no motion. */
export const playsAdded = (): boolean =>
  usePlaysAdded.getState().plays && !window.matchMedia('(prefers-reduced-motion: reduce)').matches;
