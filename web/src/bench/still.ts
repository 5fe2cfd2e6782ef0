import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { importClient } from '@skipback/media/import/import-client';
import { DEFAULT_RENDER } from '@skipback/media/render/messages';
import { renderStill } from '@skipback/media/render/render-client';
import { sentenceOf } from '@skipback/media/worker-client';
import { download, fileName } from '../state/download';
import type { ClipState } from '../state/library';
import { usePlaying } from '../state/playing';
import { pictureJob } from '../state/picture-job';
import { underEye } from './under-eye';

/**
 * Saves what is seen as a PNG: of the result a frame as a file gets it, at the project's size with its looks; of a clip
 * its own frame. Gives what is to be said; throws the sentence where it could not be made.
 */
export async function saveStill(
  project: Project,
  compiled: CompiledProject,
  clips: readonly ClipState[],
): Promise<string> {
  const { showing, position, peek } = usePlaying.getState();
  const name = (of: string, at: number) => `${fileName(of)}-${at}.png`;
  const ofResult = peek ? peek.kind === 'result' : showing === 'result';
  if (ofResult && compiled.totalFrames > 0) {
    const at = peek?.kind === 'result' ? peek.position : position;
    const png = await renderStill(pictureJob(project, compiled, clips, DEFAULT_RENDER), at);
    download(png, name(project.name, at));
    return `Frame ${at} of the result is saved as a PNG`;
  }
  const eye = underEye(compiled, clips);
  if (typeof eye === 'string') return eye;
  try {
    download(
      await importClient.still(eye.clip.source, eye.frame),
      name(eye.clip.clip.name.replace(/\.[^.]+$/, ''), eye.frame),
    );
  } catch (problem) {
    throw new Error(sentenceOf(problem, `Frame ${eye.frame} cannot be decoded.`), { cause: problem });
  }
  return `Frame ${eye.frame} is saved as a PNG`;
}
