import { keepable } from '@skipback/core/project/keepable';
import { readProject } from '@skipback/core/project/read-project';
import type { Project } from '@skipback/core/project/schema';
import { database } from '@skipback/media/storage/database';
import { forgetUnsaved, notedUnsaved } from '@skipback/media/storage/journal';
import { putProject, revisionOf } from '@skipback/media/storage/project-records';
import { type Notice, warning } from '@skipback/core/notice';
import { say } from './jobs';
import { act, useProjectStore } from './project-store';
import { lastWritten } from './saving';
import { versionsOf } from './versions';
import { whileNobodyHas } from './tab-locks';

/** What became of a change: `closed` where its project was not open, `elsewhere` where another tab has it, `gone` where it is no more. */
export type Acted = 'open' | 'closed' | 'elsewhere' | 'gone';

/** How long a project that was just left is waited for, and how often it is asked for, milliseconds. */
const PATIENCE_MS = 3000;
const ASKS_MS = 100;

/** The project a piece of work that takes time is for: it lands there, whatever is open by then. */
export const openProjectId = (): string | undefined => useProjectStore.getState().project?.id;

/** A project as it is now: the open one, or as it was written last; undefined where it is no more or cannot be read. */
export async function projectNow(id: string): Promise<Project | undefined> {
  const { project } = useProjectStore.getState();
  return project?.id === id ? project : (await stored(id))?.project;
}

/** Changes a project by one named action: the open one as `act` does, another where it is stored. */
export async function actIn(
  projectId: string,
  change: string,
  action: (project: Project) => Project,
): Promise<Acted> {
  const ends = performance.now() + PATIENCE_MS;
  for (;;) {
    if (openProjectId() === projectId) {
      act(change, action);
      return 'open';
    }
    await lastWritten(projectId);
    let acted: Acted = 'closed';
    const alone = await whileNobodyHas(projectId, async () => {
      const now = await stored(projectId);
      if (!now) return void (acted = 'gone');
      const next = keepable(action(now.project), now.project);
      if (next !== now.project) await putProject(next, now.shown, now.revision + 1);
      forgetUnsaved(localStorage, projectId, now.revision);
    });
    if (alone) return acted;
    // It may be opening here just now.
    if (performance.now() > ends) return 'elsewhere';
    await new Promise((resolve) => setTimeout(resolve, ASKS_MS));
  }
}

/** What is said where something could not be put into the project it was for. */
const NOT_THERE = {
  elsewhere: (name: string) =>
    warning(
      'elsewhere',
      `${name} was read, but its project is worked on in another tab.`,
      'Import it there: it need not be read again.',
    ),
  gone: (name: string) =>
    warning('gone', `${name} was read, but its project is no more.`, 'Import it into another one.'),
} as const;

/**
 * Puts something into the project it was for, which may not be open any more; then that is said in passing. Gives what is
 * to be said where it could not be put there.
 */
export async function landed(
  projectId: string,
  name: string,
  change: string,
  action: (project: Project) => Project,
): Promise<Notice | undefined> {
  const acted = await actIn(projectId, change, action);
  if (acted === 'closed') say(`${name} is in ${(await projectNow(projectId))?.name ?? 'its project'}.`);
  return acted === 'open' || acted === 'closed' ? undefined : NOT_THERE[acted](name);
}

/** A project as it is stored, with what is newer in the journal. */
async function stored(id: string) {
  const record = await database.projects.get(id).catch(() => undefined);
  const noted = notedUnsaved(localStorage, id);
  const revision = record ? revisionOf(record) : 0;
  const newer = noted && noted.revision > revision ? noted : undefined;
  for (const document of [newer?.document, record?.document]) {
    const read = document === undefined ? undefined : readProject(document);
    if (!read?.ok) continue;
    const { poster = null, lengthFrames = 0, at = 0 } = record ?? {};
    return {
      project: read.project,
      revision: Math.max(revision, newer?.revision ?? 0),
      shown: {
        ...{ poster, lengthFrames, at },
        ...(record && versionsOf(record, document === newer?.document ? newer?.letter : undefined)),
      },
    };
  }
  return undefined;
}
