import { mediaIdsOf } from '@skipback/core/project/media';
import type { Project } from '@skipback/core/project/schema';
import { type ProjectRecord, database } from './database';

/** What is kept with a project: its other version, and what the shelf shows. */
export interface ShelfFacts extends Pick<ProjectRecord, 'letter' | 'other'> {
  readonly poster: Blob | null;
  /** Result frame of the poster. */
  readonly at?: number;
  readonly lengthFrames: number;
}

/** What became of a write. `overtaken`: somewhere else a newer revision was written, and this one is refused. */
export type Written = 'written' | 'overtaken' | 'gone';

/**
 * Writes a project as revision `revision`, in one transaction: refused where the record is of that revision or
 * newer already, or was taken away. Throws what the database throws when it has no room.
 */
export async function writeProject(project: Project, revision: number, shown: ShelfFacts): Promise<Written> {
  return database.transaction('rw', database.projects, async () => {
    const now = await database.projects.get(project.id);
    if (!now) return 'gone';
    if (revisionOf(now) >= revision) return 'overtaken';
    await database.projects.put(recordOf(project, revision, shown));
    return 'written';
  });
}

/** Puts a project on the shelf, new or over the one of its id. */
export async function putProject(project: Project, shown: ShelfFacts, revision = 1): Promise<void> {
  await database.projects.put(recordOf(project, revision, shown));
}

/** Changes the record of a project as it is now, whoever wrote it; false where it is gone. */
export async function changeProject(id: string, change: (project: Project) => Project): Promise<boolean> {
  return database.transaction('rw', database.projects, async () => {
    const now = await database.projects.get(id);
    if (!now) return false;
    const document = change(now.document);
    await database.projects.put({
      ...now,
      name: document.name,
      document,
      revision: revisionOf(now) + 1,
    });
    return true;
  });
}

/** Ids of all media that a project reads, in either of its versions. */
export const mediaOfRecord = ({ document, other }: Pick<ProjectRecord, 'document' | 'other'>): string[] => [
  ...new Set([...mediaIdsOf(document), ...(other ? mediaIdsOf(other) : [])]),
];

/** How often a project was written. */
export const revisionOf = (record: ProjectRecord): number => record.revision ?? 0;

const recordOf = (project: Project, revision: number, shown: ShelfFacts): ProjectRecord => ({
  id: project.id,
  name: project.name,
  savedAt: Date.now(),
  revision,
  document: project,
  ...shown,
});
