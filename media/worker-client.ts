/** Something that did not work, said in a sentence for people. */
export class Said extends Error {
  constructor(readonly sentence: string) {
    super(sentence);
  }
}

/** The sentence of what was thrown; `otherwise` for what nobody wrote a sentence for. */
export function sentenceOf(thrown: unknown, otherwise: string): string {
  if (thrown instanceof Said) return thrown.sentence;
  // Nobody foresaw it: whoever looks for the cause finds it in the console.
  console.error(thrown);
  return otherwise;
}

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

/**
 * The page's end of a worker that answers questions: one worker, begun when first needed and again when it
 * died. Every question has one answer (`kind` of the answer asked for), or `failed` with a sentence; `progress`
 * may come before it.
 */
export class WorkerClient<Request extends Numbered, Reply extends Numbered> {
  private worker: Worker | undefined;
  private readonly waiting = new Map<number, Waiter<Reply>>();
  private nextId = 1;

  /** `diedSentence` is what those who wait are told when the worker dies, `onDeath` runs then. */
  constructor(
    private readonly make: () => Worker,
    private readonly diedSentence: string,
    private readonly onDeath: () => void = () => undefined,
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
    });
    if (reply.kind !== kind) throw new Error(`asked for ${kind}, was given ${reply.kind}`);
    return reply as Extract<Reply, { kind: Kind }>;
  }

  private begin(): Worker {
    const worker = this.make();
    worker.addEventListener('message', ({ data }: MessageEvent<Reply>) => {
      const waiter = this.waiting.get(data.id);
      if (data.kind === 'progress' && 'share' in data) return waiter?.progress(Number(data.share));
      this.waiting.delete(data.id);
      if (data.kind === 'failed' && 'sentence' in data) waiter?.reject(new Said(String(data.sentence)));
      else waiter?.resolve(data);
    });
    worker.addEventListener('error', () => {
      worker.terminate();
      for (const waiter of this.waiting.values()) waiter.reject(new Said(this.diedSentence));
      this.waiting.clear();
      this.worker = undefined;
      this.onDeath();
    });
    return worker;
  }
}
