import type { z } from 'zod';
import { heard } from './heard';

/** How one thing is done by a worker of its own. */
export interface Running<Request, Reply> {
  readonly worker: Worker;
  readonly replies: z.ZodType<Reply>;
  /** What it is told first. */
  readonly begin: Request;
  /** Whether more is to come after a reply. */
  readonly goesOn: (reply: Reply) => boolean;
  /** The last reply where the worker died, cannot be understood, or says nothing for `quietMs`. */
  readonly failed: (how: 'died' | 'hung') => Reply;
  readonly quietMs: number;
  /** How long it may take to end once it was told to, milliseconds, and the last reply where it takes longer. */
  readonly stops: { readonly withinMs: number; readonly reply: Reply };
}

/**
 * A worker that does one thing and is gone then: `hear` gets its replies, and exactly one last one, whatever happens to it.
 */
export class RunningWorker<Request, Reply> {
  private ended = false;
  private quiet: ReturnType<typeof setTimeout> | undefined;
  private forced: ReturnType<typeof setTimeout> | undefined;

  constructor(
    private readonly running: Running<Request, Reply>,
    private readonly hear: (reply: Reply) => void,
  ) {
    const { worker, begin, goesOn, failed } = running;
    worker.addEventListener('message', (event: MessageEvent<unknown>) => {
      if (this.ended) return;
      const reply = this.understood(event.data);
      if (!goesOn(reply)) return this.end(reply);
      this.wait();
      hear(reply);
    });
    worker.addEventListener('error', () => this.end(failed('died')));
    worker.postMessage(begin);
    this.wait();
  }

  /** Tells it to end, by `word`: the last reply comes in any case. */
  stop(word: Request): void {
    const { worker, stops } = this.running;
    worker.postMessage(word);
    // Stuck in the middle of something, it is ended all the same.
    this.forced ??= setTimeout(() => this.end(stops.reply), stops.withinMs);
  }

  private understood(message: unknown): Reply {
    try {
      return heard(this.running.replies, message);
    } catch (error) {
      console.error(error);
      return this.running.failed('died');
    }
  }

  private wait(): void {
    clearTimeout(this.quiet);
    this.quiet = setTimeout(() => this.end(this.running.failed('hung')), this.running.quietMs);
  }

  private end(reply: Reply): void {
    if (this.ended) return;
    this.ended = true;
    clearTimeout(this.quiet);
    clearTimeout(this.forced);
    this.running.worker.terminate();
    this.hear(reply);
  }
}
