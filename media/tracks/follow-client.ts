import { RunningWorker } from '../running-worker';
import { type FollowJob, type FollowReply, FollowReplySchema, type FollowRequest } from './messages';

/** Without a frame followed for so long it counts as stuck, milliseconds. */
const QUIET_MS = 120_000;
/** How long it may take to hand over what was found when it is stopped. */
const ENDS_WITHIN_MS = 2000;

const failed = (sentence: string): FollowReply => ({ kind: 'failed', sentence });

/** Something being followed in a worker of its own: stopped with `cancel`, ended when its last reply came. */
export class Following {
  private readonly running: RunningWorker<FollowRequest, FollowReply>;

  constructor(job: FollowJob, hear: (reply: FollowReply) => void) {
    this.running = new RunningWorker<FollowRequest, FollowReply>(
      {
        worker: new Worker(new URL('./follow-worker.ts', import.meta.url), { type: 'module' }),
        replies: FollowReplySchema,
        begin: { kind: 'follow', job },
        goesOn: ({ kind }) => kind === 'progress',
        failed: (how) =>
          failed(
            how === 'hung'
              ? 'Tracking got no further and was ended; what it had found is lost. Begin it again.'
              : 'Tracking stopped; begin it again.',
          ),
        quietMs: QUIET_MS,
        stops: {
          withinMs: ENDS_WITHIN_MS,
          reply: failed('Tracking was ended by force; what it had found is lost. Begin it again.'),
        },
      },
      hear,
    );
  }

  /** Stops on the way; what was found so far comes as the last reply. */
  cancel(): void {
    this.running.stop({ kind: 'cancel' });
  }
}
