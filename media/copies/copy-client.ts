import type { ClipSource } from '../frames/clip-row';
import { WorkerClient } from '../worker-client';
import { type CopyReply, CopyReplySchema, type CopyRequest } from './messages';

/** Asks for small copies; one for the page. */
class CopyClient {
  private readonly worker = new WorkerClient<CopyRequest, CopyReply>(
    () => new Worker(new URL('./copy-worker.ts', import.meta.url), { type: 'module' }),
    CopyReplySchema,
    { died: 'The copying stopped; begin it again.' },
  );

  /** Frames [first, end) of a clip as a small film. Throws `Said`, as after `stop`. */
  async make(clip: ClipSource, first: number, end: number, progress: (share: number) => void): Promise<Blob> {
    return (await this.worker.ask({ kind: 'copy', clip, first, end }, 'copied', progress)).film;
  }

  stop(): void {
    this.worker.stop('The copying was stopped.');
  }
}

export const copyClient = new CopyClient();
