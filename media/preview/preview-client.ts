import { drawingThreads } from '../pixels/pixel-pool';
import type { PreviewReply, PreviewRequest } from './messages';

/** Bytes of pictures the preview may hold. */
export const PREVIEW_BUDGET_BYTES = 512 * 1024 * 1024;

/** The page's end of a preview worker that draws into `canvas`. */
export class PreviewClient {
  private readonly worker: Worker;

  constructor(canvas: HTMLCanvasElement, hear: (reply: PreviewReply) => void) {
    this.worker = new Worker(new URL('./preview-worker.ts', import.meta.url), { type: 'module' });
    this.worker.addEventListener('message', ({ data }: MessageEvent<PreviewReply>) => hear(data));
    this.worker.addEventListener('error', () =>
      hear({ kind: 'trouble', sentence: 'The picture stopped; reload the page.' }),
    );
    const offscreen = canvas.transferControlToOffscreen();
    const threads = drawingThreads(navigator.hardwareConcurrency);
    this.send({ kind: 'attach', canvas: offscreen, budgetBytes: PREVIEW_BUDGET_BYTES, threads }, [offscreen]);
  }

  send(request: PreviewRequest, transfer: Transferable[] = []): void {
    this.worker.postMessage(request, transfer);
  }

  close(): void {
    this.worker.terminate();
  }
}
