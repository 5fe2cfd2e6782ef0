import type { RenderJob, RenderReply } from './messages';

/** A render under way in a worker of its own. */
export interface RunningRender {
  /** Ends the work; the reply `cancelled` follows once nothing is left behind. */
  cancel(): void;
}

/** Starts a render; `hear` gets its progress and exactly one last reply. */
export function startRender(job: RenderJob, hear: (reply: RenderReply) => void): RunningRender {
  const worker = new Worker(new URL('./render-worker.ts', import.meta.url), { type: 'module' });
  const last = (reply: RenderReply) => {
    worker.terminate();
    hear(reply);
  };
  worker.addEventListener('message', ({ data }: MessageEvent<RenderReply>) => {
    if (data.kind === 'progress' || data.kind === 'sampling') hear(data);
    else last(data);
  });
  worker.addEventListener('error', () =>
    last({ kind: 'failed', sentence: 'The render stopped without saying why.' }),
  );
  worker.postMessage({ kind: 'render', job });
  return { cancel: () => worker.postMessage({ kind: 'cancel' }) };
}
