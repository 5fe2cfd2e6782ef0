import { heard } from '../heard';
import { type FollowJob, type FollowReply, FollowReplySchema, type FollowRequest } from './messages';

/** Something being followed in a worker of its own: stopped with `cancel`, ended when its last reply came. */
export class Following {
  private readonly worker = new Worker(new URL('./follow-worker.ts', import.meta.url), { type: 'module' });

  constructor(job: FollowJob, hear: (reply: FollowReply) => void) {
    this.worker.addEventListener('message', (event: MessageEvent<unknown>) => {
      let data: FollowReply;
      try {
        data = heard(FollowReplySchema, event.data);
      } catch (error) {
        console.error(error);
        data = { kind: 'failed', sentence: 'Following stopped; begin it again.' };
      }
      if (data.kind !== 'progress') this.worker.terminate();
      hear(data);
    });
    this.worker.addEventListener('error', () => {
      this.worker.terminate();
      hear({ kind: 'failed', sentence: 'Following stopped; begin it again.' });
    });
    this.tell({ kind: 'follow', job });
  }

  /** Stops on the way; what was found so far comes as the last reply. */
  cancel(): void {
    this.tell({ kind: 'cancel' });
  }

  private tell(request: FollowRequest): void {
    this.worker.postMessage(request);
  }
}
