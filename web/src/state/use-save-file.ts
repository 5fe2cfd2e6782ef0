import type { Project } from '@skipback/core/project/schema';
import { useSnackbar } from 'notistack';
import { useCallback } from 'react';
import { CAUTION, TROUBLE } from '../notices';
import { download, fileName } from './download';
import { PROJECT_FILE_EXTENSION } from './shelve';

/** Saves the project with its clips as one file, and says what could not go in. */
export function useSaveFile(project: Project): () => void {
  const { enqueueSnackbar } = useSnackbar();
  return useCallback(() => {
    void (async () => {
      try {
        const { writeProjectFile } = await import('./project-file');
        const { file, missing } = await writeProjectFile(project);
        download(file, `${fileName(project.name)}${PROJECT_FILE_EXTENSION}`);
        if (missing.length > 0)
          enqueueSnackbar(`Saved without ${missing.join(', ')}: not in this browser any more.`, CAUTION);
        else enqueueSnackbar('Saved as a file, clips included');
      } catch {
        enqueueSnackbar('The file could not be made: there is no memory left for it.', TROUBLE);
      }
    })();
  }, [project, enqueueSnackbar]);
}
