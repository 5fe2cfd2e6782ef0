import { RunningWorker } from '../running-worker';
import { Said } from '../worker-client';
import { keepSetting, settingBefore } from './found-settings';
import {
  type PictureJob,
  type RenderJob,
  type RenderReply,
  RenderReplySchema,
  type RenderRequest,
  type Way,
} from './messages';

/** A render under way in a worker of its own. */
export interface RunningRender {
  /** Ends the work; the reply `cancelled` follows once nothing is left behind. */
  cancel(): void;
}

/**
 * Starts a render; `hear` gets its progress and exactly one last reply. What was right for a file of the same kind and size is
 * tried first, which mostly spares the search for it; it is measured on the sample all the same.
 */
export const startRender = (job: RenderJob, hear: (reply: RenderReply) => void): RunningRender =>
  start({ kind: 'render', job: { guess: settingBefore(job), ...job } }, (reply) => {
    if (reply.kind === 'done' && reply.setting) keepSetting(job, reply.setting);
    hear(reply);
  });

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

/** How long a render that was told to end may take for it, milliseconds. */
const ENDS_WITHIN_MS = 2000;

/** Without a word for so long a render counts as stuck, milliseconds: a sample of large pictures takes a while. */
const QUIET_MS = 600_000;

const FAILED = {
  died: 'The render stopped without saying why.',
  hung: 'The render got no further for ten minutes and was ended. Choose another kind of file, or a smaller size.',
} as const;

function start(request: RenderRequest, hear: (reply: RenderReply) => void): RunningRender {
  const running = new RunningWorker<RenderRequest, RenderReply>(
    {
      worker: new Worker(new URL('./render-worker.ts', import.meta.url), { type: 'module' }),
      replies: RenderReplySchema,
      begin: request,
      goesOn: ({ kind }) => GOES_ON.includes(kind),
      failed: (how) => ({ kind: 'failed', sentence: FAILED[how] }),
      quietMs: QUIET_MS,
      stops: { withinMs: ENDS_WITHIN_MS, reply: { kind: 'cancelled' } },
    },
    hear,
  );
  return { cancel: () => running.stop({ kind: 'cancel' }) };
}
