import { readProject } from '@skipback/core/project/read-project';
import type { ProjectRecord } from '@skipback/media/storage/database';
import type { Versions } from './project-store';

/** Both versions of a project, as they are kept: what was noted last may be the one that was not open when it was written. */
export function versionsOf(record: ProjectRecord, noted: 'A' | 'B' | undefined): Versions {
  const { letter: written = 'A', other, document } = record;
  const letter = noted ?? written;
  const hidden = letter === written ? (other ?? undefined) : document;
  const read = hidden && readProject(hidden);
  return { letter, other: read?.ok ? { ...read.project, id: record.id } : null };
}
