import type { CompiledProject } from '@skipback/core/project/compile';
import type { Project } from '@skipback/core/project/schema';
import {
  type RenderJob,
  type RenderReply,
  type RenderSettings,
  isFilm,
} from '@skipback/media/render/messages';
import { type RunningRender, startRender } from '@skipback/media/render/render-client';
import { clearRenderScratch, renderScratch } from '@skipback/media/storage/media-files';
import { useEffect, useRef, useState } from 'react';
import { download, fileName } from '../state/download';
import type { ClipState } from '../state/library';
import { mixSentence } from '../state/mixing';
import { kindOf, renderJob, soundOf } from './render-job';

export type RenderState =
  | { readonly kind: 'idle' }
  | {
      readonly kind: 'running';
      readonly done: number;
      readonly total: number;
      readonly framesPerS: number;
      /** Undefined until the first frame is written: the quality is looked for on a sample. */
      readonly picture: ImageBitmap | undefined;
      readonly name: string;
    }
  | (Extract<RenderReply, { kind: 'done' }> & {
      readonly name: string;
      /** The finished file, to be looked at. */
      readonly file: File;
      /** Hands it to the downloads, where it was not written to a chosen place; `handed` is whether that was done at once. */
      readonly download: (() => void) | undefined;
      readonly handed: boolean;
    })
  | { readonly kind: 'cancelled' }
  | { readonly kind: 'failed'; readonly sentence: string };

type SavePicker = (options: object) => Promise<FileSystemFileHandle>;

/** Renders the project into a file: straight to disk where the browser allows choosing one, else a download. */
export function useRender(project: Project, compiled: CompiledProject, states: readonly ClipState[]) {
  const [state, setState] = useState<RenderState>({ kind: 'idle' });
  const running = useRef<RunningRender>(undefined);
  useEffect(() => () => running.current?.cancel(), []);

  const start = async (settings: RenderSettings, withSound: boolean) => {
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
    const target = chosen ?? (await renderScratch(name));
    const total = compiled.totalFrames * settings.loops;
    setState({ kind: 'running', done: 0, total, framesPerS: 0, picture: undefined, name: target.name });
    let cancelled = false;
    const end = (state: RenderState) => {
      running.current = undefined;
      void removeTarget(target);
      setState(state);
    };
    running.current = {
      cancel() {
        cancelled = true;
        end({ kind: 'cancelled' });
      },
    };
    let sound: RenderJob['sound'];
    try {
      sound = withSound && film ? await soundOf(project, compiled, states, settings) : undefined;
    } catch (problem) {
      if (cancelled) return;
      return end({
        kind: 'failed',
        sentence: `${mixSentence(problem)} Render without sound, or let the pitch follow the speed.`,
      });
    }
    if (cancelled) return;
    const job = renderJob(project, compiled, states, settings, { sound, target });
    running.current = startRender(job, (reply) => {
      if (reply.kind === 'sampling' || reply.kind === 'quality' || reply.kind === 'compared') return;
      if (reply.kind === 'progress')
        return setState((before) => {
          const last = before.kind === 'running' ? before.picture : undefined;
          if (reply.picture) last?.close();
          return { ...reply, kind: 'running', picture: reply.picture ?? last, name: target.name };
        });
      if (reply.kind !== 'done') return end(reply);
      running.current = undefined;
      const isDownload = chosen === undefined;
      void target.getFile().then((file) => {
        const hand = () => download(file, name);
        if (isDownload && film) hand();
        setState({
          ...reply,
          name: target.name,
          file,
          download: isDownload ? hand : undefined,
          handed: film,
        });
      });
    });
  };
  return { state, start, cancel: () => running.current?.cancel() };
}

/** Nothing half-made stays behind. */
async function removeTarget(target: FileSystemFileHandle): Promise<void> {
  await (target as unknown as { remove?: () => Promise<void> }).remove?.().catch(() => undefined);
  await clearRenderScratch(target.name);
}
