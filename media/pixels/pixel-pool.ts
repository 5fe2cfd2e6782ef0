import { fieldBytes, fieldSize } from '@skipback/core/flow/field';
import type { DrawJob, DrawnPicture } from './draw-job';
import { Drawer, bytesMade } from './drawer';
import { heard } from '../heard';
import { type PixelReply, PixelReplySchema, type PixelRequest } from './pixel-messages';

/** Buffers kept for the next pictures, at most: fresh ones take longer than filling them. */
const MOST_SPARE = 16;

/**
 * Threads that draw, for a machine of so many cores: one less, since decoder and encoder want theirs, and at
 * least one. Without memory that threads share it is one.
 */
export function drawingThreads(cores: number | undefined): number {
  return typeof SharedArrayBuffer === 'undefined' ? 1 : Math.max(1, (cores ?? 1) - 1);
}

/** A worker as far as it is needed here. */
export type PixelWorker = Pick<Worker, 'postMessage' | 'terminate' | 'addEventListener'>;

interface Waiting {
  readonly worker: number;
  readonly resolve: (reply: PixelReply) => void;
  readonly reject: (error: Error) => void;
}

/**
 * Draws pictures on several threads, or with one on the thread it is on, where nothing has to be sent. Sources
 * should lie in shared memory then: `sourceBytes` gives such.
 */
export class PixelPool {
  private readonly drawer: Drawer | undefined;
  private readonly workers: PixelWorker[] = [];
  private readonly busy: number[] = [];
  private readonly waiting = new Map<number, Waiting>();
  private spare: Uint8Array<ArrayBuffer>[] = [];
  private nextId = 0;

  constructor(
    /** How many pictures are worth drawing at once. */
    readonly threads: number,
    newWorker: () => PixelWorker = () =>
      new Worker(new URL('./pixel-worker.ts', import.meta.url), { type: 'module' }),
  ) {
    if (threads === 1) {
      this.drawer = new Drawer();
      return;
    }
    for (let i = 0; i < threads; i++) {
      const worker = newWorker();
      worker.addEventListener('message', ({ data }: MessageEvent<unknown>) =>
        this.hear(heard(PixelReplySchema, data)),
      );
      worker.addEventListener('error', () => this.lose(i));
      this.workers.push(worker);
      this.busy.push(0);
    }
  }

  /** Memory for a source picture, which every thread can read. */
  sourceBytes(length: number): Uint8Array {
    return new Uint8Array(this.drawer ? new ArrayBuffer(length) : new SharedArrayBuffer(length));
  }

  setTables(tables: Readonly<Record<string, string>>): void {
    this.drawer?.setTables(tables);
    for (const worker of this.workers) worker.postMessage({ kind: 'tables', tables } satisfies PixelRequest);
  }

  /** Forgets what was kept by what pictures are made of (`DrawnSide.content`): they are others from now on. */
  forget(): void {
    this.drawer?.forget();
    for (const worker of this.workers) worker.postMessage({ kind: 'forget' } satisfies PixelRequest);
  }

  /** Makes a picture; its source must stay as it is until then. Throws where drawing fails. */
  async draw(job: DrawJob): Promise<DrawnPicture> {
    const bytes = this.buffer(bytesMade(job));
    if (this.drawer) return this.drawer.draw(job, bytes);
    const reply = await this.ask((id) => ({ kind: 'draw', id, job, bytes }), [bytes.buffer]);
    return (reply as Extract<PixelReply, { drawn: unknown }>).drawn;
  }

  /** The motion from one picture to another (I420, at least `fieldSize`), which every thread can read. */
  async motion(first: Uint8Array, second: Uint8Array, width: number, height: number): Promise<Uint8Array> {
    const field = this.sourceBytes(fieldBytes(fieldSize(width, height)!));
    if (this.drawer) this.drawer.find(first, second, width, height, field);
    else await this.ask((id) => ({ kind: 'motion', id, first, second, width, height, field }));
    return field;
  }

  /** Asks the thread that has least to do. */
  private ask(request: (id: number) => PixelRequest, transfer: Transferable[] = []): Promise<PixelReply> {
    const worker = this.busy.indexOf(Math.min(...this.busy));
    const id = this.nextId++;
    this.busy[worker]!++;
    const reply = new Promise<PixelReply>((resolve, reject) =>
      this.waiting.set(id, { worker, resolve, reject }),
    );
    this.workers[worker]!.postMessage(request(id), transfer);
    return reply;
  }

  /** Takes a picture's buffer back for the next one. */
  giveBack(bytes: Uint8Array<ArrayBuffer>): void {
    if (this.spare.length < MOST_SPARE) this.spare.push(bytes);
  }

  /** Ends every thread; what was being drawn fails. */
  close(): void {
    for (const worker of this.workers) worker.terminate();
    for (const { reject } of this.waiting.values()) reject(new Error('Drawing was ended.'));
    this.waiting.clear();
    this.spare = [];
  }

  private buffer(length: number): Uint8Array<ArrayBuffer> {
    const known = this.spare.pop();
    if (known?.length === length) return known;
    // Another size is asked for now: those of the old one are of no use any more.
    this.spare = [];
    return new Uint8Array(length);
  }

  private hear(reply: PixelReply): void {
    const waiting = this.waiting.get(reply.id);
    if (!waiting) return;
    this.waiting.delete(reply.id);
    this.busy[waiting.worker]!--;
    if ('problem' in reply) waiting.reject(new Error(reply.problem));
    else waiting.resolve(reply);
  }

  private lose(worker: number): void {
    // Nothing more is given to it while others are left.
    this.busy[worker] = Infinity;
    for (const [id, waiting] of this.waiting)
      if (waiting.worker === worker) {
        this.waiting.delete(id);
        waiting.reject(new Error('A drawing thread was lost.'));
      }
  }
}
