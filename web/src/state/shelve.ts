import type { Project } from '@skipback/core/project/schema';
import { noteUnsaved } from '@skipback/media/storage/journal';
import { keptByNewer } from '@skipback/media/storage/database';
import { type ShelfFacts, putProject } from '@skipback/media/storage/project-records';

export const PROJECT_FILE_EXTENSION = '.skipback.zip';

/** Projects that the browser would not keep in any way: they are there as long as this page is. */
const onlyHere = new Map<string, Project>();

/** A project that only this page has. */
export const onlyHereOf = (id: string): Project | undefined => onlyHere.get(id);

/** Puts a project on the shelf, or where the browser lets it be; gives its id. */
export async function shelve(
  project: Project,
  shown: ShelfFacts = { poster: null, lengthFrames: 0 },
): Promise<string> {
  try {
    await putProject(project, shown);
  } catch {
    if (!noteUnsaved(localStorage, project, 1)) onlyHere.set(project.id, project);
  }
  return project.id;
}

/** Why something could not be written: a few words, and a sentence with what can be done. */
export function whyNotKept(problem: unknown): { readonly words: string; readonly sentence: string } {
  const { name = '', message = '' } = (problem ?? {}) as Partial<Error>;
  if (name === 'QuotaExceededError')
    return {
      words: 'storage is full',
      sentence:
        'The disk, or what the browser allows, is full: free some under Storage on the shelf, then try it again.',
    };
  if (name === 'NotReadableError' || name === 'NotFoundError')
    return {
      words: 'a file cannot be read',
      sentence: 'A file it needs cannot be read any more: choose it again beside its clip, then save.',
    };
  if (name === 'RangeError')
    return {
      words: 'no memory left',
      sentence: 'There is no memory left for it: close other pages, or save projects with fewer clips.',
    };
  if (name === 'NotAllowedError' || name === 'SecurityError')
    return {
      words: 'storage is switched off',
      sentence:
        'The browser does not let this page write: allow storage for it, or use another window than a private one.',
    };
  if (name === 'InvalidStateError' || name === 'DatabaseClosedError')
    return {
      words: 'storage was closed',
      sentence: 'The browser closed this page’s storage: reload the page. What is open is kept until then.',
    };
  const said = message.replace(/\.$/, '') || 'nothing more';
  return {
    words: 'the browser refused',
    sentence: `The browser says: ${said}. Try it again, or reload the page.`,
  };
}

/** What to say of a database that does not answer. */
export function databaseSentence(problem: unknown): string {
  const name = problem instanceof Error ? problem.name : '';
  if (name === 'VersionError' || keptByNewer())
    return 'A newer version of this program has worked in this browser, and this one cannot read what it keeps. Reload the page to get the newer one.';
  if (name === 'QuotaExceededError')
    return 'The disk, or what the browser allows, is full: nothing more is kept. Free some under Storage on the shelf, or save projects as files.';
  return 'The browser does not let this page keep anything (private window, or storage switched off). Projects can be made and saved as files, but are gone when the page closes.';
}
