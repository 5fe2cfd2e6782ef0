import { keepable } from '@skipback/core/project/keepable';
import type { Project } from '@skipback/core/project/schema';
import { useMemo } from 'react';
import { temporal } from 'zundo';
import { create, useStore } from 'zustand';
import { inputRun } from './input-run';
import { type Where, goWhere, whereNow } from './where';

/** Which of its two versions a project is, and the one under the other letter; null while there is none. */
export interface Versions {
  readonly letter: 'A' | 'B';
  readonly other: Project | null;
}

/** The open project, which of its two versions that is, and the name of the change that made it what it is. */
interface ProjectState extends Versions {
  readonly project: Project | null;
  /** What undo will say it takes back. */
  readonly change: string;
}

const CLOSED: ProjectState = { project: null, change: '', letter: 'A', other: null };

/** The one place of the open project. History is a row of whole documents (they share what did not change). */
export const useProjectStore = create<ProjectState>()(
  temporal((): ProjectState => CLOSED, {
    limit: 500,
    equality: (a, b) => a.project === b.project && a.letter === b.letter,
  }),
);

const history = () => useProjectStore.temporal.getState();

/** Whether there is something to be taken back, and something to be done again. */
export const useCanUndo = (): boolean => useStore(useProjectStore.temporal, (s) => s.pastStates.length > 0);
export const useCanRedo = (): boolean => useStore(useProjectStore.temporal, (s) => s.futureStates.length > 0);

/** Opens a project, with an empty history. */
export function openProject(project: Project, versions?: Versions): void {
  begin({ ...CLOSED, ...versions, project });
}

export function closeProject(): void {
  begin(CLOSED);
}

function begin(state: ProjectState): void {
  held?.end();
  stepped = undefined;
  unrecorded(state);
  history().clear();
}

/** Sets what is shown without a step of the history. */
function unrecorded(state: Partial<ProjectState>): void {
  history().pause();
  useProjectStore.setState(state);
  history().resume();
}

/** Where one was when a document of the history was left, by a change or by going on from it. */
const leftAt = new WeakMap<Project, Where>();

const leave = (): void => {
  const { project } = useProjectStore.getState();
  if (project) leftAt.set(project, whereNow());
};

/** Back to where one was in the document that is shown now. */
const arrive = (): void => {
  const { project } = useProjectStore.getState();
  const where = project && leftAt.get(project);
  if (where) goWhere(where);
};

/** Something held that edits: all it changes is one step of the history. It is over once, by `end` or by `cancel`. */
export interface Gesture {
  /** Lets go: what it changed stays. */
  end(): void;
  /** Lets go and puts back what it changed, and nothing else. */
  cancel(): void;
}

interface Held extends Gesture {
  /** What it began with, once it changed something; and what could be done again then. */
  before: ProjectState | undefined;
  readonly undone: ReturnType<typeof history>['futureStates'];
}

let held: Held | undefined;

/** Whether something is held that edits: nothing else may edit meanwhile. */
export const isHeld = (): boolean => held !== undefined;

/** The change that was made last by stepping through a value, and which document that gave. */
let stepped: { readonly run: number; readonly change: string; readonly project: Project } | undefined;

/**
 * Changes the project by one named action, within what can be kept. All changes of a gesture are one step of the
 * history, and so are those of keys and wheels that go through one value without a rest.
 */
export function act(change: string, action: (project: Project) => Project): void {
  const now = useProjectStore.getState();
  if (!now.project) return;
  const next = keepable(action(now.project), now.project);
  if (next === now.project) return;
  if (held) {
    if (!held.before) leave();
    useProjectStore.setState({ project: next, change });
    if (held.before) return;
    held.before = now;
    return history().pause();
  }
  const run = inputRun(performance.now());
  const goesOn = run !== undefined && stepped?.run === run && stepped.change === change;
  if (goesOn && stepped?.project === now.project) unrecorded({ project: next });
  else {
    leave();
    useProjectStore.setState({ project: next, change });
  }
  stepped = run === undefined ? undefined : { run, change, project: next };
}

/**
 * Goes to the other version; the first time it is a copy of this one. It is a step of the history like any other, and
 * going back and forth adds no more than one. Gives the letter that is shown then.
 */
export function flip(): 'A' | 'B' {
  held?.end();
  const { project, letter, other } = useProjectStore.getState();
  if (!project) return letter;
  const to = letter === 'A' ? 'B' : 'A';
  const undoes = (entry: Partial<ProjectState> | undefined) =>
    entry?.letter === to &&
    entry.project === (other ?? project) &&
    (entry.other ?? entry.project) === project;
  const { pastStates, futureStates } = history();
  if (undoes(pastStates.at(-1))) stepHistory(-1);
  else if (undoes(futureStates.at(-1))) stepHistory(1);
  else {
    leave();
    useProjectStore.setState({ project: other ?? project, other: project, letter: to, change: `show ${to}` });
  }
  return to;
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
        useProjectStore.setState(before);
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
  readonly letter: 'A' | 'B';
}

interface History {
  /** Oldest first. */
  readonly entries: readonly HistoryEntry[];
  /** The place of the present among them. */
  readonly present: number;
}

function joined(
  { pastStates, futureStates }: Pick<ReturnType<typeof history>, 'pastStates' | 'futureStates'>,
  { project, change, letter }: ProjectState,
): History {
  const whole = [...pastStates, { project, change, letter }, ...futureStates.toReversed()];
  const entries = whole.flatMap((e) =>
    e.project ? [{ project: e.project, change: e.change ?? '', letter: e.letter ?? 'A' }] : [],
  );
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
  if (by === 0) return;
  leave();
  if (by < 0) history().undo(-by);
  else history().redo(by);
  arrive();
}

/** Takes the last change back; says which, or undefined when there is none. */
export function undo(): string | undefined {
  held?.end();
  if (history().pastStates.length === 0) return undefined;
  const { change } = useProjectStore.getState();
  stepHistory(-1);
  return change;
}

/** Does the change taken back last again; says which. */
export function redo(): string | undefined {
  held?.end();
  if (history().futureStates.length === 0) return undefined;
  stepHistory(1);
  return useProjectStore.getState().change;
}
