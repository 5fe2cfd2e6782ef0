import { heard } from '../heard';
import {
  type PictureJob,
  type RenderJob,
  type RenderReply,
  RenderReplySchema,
  type RenderRequest,
  type Setting,
} from './messages';

/** A render under way in a worker of its own. */
export interface RunningRender {
  /** Ends the work; the reply `cancelled` follows once nothing is left behind. */
  cancel(): void;
}

/** The settings that were right last, by what kind of file they were for. */
const found = new Map<string, Setting>();

/**
 * Starts a render; `hear` gets its progress and exactly one last reply. What was right for a file of the same kind and size is
 * tried first, which mostly spares the search for it; it is measured on the sample all the same.
 */
export function startRender(job: RenderJob, hear: (reply: RenderReply) => void): RunningRender {
  const { format, quality, scale } = job.settings;
  const key = `${format} ${quality} ${scale} ${job.width} ${job.height} ${job.rate.num}/${job.rate.den}`;
  return start({ kind: 'render', job: { guess: found.get(key), ...job } }, (reply) => {
    if (reply.kind === 'done' && reply.setting) found.set(key, reply.setting);
    hear(reply);
  });
}

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
  worker.addEventListener('message', (event: MessageEvent<unknown>) => {
    const data = heard(RenderReplySchema, event.data);
    if (GOES_ON.includes(data.kind)) hear(data);
    else last(data);
  });
  worker.addEventListener('error', () =>
    last({ kind: 'failed', sentence: 'The render stopped without saying why.' }),
  );
  worker.postMessage(request);
  return { cancel: () => worker.postMessage({ kind: 'cancel' }) };
}
