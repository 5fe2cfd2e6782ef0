import type { z } from 'zod';
import { heard } from './heard';

/** Something that did not work, said in a sentence for people. */
export class Said extends Error {
  constructor(readonly sentence: string) {
    super(sentence);
  }
}

/** The sentence of what was thrown; `otherwise` for what nobody wrote a sentence for. */
export function sentenceOf(thrown: unknown, otherwise: string): string {
  if (thrown instanceof Said) return thrown.sentence;
  if (isGone(thrown))
    return 'A clip’s file cannot be read any more: it was taken away or changed. Choose it again, or reload the page.';
  // Nobody foresaw it: whoever looks for the cause finds it in the console.
  console.error(thrown);
  return otherwise;
}

/** What browsers throw where the bytes of a file that was there are not any more. */
const isGone = (thrown: unknown): boolean =>
  (thrown instanceof TypeError && /^network error$/i.test(thrown.message)) ||
  (thrown instanceof DOMException && /^Not(Found|Readable)Error$/.test(thrown.name));

interface Numbered {
  readonly id: number;
  readonly kind: string;
}
type Unnumbered<R> = R extends Numbered ? Omit<R, 'id'> : never;

interface Waiter<Reply> {
  resolve(reply: Reply): void;
  reject(problem: Said): void;
  progress(share: number): void;
}

/** How a worker is waited for, and what those who wait are told. */
export interface Patience {
  /** Told when the worker dies. */
  readonly died: string;
  /** Runs then. */
  readonly onDeath?: () => void;
  /** Without an answer or a word of progress for so many milliseconds it counts as hung, and is begun anew. */
  readonly quietMs?: number;
  /** Told then. */
  readonly hung?: string;
}

/**
 * The page's end of a worker that answers questions: one worker, begun when first needed and again when it
 * died. Every question has one answer (`kind` of the answer asked for), or `failed` with a sentence; `progress`
 * may come before it.
 */
export class WorkerClient<Request extends Numbered, Reply extends Numbered> {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiter<Reply>>();
  private nextId = 1;

  private watch: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly make: () => Worker,
    private readonly replies: z.ZodType<Reply>,
    private readonly patience: Patience,
  ) {}

  /** Asks, and gives the answer of kind `kind`. Throws `Said`. */
  async ask<Kind extends Reply['kind']>(
    request: Unnumbered<Request>,
    kind: Kind,
    progress: (share: number) => void = () => undefined,
  ): Promise<Extract<Reply, { kind: Kind }>> {
    const id = this.nextId++;
    const worker = (this.worker ??= this.begin());
    const reply = await new Promise<Reply>((resolve, reject) => {
      this.waiting.set(id, { resolve, reject, progress });
      worker.postMessage({ ...request, id });
      this.wait();
    });
    if (reply.kind !== kind) throw new Error(`asked for ${kind}, was given ${reply.kind}`);
    return reply as Extract<Reply, { kind: Kind }>;
  }

  /** Says something that has no answer, where there is a worker to hear it. */
  tell(word: Unnumbered<Request>): void {
    this.worker?.postMessage({ ...word, id: 0 });
  }

  /** Ends what is being done; whoever waits is told `sentence`. */
  stop(sentence: string): void {
    if (this.waiting.size > 0) this.bury(sentence);
  }

  private begin(): Worker {
    const worker = this.make();
    worker.addEventListener('message', (event: MessageEvent<unknown>) => {
      if (worker !== this.worker) return;
      const data = this.understood(event.data);
      if (!data) return this.bury(this.patience.died);
      const waiter = this.waiting.get(data.id);
      const goesOn = data.kind === 'progress' && 'share' in data;
      if (!goesOn) this.waiting.delete(data.id);
      this.wait();
      if (goesOn) waiter?.progress(Number(data.share));
      else if (data.kind === 'failed' && 'sentence' in data) waiter?.reject(new Said(String(data.sentence)));
      else waiter?.resolve(data);
    });
    worker.addEventListener('error', () => worker === this.worker && this.bury(this.patience.died));
    return worker;
  }

  private understood(message: unknown): Reply | undefined {
    try {
      return heard(this.replies, message);
    } catch (error) {
      console.error(error);
      return undefined;
    }
  }

  /** Waits from now on, as long as there is something to wait for. */
  private wait(): void {
    const { quietMs, hung, died } = this.patience;
    clearTimeout(this.watch);
    if (quietMs !== undefined && this.waiting.size > 0)
      this.watch = setTimeout(() => this.bury(hung ?? died), quietMs);
  }

  /** Ends the worker; whoever waits is told, and the next question begins another. */
  private bury(sentence: string): void {
    this.worker?.terminate();
    this.worker = undefined;
    clearTimeout(this.watch);
    const waiters = [...this.waiting.values()];
    this.waiting.clear();
    this.patience.onDeath?.();
    for (const waiter of waiters) waiter.reject(new Said(sentence));
  }
}
