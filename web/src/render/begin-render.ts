import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import { type RenderJob, type RenderReply, isFilm } from '@skipback/media/render/messages';
import { renderSentence } from '@skipback/media/render/sentence';
import { startRender } from '@skipback/media/render/render-client';
import { clearRenderScratch, renderScratch } from '@skipback/media/storage/media-files';
import { freshId } from '../state/ids';
import { download, fileName } from '../state/download';
import type { ClipState } from '../state/library';
import { mixSentence } from '../state/mixing';
import {
  type FileWishes,
  type RenderState,
  isRendering,
  markHanded,
  setRunning,
  useRendering,
} from '../state/rendering';
import { kindOf, lacksOf, renderJob, soundOf } from './render-job';

type SavePicker = (options: object) => Promise<FileSystemFileHandle>;

/** Renders a project into a file: straight to disk where the browser allows choosing one, else a download. */
export async function beginRender(
  project: Project,
  compiled: CompiledProject,
  states: readonly ClipState[],
  { settings, withSound }: FileWishes,
): Promise<void> {
  if (isRendering()) return;
  const film = isFilm(settings.format);
  const kind = kindOf(settings);
  const name = `${fileName(project.name)}.${kind.extension}`;
  const picker = (window as unknown as { showSaveFilePicker?: SavePicker }).showSaveFilePicker;
  // Where no place can be chosen, for whatever reason, the file is made here and handed to the downloads.
  let chosen: FileSystemFileHandle | undefined;
  try {
    // Of pictures the size is seen first, then they are saved.
    if (film)
      chosen = await picker?.({
        suggestedName: name,
        types: [{ description: kind.label, accept: { [kind.mime]: [`.${kind.extension}`] } }],
      });
  } catch (problem) {
    if (problem instanceof DOMException && problem.name === 'AbortError') return;
  }
  const tell = (state: RenderState) => useRendering.setState({ state });
  // From here on another press begins nothing.
  setRunning({ cancel: () => undefined });
  useRendering.setState({ project: { id: project.id, name: project.name } });
  let target: FileSystemFileHandle;
  try {
    target = chosen ?? (await renderScratch(`${freshId()}-${name}`));
  } catch (problem) {
    setRunning(undefined);
    return tell({ kind: 'failed', sentence: renderSentence(problem) });
  }
  const shown = chosen?.name ?? name;
  const total = compiled.totalFrames * settings.loops;
  tell({ kind: 'running', done: 0, total, framesPerS: 0, picture: undefined, name: shown });
  let cancelled = false;
  const end = (state: RenderState) => {
    setRunning(undefined);
    void removeTarget(target);
    tell(state);
  };
  setRunning({
    cancel() {
      cancelled = true;
      end({ kind: 'cancelled' });
    },
  });
  let sound: RenderJob['sound'];
  const lacks = lacksOf(project, compiled);
  try {
    sound = withSound && film ? await soundOf(project, compiled, states, settings, lacks) : undefined;
  } catch (problem) {
    if (cancelled) return;
    return end({
      kind: 'failed',
      sentence: `${mixSentence(problem)} Render without sound, or let the pitch follow the speed.`,
    });
  }
  if (cancelled) return;
  const job = renderJob(project, compiled, states, settings, { sound, target, lacks: [...lacks] });
  const render = startRender(job, (reply) => {
    if (!isOfRender(reply)) return;
    if (reply.kind === 'progress') {
      const { state: before } = useRendering.getState();
      const last = before.kind === 'running' ? before.picture : undefined;
      if (reply.picture) last?.close();
      return tell({ ...reply, kind: 'running', picture: reply.picture ?? last, name: shown });
    }
    if (reply.kind !== 'done') return end(reply);
    setRunning(undefined);
    const isDownload = chosen === undefined;
    void target.getFile().then((file) => {
      const hand = () => {
        download(file, name);
        markHanded();
      };
      tell({
        ...reply,
        name: shown,
        quality: settings.quality,
        file,
        download: isDownload ? hand : undefined,
        handed: !isDownload,
      });
      if (isDownload && film) hand();
    });
  });
  setRunning(render);
}

/** Whether a reply says what becomes of a render. */
const isOfRender = (
  reply: RenderReply,
): reply is Extract<RenderReply, { kind: 'progress' | 'done' | 'cancelled' | 'failed' }> =>
  ['progress', 'done', 'cancelled', 'failed'].includes(reply.kind);

/** Nothing half-made stays behind. */
async function removeTarget(target: FileSystemFileHandle): Promise<void> {
  await (target as unknown as { remove?: () => Promise<void> }).remove?.().catch(() => undefined);
  await clearRenderScratch(target.name);
}
