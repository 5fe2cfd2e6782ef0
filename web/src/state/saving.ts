import type { Project } from '@skipback/core/project/schema';
import { database } from '@skipback/media/storage/database';
import { create } from 'zustand';
import { useProjectStore } from './project-store';

/** Whether the open project is safe. */
interface Saving {
  readonly state: 'saved' | 'saving' | 'refused';
}

export const useSaving = create<Saving>(() => ({ state: 'saved' }));

const DELAY_MS = 300;

/** Result length as last worked out, kept with the project for the shelf. */
export const shelfFacts: { lengthFrames: number; poster: Blob | null } = { lengthFrames: 0, poster: null };

async function save(project: Project): Promise<void> {
  try {
    const before = await database.projects.get(project.id);
    await database.projects.put({
      id: project.id,
      name: project.name,
      savedAt: Date.now(),
      document: project,
      poster: shelfFacts.poster ?? before?.poster ?? null,
      lengthFrames: shelfFacts.lengthFrames,
    });
    useSaving.setState({ state: 'saved' });
  } catch {
    useSaving.setState({ state: 'refused' });
  }
}

/** Saves the open project shortly after every change, and at once when the page is left. Returns how to stop. */
export function startAutosave(): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined;
  let waiting: Project | undefined;
  const flush = () => {
    clearTimeout(timer);
    timer = undefined;
    if (waiting) void save(waiting);
    waiting = undefined;
  };
  const stop = useProjectStore.subscribe(({ project }, before) => {
    if (!project || project === before.project || before.project === null) return;
    waiting = project;
    useSaving.setState({ state: 'saving' });
    clearTimeout(timer);
    timer = setTimeout(flush, DELAY_MS);
  });
  window.addEventListener('pagehide', flush);
  return () => {
    flush();
    stop();
    window.removeEventListener('pagehide', flush);
  };
}

/** Saves the open project now, for a change of what only the shelf shows. */
export async function saveNow(): Promise<void> {
  const { project } = useProjectStore.getState();
  if (project) await save(project);
}
