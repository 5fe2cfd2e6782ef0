/**
 * The page that `npm run render` drives: the project is what was put into its file field. Puts `renderProject` on the window;
 * what happens is told to `told`, which the driver puts there, and the file comes as a download.
 */
import { readProject } from '@skipback/core/project/read-project';
import { RenderSettingsSchema } from '@skipback/media/render/messages';
import { database } from '@skipback/media/storage/database';
import { renderScratch } from '@skipback/media/storage/media-files';
import { sentenceOf } from '@skipback/media/worker-client';
import { z } from 'zod';
import { kindOf, renderUnattended } from '../render/render-job';
import { download, fileName } from '../state/download';
import { readProjectFile } from '../state/project-file';

const OrderSchema = z.object({ settings: RenderSettingsSchema, sound: z.boolean() });

declare global {
  interface Window {
    told?: (line: object) => Promise<void>;
    renderProject?: (order: unknown) => Promise<void>;
  }
}

const tell = (line: object): void => void window.told?.(line);

async function renderProject(given: unknown): Promise<void> {
  const order = OrderSchema.safeParse(given);
  if (!order.success) return tell({ event: 'refused', sentence: 'These settings make no file.' });
  const file = document.querySelector('input')?.files?.[0];
  if (!file) return tell({ event: 'refused', sentence: 'There is no project file.' });
  let project;
  try {
    const { id, lost } = await readProjectFile(file);
    const record = await database.projects.get(id);
    const read = readProject(record?.document);
    if (!read.ok) return tell({ event: 'refused', sentence: read.sentence });
    project = read.project;
    if (lost) tell({ event: 'said', sentence: lost });
  } catch (problem) {
    return tell({ event: 'refused', sentence: sentenceOf(problem, 'The project file could not be read.') });
  }
  const name = `${fileName(project.name)}.${kindOf(order.data.settings).extension}`;
  const target = await renderScratch(name);
  tell({ event: 'began', project: project.name, name });
  renderUnattended(project, order.data.settings, order.data.sound, target, (reply) => {
    if (reply.kind === 'progress') {
      const { done, total, framesPerS, picture } = reply;
      picture?.close();
      tell({ event: 'progress', done, total, framesPerS: Number(framesPerS.toFixed(1)) });
    } else if (reply.kind === 'done') {
      tell({ event: 'made', ...reply.proof, damaged: reply.damaged });
      void target.getFile().then((made) => download(made, name));
    } else if (reply.kind === 'failed') tell({ event: 'failed', sentence: reply.sentence });
  });
}

Object.assign(window, { renderProject });
