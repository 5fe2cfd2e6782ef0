import type { LoopProposal } from '@skipback/core/checks/likeness';
import type { ClipSource } from '../frames/clip-row';
import type { Inspection } from './inspect';
import type { ImportReply, ImportRequest, ThumbnailSheet } from './messages';

type Unnumbered = ImportRequest extends infer R ? (R extends ImportRequest ? Omit<R, 'id'> : never) : never;

/** Asks the import worker; one worker for the page, begun when first needed. */
class ImportClient {
  private worker: Worker | undefined;
  private readonly waiting = new Map<
    number,
    { resolve: (r: ImportReply) => void; reject: (e: Error) => void }
  >();
  private nextId = 1;

  async inspect(file: Blob, name: string): Promise<Inspection> {
    const reply = await this.ask({ kind: 'inspect', file, name });
    if (reply.kind !== 'inspected') throw new Error('unexpected reply');
    return reply.inspection;
  }

  async thumbnails(clip: ClipSource): Promise<ThumbnailSheet> {
    const reply = await this.ask({ kind: 'thumbnails', clip });
    if (reply.kind !== 'thumbnails') throw new Error('unexpected reply');
    return reply.sheet;
  }

  async loops(
    clip: ClipSource,
    range: { first: number; end: number; least: number; most: number },
  ): Promise<readonly LoopProposal[]> {
    const reply = await this.ask({ kind: 'loops', clip, ...range });
    if (reply.kind !== 'loops') throw new Error('unexpected reply');
    return reply.loops;
  }

  async seam(clip: ClipSource, before: number, after: number): Promise<number> {
    const reply = await this.ask({ kind: 'seam', clip, before, after });
    if (reply.kind !== 'seam') throw new Error('unexpected reply');
    return reply.seam;
  }

  /** Every `step`-th of frames [first, end) as small pictures; the caller closes them. */
  async small(
    clip: ClipSource,
    range: { first: number; end: number; step: number; width: number },
  ): Promise<readonly ImageBitmap[]> {
    const reply = await this.ask({ kind: 'small', clip, ...range });
    if (reply.kind !== 'small') throw new Error('unexpected reply');
    return reply.pictures;
  }

  async still(clip: ClipSource, frame: number): Promise<Blob> {
    const reply = await this.ask({ kind: 'still', clip, frame });
    if (reply.kind !== 'still') throw new Error('unexpected reply');
    return reply.png;
  }

  private ask(request: Unnumbered): Promise<ImportReply> {
    const id = this.nextId++;
    this.worker ??= this.begin();
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      this.worker!.postMessage({ ...request, id });
    });
  }

  private begin(): Worker {
    const worker = new Worker(new URL('./import-worker.ts', import.meta.url), { type: 'module' });
    worker.addEventListener('message', ({ data }: MessageEvent<ImportReply>) => {
      const waiter = this.waiting.get(data.id);
      this.waiting.delete(data.id);
      if (data.kind === 'failed') waiter?.reject(new Error(data.sentence));
      else waiter?.resolve(data);
    });
    worker.addEventListener('error', () => {
      for (const waiter of this.waiting.values()) waiter.reject(new Error('The file reader stopped.'));
      this.waiting.clear();
      this.worker = undefined;
    });
    return worker;
  }
}

export const importClient = new ImportClient();
