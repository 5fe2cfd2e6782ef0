import { keepable } from '@skipback/core/project/keepable';
import type { Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { temporal } from 'zundo';
import { create, useStore } from 'zustand';

/** The open project and the name of the change that made it what it is. */
interface ProjectState {
  readonly project: Project | null;
  /** What undo will say it takes back. */
  readonly change: string;
}

/** The one place of the open project. History is a row of whole documents (they share what did not change). */
export const useProjectStore = create<ProjectState>()(
  temporal((): ProjectState => ({ project: null, change: '' }), {
    limit: 500,
    equality: (a, b) => a.project === b.project,
  }),
);

const history = () => useProjectStore.temporal.getState();

/** Whether there is something to be taken back, and something to be done again. */
export const useCanUndo = (): boolean => useStore(useProjectStore.temporal, (s) => s.pastStates.length > 0);
export const useCanRedo = (): boolean => useStore(useProjectStore.temporal, (s) => s.futureStates.length > 0);

/** Opens a project, with an empty history. */
export function openProject(project: Project): void {
  held?.end();
  history().pause();
  useProjectStore.setState({ project, change: '' });
  history().resume();
  history().clear();
}

export function closeProject(): void {
  held?.end();
  history().pause();
  useProjectStore.setState({ project: null, change: '' });
  history().resume();
  history().clear();
}

/** Something held that edits: all it changes is one step of the history. It is over once, by `end` or by `cancel`. */
export interface Gesture {
  /** Lets go: what it changed stays. */
  end(): void;
  /** Lets go and puts back what it changed, and nothing else. */
  cancel(): void;
}

interface Held extends Gesture {
  /** The document it began with, once it changed something; and what could be done again then. */
  before: HistoryEntry | undefined;
  readonly undone: ReturnType<typeof history>['futureStates'];
}

let held: Held | undefined;

/** Whether something is held that edits: nothing else may edit meanwhile. */
export const isHeld = (): boolean => held !== undefined;

/** Changes the project by one named action, within what can be kept. Inside a gesture, all changes are one step of history. */
export function act(change: string, action: (project: Project) => Project): void {
  const { project, change: last } = useProjectStore.getState();
  if (!project) return;
  const next = keepable(action(project), project);
  if (next === project) return;
  useProjectStore.setState({ project: next, change });
  if (held && !held.before) {
    held.before = { project, change: last };
    history().pause();
  }
}

/** Begins a gesture; one that was held before is let go. */
export function beginGesture(): Gesture {
  held?.end();
  const mine: Held = {
    before: undefined,
    undone: history().futureStates,
    end: () => {
      if (held !== mine) return;
      held = undefined;
      history().resume();
    },
    cancel: () => {
      if (held !== mine) return;
      const { before, undone } = mine;
      if (before) {
        useProjectStore.setState({ project: before.project, change: before.change });
        const { pastStates } = history();
        useProjectStore.temporal.setState({ pastStates: pastStates.slice(0, -1), futureStates: undone });
      }
      mine.end();
    },
  };
  held = mine;
  return mine;
}

/** One document of the history. */
export interface HistoryEntry {
  readonly project: Project;
  readonly change: string;
}

interface History {
  /** Oldest first. */
  readonly entries: readonly HistoryEntry[];
  /** The place of the present among them. */
  readonly present: number;
}

function joined(
  { pastStates, futureStates }: Pick<ReturnType<typeof history>, 'pastStates' | 'futureStates'>,
  { project, change }: ProjectState,
): History {
  const whole = [...pastStates, { project, change }, ...futureStates.toReversed()];
  const entries = whole.flatMap((e) => (e.project ? [{ project: e.project, change: e.change ?? '' }] : []));
  return { entries, present: pastStates.filter((e) => e.project).length };
}

/** The whole history as it is now. */
export const historyOf = (): History => joined(history(), useProjectStore.getState());

/** The whole history, for what shows it. */
export function useHistory(): History {
  const past = useStore(useProjectStore.temporal);
  const present = useProjectStore();
  return useMemo(() => joined(past, present), [past, present]);
}

/** Goes to another place of the history: `by` changes on, negative back. */
export function stepHistory(by: number): void {
  held?.end();
  if (by < 0) history().undo(-by);
  else if (by > 0) history().redo(by);
}

/** Takes the last change back; says which, or undefined when there is none. */
export function undo(): string | undefined {
  held?.end();
  if (history().pastStates.length === 0) return undefined;
  const { change } = useProjectStore.getState();
  history().undo();
  return change;
}

/** Does the change taken back last again; says which. */
export function redo(): string | undefined {
  held?.end();
  if (history().futureStates.length === 0) return undefined;
  history().redo();
  return useProjectStore.getState().change;
}
