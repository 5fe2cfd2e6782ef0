import { treatmentById } from '@skipback/core/looks/registry';
import { type CompiledProject, projectMusic } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { loopSafe, wholeBeats } from '@skipback/core/sound/loop-safe';
import type { Stereo } from '@skipback/core/sound/stereo';
import { toNumber } from '@skipback/core/time/rational';
import { fileKind } from '@skipback/media/render/encoders';
import {
  type RenderJob,
  type RenderReply,
  type RenderSettings,
  isFilm,
} from '@skipback/media/render/messages';
import { pictureKind } from '@skipback/media/render/pictures/kinds';
import { type RunningRender, startRender } from '@skipback/media/render/render-client';
import { compileWith } from '../state/compiled';
import { fileName } from '../state/download';
import { type ClipState, loadClips } from '../state/library';
import { withCutsKnown } from '../state/shots';
import { pictureJob } from '../state/picture-job';
import { isHeard, mixOf, mixSentence } from '../state/mixing';

/** The whole job of a file. */
export const renderJob = (
  project: Project,
  compiled: CompiledProject,
  states: readonly ClipState[],
  settings: RenderSettings,
  { sound, target, lacks }: Pick<RenderJob, 'sound' | 'target' | 'lacks'>,
): RenderJob => ({
  ...pictureJob(project, compiled, states, settings),
  cuts: compiled.pieces.map((p) => p.startFrame),
  ...{ sound, target, lacks, name: fileName(project.name) },
});

/** What a result lacks of its project, in sentences: pieces whose clips are not there, or that would be too long; clips that looks bring in. */
export function lacksOf(project: Project, { missing, beyond, brought }: CompiledProject): Set<string> {
  const looks = [...project.looks, ...project.pieces.flatMap((p) => p.looks)].filter((l) => l.on);
  const gone = looks.flatMap((look) => {
    const named = treatmentById(look.look)?.brings?.({ clip: '', ...look.values }) ?? [];
    return [...named, ...(look.matte?.clip ? [look.matte.clip] : [])].filter(
      (id) => id !== '' && !brought(id),
    );
  });
  const nameOf = (id: string) => project.clips.find((c) => c.id === id)?.name ?? 'a clip';
  const names = new Set(missing.map((p) => nameOf(p.clipId)));
  const of = (pieces: number) => `${pieces} piece${pieces === 1 ? ' is' : 's are'} not in it`;
  return new Set([
    ...(missing.length > 0
      ? [`${of(missing.length)}: the file of ${[...names].join(', ')} is not here.`]
      : []),
    ...[...new Set(gone)].map((id) => `${nameOf(id)}, which a look brings in, is not here.`),
    ...(beyond.length > 0 ? [`${of(beyond.length)}: a result lasts six hours at most.`] : []),
  ]);
}

/** The sound of a file: the mix, made fit to be looped where that is wanted. Throws what the mix throws. */
export async function soundOf(
  project: Project,
  compiled: CompiledProject,
  states: readonly ClipState[],
  settings: RenderSettings,
  lacks: Set<string>,
): Promise<Stereo | undefined> {
  const mix = await mixOf(project, compiled, states, lacks);
  if (!mix || !settings.loopSafe) return mix;
  const whole = wholeBeats(projectMusic(project), compiled.totalFrames);
  return loopSafe(
    mix,
    (whole && whole.beats > 0 ? whole.endFrame : compiled.totalFrames) / toNumber(project.rate),
  );
}

/** What a file is by its settings. */
export const kindOf = ({ format }: RenderSettings) =>
  isFilm(format) ? fileKind(format) : pictureKind(format);

/** Renders a project as it stands, without a screen of its own; `hear` gets progress and exactly one last reply. */
export function renderUnattended(
  project: Project,
  settings: RenderSettings,
  withSound: boolean,
  target: FileSystemFileHandle,
  hear: (reply: RenderReply) => void,
): RunningRender {
  let cancelled = false;
  let running: RunningRender | undefined;
  const fail = (sentence: string) => hear({ kind: 'failed', sentence });
  void (async () => {
    const states = await withCutsKnown(project, await loadClips(project));
    const compiled = compileWith(project, states);
    if (compiled.totalFrames === 0)
      return fail('There is nothing to render: its clips are not here, or it has no pieces.');
    let sound: RenderJob['sound'];
    const lacks = lacksOf(project, compiled);
    try {
      const wanted = withSound && isFilm(settings.format) && isHeard(project, compiled);
      sound = wanted ? await soundOf(project, compiled, states, settings, lacks) : undefined;
    } catch (problem) {
      return fail(mixSentence(problem));
    }
    if (cancelled) return hear({ kind: 'cancelled' });
    running = startRender(
      renderJob(project, compiled, states, settings, { sound, target, lacks: [...lacks] }),
      hear,
    );
  })().catch(() => fail('The project could not be worked out.'));
  return {
    cancel() {
      cancelled = true;
      running?.cancel();
    },
  };
}
