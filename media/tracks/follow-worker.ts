import { sentenceOf } from '../worker-client';
import { Nothing, followClip } from './follow-clip';
import { hearing } from '../heard';
import { type FollowReply, FollowRequestSchema } from './messages';

const tell = (reply: FollowReply) => self.postMessage(reply);

let abort = new AbortController();

hearing(
  FollowRequestSchema,
  (data) => {
    if (data.kind === 'cancel') return abort.abort();
    abort = new AbortController();
    const { signal } = abort;
    const began = performance.now();
    followClip(data.job, signal, tell)
      .then(({ stretches, frames }) =>
        tell({
          kind: 'followed',
          stretches,
          cut: signal.aborted,
          frames,
          elapsedMs: performance.now() - began,
        }),
      )
      .catch((error: unknown) =>
        tell(
          error instanceof Nothing
            ? { kind: 'nothing' }
            : { kind: 'failed', sentence: sentenceOf(error, 'The clip could not be followed.') },
        ),
      );
  },
  (_, sentence) => tell({ kind: 'failed', sentence }),
);
