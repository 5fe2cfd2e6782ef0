import { heard } from '../heard';
import { Said } from '../worker-client';
import {
  type PictureJob,
  type RenderJob,
  type RenderReply,
  RenderReplySchema,
  type RenderRequest,
  type Setting,
  type Way,
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

/** Starts measuring what some ways to make a film come to; `hear` gets them one by one, then one last reply. */
export const startComparing = (
  job: PictureJob,
  ways: readonly Way[],
  hear: (reply: RenderReply) => void,
): RunningRender => start({ kind: 'compare', job, ways }, hear);

/** One result frame as a file would have it, as a PNG. Throws the sentence that says why it could not be made. */
export const renderStill = (job: PictureJob, position: number): Promise<Blob> =>
  new Promise((resolve, reject) => {
    start({ kind: 'still', job, position }, (reply) => {
      if (reply.kind === 'still') resolve(reply.png);
      else reject(new Said(reply.kind === 'failed' ? reply.sentence : 'The picture could not be made.'));
    });
  });

const GOES_ON: readonly RenderReply['kind'][] = ['progress', 'sampling', 'size'];

/** A reply, or that the render failed where it can't be read. */
function repliedWith(message: unknown): RenderReply {
  try {
    return heard(RenderReplySchema, message);
  } catch (error) {
    console.error(error);
    return { kind: 'failed', sentence: 'The render stopped without saying why.' };
  }
}

/** How long a render that was told to end may take for it, milliseconds. */
const ENDS_WITHIN_MS = 2000;

function start(request: RenderRequest, hear: (reply: RenderReply) => void): RunningRender {
  const worker = new Worker(new URL('./render-worker.ts', import.meta.url), { type: 'module' });
  let forced: ReturnType<typeof setTimeout> | undefined;
  let ended = false;
  const last = (reply: RenderReply) => {
    if (ended) return;
    ended = true;
    clearTimeout(forced);
    worker.terminate();
    hear(reply);
  };
  worker.addEventListener('message', (event: MessageEvent<unknown>) => {
    const data = repliedWith(event.data);
    if (GOES_ON.includes(data.kind)) hear(data);
    else last(data);
  });
  worker.addEventListener('error', () =>
    last({ kind: 'failed', sentence: 'The render stopped without saying why.' }),
  );
  worker.postMessage(request);
  return {
    cancel: () => {
      worker.postMessage({ kind: 'cancel' });
      // Stuck in the middle of something, it is ended all the same.
      forced ??= setTimeout(() => last({ kind: 'cancelled' }), ENDS_WITHIN_MS);
    },
  };
}
