import type { Project } from '@skipback/core/project/schema';
import { putProject } from '@skipback/media/storage/project-records';

export const PROJECT_FILE_EXTENSION = '.skipback.zip';

/** Puts a project on the shelf; gives its id. */
export async function shelve(
  project: Project,
  shown: { readonly poster: Blob | null; readonly lengthFrames: number } = { poster: null, lengthFrames: 0 },
): Promise<string> {
  await putProject(project, shown);
  return project.id;
}
