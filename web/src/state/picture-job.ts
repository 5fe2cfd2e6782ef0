import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { drawingThreads } from '@skipback/media/pixels/pixel-pool';
import { fileSize } from '@skipback/media/frames/file-size';
import { type PictureJob, type RenderSettings, holdsTransparency } from '@skipback/media/render/messages';
import { resultOf } from './compiled';
import type { ClipState } from './library';

/** The pictures of a result as the render worker takes them. */
export function pictureJob(
  project: Project,
  compiled: CompiledProject,
  states: readonly ClipState[],
  settings: RenderSettings,
): PictureJob {
  const clips = states.flatMap((c) => (c.loaded ? [c.loaded] : []));
  const { arrays, sources } = resultOf(compiled, clips, project);
  const size = fileSize(project.size.width, project.size.height, 1);
  return {
    clips: sources,
    ...arrays,
    rate: project.rate,
    ...size,
    settings,
    transparent:
      settings.transparent && holdsTransparency(settings.format) && isTransparent(compiled, states),
    threads: drawingThreads(navigator.hardwareConcurrency, size),
  };
}

/** Whether something of a clip that a result shows is transparent. */
export const isTransparent = ({ pieces }: CompiledProject, states: readonly ClipState[]): boolean =>
  pieces.some(({ compiled }) =>
    states.some((s) => s.clip.id === compiled.clip.id && s.loaded?.record.facts.clear),
  );
