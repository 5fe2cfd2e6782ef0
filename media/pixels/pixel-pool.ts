import { fieldBytes, fieldSize } from '@skipback/core/flow/field';
import type { DrawJob, DrawnPicture } from './draw-job';
import { threadsWithin } from '../budgets';
import { Drawer, bytesMade } from './drawer';
import { heard } from '../heard';
import { type PixelReply, PixelReplySchema, type PixelRequest } from './pixel-messages';

/** Buffers kept for the next pictures, at most: fresh ones take longer than filling them. */
const MOST_SPARE = 16;

/**
 * Threads that draw, for a machine of so many cores: one less, since decoder and encoder want theirs, no more than have
 * room for pictures of a size, and at least one. Without memory that threads share it is one.
 */
export function drawingThreads(
  cores: number | undefined,
  size?: { readonly width: number; readonly height: number },
): number {
  if (typeof SharedArrayBuffer === 'undefined') return 1;
  return Math.min(Math.max(1, (cores ?? 1) - 1), size ? threadsWithin(size) : Infinity);
}

/** A worker as far as it is needed here. */
export type PixelWorker = Pick<Worker, 'postMessage' | 'terminate' | 'addEventListener'>;

/** A question, made anew each time it is asked: what it gives away goes with a thread that is lost. */
type Question = (id: number) => { readonly request: PixelRequest; readonly transfer?: Transferable[] };

interface WaitingJob {
  readonly thread: Thread;
  readonly question: Question;
  /** Whether it was lost with a thread before. */
  readonly again: boolean;
  readonly resolve: (reply: PixelReply | undefined) => void;
  readonly reject: (error: Error) => void;
}

interface Thread {
  readonly worker: PixelWorker;
  busy: number;
  /** Whether it ever answered: one that is lost before will be lost again. */
  answered: boolean;
}

/**
 * Draws pictures on several threads, or with one on the thread it is on, where nothing has to be sent. Sources
 * should lie in shared memory then: `sourceBytes` gives such. A thread that is lost is replaced, and what it was drawing
 * is drawn again; where threads can't be begun at all, drawing goes on on the thread it is on.
 */
export class PixelPool {
  private drawer: Drawer | undefined;
  private readonly running: Thread[] = [];
  private tables: Readonly<Record<string, string>> = {};
  private readonly waiting = new Map<number, WaitingJob>();
  private spare: Uint8Array<ArrayBuffer>[] = [];
  private nextId = 0;
  /** Whether sources must lie where every thread can read them. */
  private readonly shared: boolean;

  constructor(
    /** How many pictures are worth drawing at once. */
    readonly threads: number,
    private readonly newWorker: () => PixelWorker = () =>
      new Worker(new URL('./pixel-worker.ts', import.meta.url), { type: 'module' }),
  ) {
    if (threads === 1) this.drawer = new Drawer();
    else for (let i = 0; i < threads; i++) this.running.push(this.begin());
    this.shared = threads > 1;
  }

  /** Memory for a source picture, which every thread can read. */
  sourceBytes(length: number): Uint8Array {
    return new Uint8Array(this.shared ? new SharedArrayBuffer(length) : new ArrayBuffer(length));
  }

  setTables(tables: Readonly<Record<string, string>>): void {
    this.tables = tables;
    this.drawer?.setTables(tables);
    for (const { worker } of this.running)
      worker.postMessage({ kind: 'tables', tables } satisfies PixelRequest);
  }

  /** Forgets what was kept by what pictures are made of (`DrawnSide.content`): they are others from now on. */
  forget(): void {
    this.drawer?.forget();
    for (const { worker } of this.running) worker.postMessage({ kind: 'forget' } satisfies PixelRequest);
  }

  /** Makes a picture; its source must stay as it is until then. Throws where drawing fails. */
  async draw(job: DrawJob): Promise<DrawnPicture> {
    if (this.drawer) return this.drawer.draw(job, this.buffer(bytesMade(job)));
    const reply = await this.ask((id) => {
      const bytes = this.buffer(bytesMade(job));
      return { request: { kind: 'draw', id, job, bytes }, transfer: [bytes.buffer] };
    });
    // Every thread was lost on the way.
    if (!reply) return this.draw(job);
    return (reply as Extract<PixelReply, { drawn: unknown }>).drawn;
  }

  /** The motion from one picture to another (I420, at least `fieldSize`), which every thread can read. */
  async motion(first: Uint8Array, second: Uint8Array, width: number, height: number): Promise<Uint8Array> {
    const field = this.sourceBytes(fieldBytes(fieldSize(width, height)!));
    const asked =
      !this.drawer &&
      (await this.ask((id) => ({ request: { kind: 'motion', id, first, second, width, height, field } })));
    if (!asked) this.drawer!.find(first, second, width, height, field);
    return field;
  }

  private begin(): Thread {
    const worker = this.newWorker();
    const thread: Thread = { worker, busy: 0, answered: false };
    worker.addEventListener('message', ({ data }: MessageEvent<unknown>) =>
      this.hear(thread, heard(PixelReplySchema, data)),
    );
    worker.addEventListener('error', () => this.lose(thread));
    worker.postMessage({ kind: 'tables', tables: this.tables } satisfies PixelRequest);
    return thread;
  }

  /** Asks the thread that has least to do; gives nothing where there is no thread any more. */
  private async ask(question: Question, again = false): Promise<PixelReply | undefined> {
    const thread = this.running.reduce<Thread | undefined>(
      (least, t) => (!least || t.busy < least.busy ? t : least),
      undefined,
    );
    if (!thread) return undefined;
    const id = this.nextId++;
    thread.busy++;
    const { request, transfer = [] } = question(id);
    return new Promise<PixelReply | undefined>((resolve, reject) => {
      this.waiting.set(id, { thread, question, again, resolve, reject });
      thread.worker.postMessage(request, transfer);
    });
  }

  /** Takes a picture's buffer back for the next one. */
  giveBack(bytes: Uint8Array<ArrayBuffer>): void {
    if (this.spare.length < MOST_SPARE) this.spare.push(bytes);
  }

  /** Ends every thread; what was being drawn fails. */
  close(): void {
    for (const { worker } of this.running) worker.terminate();
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

  private hear(thread: Thread, reply: PixelReply): void {
    thread.answered = true;
    const waiting = this.waiting.get(reply.id);
    if (!waiting) return;
    this.waiting.delete(reply.id);
    waiting.thread.busy--;
    if ('problem' in reply) waiting.reject(new Error(reply.problem));
    else waiting.resolve(reply);
  }

  /** Puts another in place of a thread that is no more. One that never answered could not be begun: it stays away. */
  private lose(thread: Thread): void {
    const place = this.running.indexOf(thread);
    if (place < 0) return;
    thread.worker.terminate();
    this.running.splice(place, 1);
    if (thread.answered) this.running.push(this.begin());
    if (this.running.length === 0) {
      this.drawer = new Drawer();
      this.drawer.setTables(this.tables);
    }
    for (const [id, { thread: asked, question, again, resolve, reject }] of [...this.waiting]) {
      if (asked !== thread) continue;
      this.waiting.delete(id);
      // What ends a second thread would end every other.
      if (again) reject(new Error('A drawing thread was lost.'));
      else this.ask(question, thread.answered).then(resolve, reject);
    }
  }
}
