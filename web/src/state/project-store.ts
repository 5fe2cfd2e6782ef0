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
  history().pause();
  useProjectStore.setState({ project, change: '' });
  history().resume();
  history().clear();
}

export function closeProject(): void {
  history().pause();
  useProjectStore.setState({ project: null, change: '' });
  history().resume();
  history().clear();
}

let gesture: 'none' | 'begun' | 'recorded' = 'none';

/** Changes the project by one named action, within what can be kept. Inside a gesture, all changes are one step of history. */
export function act(change: string, action: (project: Project) => Project): void {
  const { project } = useProjectStore.getState();
  if (!project) return;
  const next = keepable(action(project), project);
  if (next === project) return;
  useProjectStore.setState({ project: next, change });
  if (gesture === 'begun') {
    gesture = 'recorded';
    history().pause();
  }
}

/** What could be done again before a gesture began. */
let undoneBefore: ReturnType<typeof history>['futureStates'] = [];

export function beginGesture(): void {
  if (gesture !== 'none') return;
  gesture = 'begun';
  undoneBefore = history().futureStates;
}

export function endGesture(): void {
  gesture = 'none';
  history().resume();
}

/** Ends the gesture and puts back what it changed, as if it had never begun. */
export function cancelGesture(): void {
  const { pastStates } = history();
  const before = pastStates[pastStates.length - 1];
  if (gesture === 'recorded' && before) {
    useProjectStore.setState({ project: before.project ?? null, change: before.change ?? '' });
    useProjectStore.temporal.setState({ pastStates: pastStates.slice(0, -1), futureStates: undoneBefore });
  }
  endGesture();
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
  if (by < 0) history().undo(-by);
  else if (by > 0) history().redo(by);
}

/** Takes the last change back; says which, or undefined when there is none. */
export function undo(): string | undefined {
  if (history().pastStates.length === 0) return undefined;
  const { change } = useProjectStore.getState();
  history().undo();
  return change;
}

/** Does the change taken back last again; says which. */
export function redo(): string | undefined {
  if (history().futureStates.length === 0) return undefined;
  history().redo();
  return useProjectStore.getState().change;
}
