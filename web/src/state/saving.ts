import type { Project } from '@skipback/core/project/schema';
import { forgetUnsaved, noteUnsaved } from '@skipback/media/storage/journal';
import { putProject, writeProject } from '@skipback/media/storage/project-records';
import { create } from 'zustand';
import { type Versions, useProjectStore } from './project-store';
import { whyNotKept } from './shelve';
import { type SaveState, Saver, type SaverPorts } from './saver';

interface Saving {
  readonly state: SaveState;
  /** Why it is refused. */
  readonly why: ReturnType<typeof whyNotKept> | undefined;
}

/** Whether the open project is safe. */
export const useSaving = create<Saving>(() => ({ state: 'saved', why: undefined }));

/** Result length as last worked out, the picture for the shelf and its result frame: kept with the project. */
export const shelfFacts = {
  ...{ lengthFrames: 0, at: 0, poster: null as Blob | null },
  /** Whether the picture is of when the project was left last, and nothing newer was seen. */
  fromBefore: false,
};

/** Of a state of the project that is to be written: which version it is, and the other one. */
const versions = new WeakMap<Project, Versions>();

/** What of all that is kept with the project. */
const kept = (project: Project) => {
  const { lengthFrames, poster, at } = shelfFacts;
  return { lengthFrames, poster, at, ...versions.get(project) };
};

async function write(project: Project, revision: number) {
  const written = await writeProject(project, revision, kept(project));
  // Taken off the shelf elsewhere while it was worked on here: what is here is not lost for it.
  if (written === 'gone') await putProject(project, kept(project), revision);
  return written;
}

const ports: SaverPorts = {
  write,
  note: (project, revision) => noteUnsaved(localStorage, project, revision, versions.get(project)?.letter),
  forget: (project, revision) => forgetUnsaved(localStorage, project.id, revision),
  now: () => performance.now(),
  after: (ms, work) => {
    const timer = setTimeout(work, ms);
    return () => clearTimeout(timer);
  },
  tell: (state, why) => useSaving.setState({ state, why: state === 'refused' ? whyNotKept(why) : undefined }),
};

let open: Saver | undefined;
/** What is written of projects that were left. */
const writing = new Map<string, Promise<void>>();

/** Done when a project that was left is written. */
export const lastWritten = (projectId: string): Promise<void> => writing.get(projectId) ?? Promise.resolve();

/**
 * Saves the open project, read at a revision, after every change and whatever way the page is left; `unsaved`
 * where the database does not have it as it is. Returns how to stop.
 */
export function startAutosave(revision: number, unsaved: boolean): () => void {
  const saver = (open = new Saver(ports, revision));
  useSaving.setState({ state: 'saved', why: undefined });
  const { project: opened, letter, other } = useProjectStore.getState();
  if (opened) versions.set(opened, { letter, other });
  if (unsaved && opened) saver.change(opened);
  const unsubscribe = useProjectStore.subscribe(({ project, letter, other }, before) => {
    if (!project || before.project === null) return;
    if (project === before.project && letter === before.letter) return;
    versions.set(project, { letter, other });
    saver.change(project);
  });
  const leave = () => saver.leave();
  const hidden = () => document.visibilityState === 'hidden' && saver.leave();
  window.addEventListener('pagehide', leave);
  window.addEventListener('beforeunload', leave);
  document.addEventListener('visibilitychange', hidden);
  return () => {
    saver.leave();
    if (opened) writing.set(opened.id, saver.flush());
    unsubscribe();
    window.removeEventListener('pagehide', leave);
    window.removeEventListener('beforeunload', leave);
    document.removeEventListener('visibilitychange', hidden);
    if (open === saver) open = undefined;
  };
}

/** Everything that waits to be written is written when this is done. */
export const flushSaving = (): Promise<void> => open?.flush() ?? Promise.resolve();

/** Saves the open project now, for a change of what only the shelf shows. */
export function saveNow(): void {
  const { project } = useProjectStore.getState();
  if (project && open) {
    open.change(project);
    void open.flush();
  }
}
