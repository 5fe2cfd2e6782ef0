import type { PictureJob, RenderJob, RenderReply, RenderRequest } from './messages';

/** A render under way in a worker of its own. */
export interface RunningRender {
  /** Ends the work; the reply `cancelled` follows once nothing is left behind. */
  cancel(): void;
}

/** Starts a render; `hear` gets its progress and exactly one last reply. */
export const startRender = (job: RenderJob, hear: (reply: RenderReply) => void): RunningRender =>
  start({ kind: 'render', job }, hear);

/** Starts measuring what each quality comes to; `hear` gets them one by one, then one last reply. */
export const startComparing = (job: PictureJob, hear: (reply: RenderReply) => void): RunningRender =>
  start({ kind: 'compare', job }, hear);

const GOES_ON: readonly RenderReply['kind'][] = ['progress', 'sampling', 'quality'];

function start(request: RenderRequest, hear: (reply: RenderReply) => void): RunningRender {
  const worker = new Worker(new URL('./render-worker.ts', import.meta.url), { type: 'module' });
  const last = (reply: RenderReply) => {
    worker.terminate();
    hear(reply);
  };
  worker.addEventListener('message', ({ data }: MessageEvent<RenderReply>) => {
    if (GOES_ON.includes(data.kind)) hear(data);
    else last(data);
  });
  worker.addEventListener('error', () =>
    last({ kind: 'failed', sentence: 'The render stopped without saying why.' }),
  );
  worker.postMessage(request);
  return { cancel: () => worker.postMessage({ kind: 'cancel' }) };
}
