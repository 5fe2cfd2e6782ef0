import type { Project } from '@skipback/core/project/schema';
import { z } from 'zod';

/**
 * The last change of a project, written at once where writing cannot be put off: a page that is being left has
 * no time for the database. What stands here and is newer than the record is taken when the project is opened.
 */
export interface JournalStorage {
  getItem(key: string): string | null;
  setItem(key: string, value: string): void;
  removeItem(key: string): void;
}

const keyOf = (id: string) => `skip-back-unsaved-${id}`;

const EntrySchema = z.object({
  revision: z.int().min(1),
  document: z.unknown(),
  letter: z.enum(['A', 'B']).optional(),
});

export interface JournalEntry {
  readonly revision: number;
  /** As it was written; to be read like a project from outside. */
  readonly document: unknown;
  /** Which of the project's two versions it is. */
  readonly letter?: 'A' | 'B' | undefined;
}

/** Notes a change that the database does not have yet. False where there was no room. */
export function noteUnsaved(
  storage: JournalStorage,
  project: Project,
  revision: number,
  letter?: 'A' | 'B',
): boolean {
  try {
    storage.setItem(keyOf(project.id), JSON.stringify({ revision, document: project, letter }));
    return true;
  } catch {
    return false;
  }
}

/** What was noted of a project; undefined where nothing was, or what was is torn. */
export function notedUnsaved(storage: JournalStorage, id: string): JournalEntry | undefined {
  try {
    const text = storage.getItem(keyOf(id));
    const entry = text === null ? undefined : EntrySchema.safeParse(JSON.parse(text));
    if (!entry?.success) return undefined;
    const { revision, document, letter } = entry.data;
    return { revision, document, ...(letter && { letter }) };
  } catch {
    return undefined;
  }
}

/** Forgets what was noted, up to a revision that the database has. */
export function forgetUnsaved(storage: JournalStorage, id: string, revision: number): void {
  try {
    const noted = notedUnsaved(storage, id);
    if (noted && noted.revision > revision) return;
    storage.removeItem(keyOf(id));
  } catch {
    // Storage is switched off: there is nothing to forget.
  }
}
