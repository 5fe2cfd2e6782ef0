import type { Project } from '@skipback/core/project/schema';
import { useSnackbar } from 'notistack';
import { useCallback } from 'react';
import { CAUTION, TROUBLE } from '../notices';
import { download, fileName } from './download';
import { Stopped, beginJob } from './jobs';
import { useProjectStore } from './project-store';
import { PROJECT_FILE_EXTENSION, whyNotKept } from './shelve';

/** Saves the project with its clips as one file, as a job that can be stopped, and says what could not go in. */
export function useSaveFile(project: Project): () => void {
  const { enqueueSnackbar } = useSnackbar();
  return useCallback(() => {
    void (async () => {
      const name = `${fileName(project.name)}${PROJECT_FILE_EXTENSION}`;
      const words = `Saving ${name}`;
      const job = beginJob({ projectId: project.id, kind: 'save', name, words });
      try {
        const { writeProjectFile } = await import('./project-file');
        const told = (share: number) => job.tell({ share });
        const { file, missing } = await job.part(writeProjectFile(project, told, job.signal));
        download(file, name);
        if (missing.length > 0)
          enqueueSnackbar(`Saved without ${missing.join(', ')}: not in this browser any more.`, CAUTION);
        else enqueueSnackbar('Saved as a file, clips included');
        const { letter, other, project: open } = useProjectStore.getState();
        if (other && open?.id === project.id)
          enqueueSnackbar(`It is version ${letter}: the other one stays in this browser.`, CAUTION);
      } catch (problem) {
        if (!(problem instanceof Stopped))
          enqueueSnackbar(`${name} could not be made. ${whyNotKept(problem).sentence}`, TROUBLE);
      } finally {
        job.end();
      }
    })();
  }, [project, enqueueSnackbar]);
}
