import { budgets } from '../budgets';
import { drawingThreads } from '../pixels/pixel-pool';
import { heard } from '../heard';
import { type PreviewReply, PreviewReplySchema, type PreviewRequest } from './messages';

/** The page's end of a preview worker that draws into `canvas`. */
export class PreviewClient {
  private readonly worker: Worker;

  /** `died` is called once, when the worker is no more: then another is needed, with a canvas of its own. */
  constructor(canvas: HTMLCanvasElement, hear: (reply: PreviewReply) => void, died: () => void) {
    this.worker = new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module' });
    this.worker.addEventListener('message', ({ data }: MessageEvent<unknown>) =>
      hear(heard(PreviewReplySchema, data)),
    );
    this.worker.addEventListener(
      'error',
      () => {
        this.worker.terminate();
        died();
      },
      { once: true },
    );
    const offscreen = canvas.transferControlToOffscreen();
    const threads = drawingThreads(navigator.hardwareConcurrency);
    this.send({ kind: 'attach', canvas: offscreen, budgetBytes: budgets.preview, threads }, [offscreen]);
  }

  send(request: PreviewRequest, transfer: Transferable[] = []): void {
    this.worker.postMessage(request, transfer);
  }

  close(): void {
    this.worker.terminate();
  }
}
