import { type DecodeRequest, planDecoding } from '@skipback/core/plan/decode-plan';
import { SharedPicture } from './shared-picture';

/** Weight of the newest frame in the mean of what passing over one takes. */
const NEWEST = 0.1;

/** One frame of a run; `picture` is undefined where it was not to be kept, or nothing near it could be decoded. */
export interface RunStep<T> {
  readonly frame: number;
  readonly damaged: boolean;
  readonly picture: T | undefined;
}

/** Begins a run of decoded pictures, in order; before each it asks whether that one is kept. */
export type OpenRun<T> = (
  key: number,
  last: number,
  keeping: () => boolean,
) => AsyncGenerator<RunStep<T>, void, void>;

export interface Served<T extends { close(): void }> {
  readonly position: number;
  readonly frames: readonly number[];
  /** One a frame, held for the receiver, who releases them. Undefined where nothing near it could be decoded. */
  readonly pictures: readonly (SharedPicture<T> | undefined)[];
}

/** Who would have pictures that are decoded only on the way to others. */
export interface OnTheWay<T extends { close(): void }> {
  /** Asked before each. */
  wants(): boolean;
  /** The receiver releases it. */
  give(picture: SharedPicture<T>): void;
}

/**
 * Serves pictures in a known order, keeping what will be wanted again within a number of frames.
 * Carries out the core's plan: every picture closed by its last holder.
 */
export class FrameServer<T extends { close(): void }> {
  private readonly held = new Map<number, SharedPicture<T> | undefined>();
  private readonly runs = new Map<number, AsyncGenerator<RunStep<T>, void, void>>();
  private keeping = false;
  private heldBytes = 0;
  /** Milliseconds it takes to pass over a frame, on the mean; undefined before one was. */
  passingMs: number | undefined;
  /** Most bytes held at once so far. */
  peakBytes = 0;
  /** Frames that could not be decoded; the run may give a good one near them in their place. */
  readonly damaged = new Set<number>();

  constructor(
    private readonly openRun: OpenRun<T>,
    private readonly bytesOf: (picture: T) => number,
  ) {}

  get bytes(): number {
    return this.heldBytes;
  }

  /**
   * Serves an order until it ends, the receiver stops asking, or `signal` aborts. Only one serving at
   * a time: the caller waits for the one before to finish.
   */
  async *serve(
    request: Omit<DecodeRequest, 'held'>,
    signal: AbortSignal,
    onTheWay?: OnTheWay<T>,
  ): AsyncGenerator<Served<T>, void, void> {
    try {
      for (const step of planDecoding({ ...request, held: this.held.keys() })) {
        if (signal.aborted) return;
        if (step.kind === 'open') {
          await this.endRun(step.run);
          this.runs.set(
            step.run,
            this.openRun(step.key, step.last, () => this.keeping),
          );
        } else if (step.kind === 'drop') this.drop(step.frame);
        else if (step.kind === 'decode') {
          this.keeping = step.keep || (onTheWay?.wants() ?? false);
          const began = performance.now();
          const next = await this.runs.get(step.run)!.next();
          if (!this.keeping) this.notePassing(performance.now() - began);
          if (next.done || next.value.damaged) this.damaged.add(step.frame);
          const picture = next.done ? undefined : next.value.picture;
          const shared = picture && new SharedPicture(picture, this.bytesOf(picture));
          // Unasked, none comes of a frame that is passed over.
          if (shared && !step.keep) onTheWay ? onTheWay.give(shared) : shared.release();
          else if (shared) this.keep(step.frame, shared);
          else if (step.keep) this.keep(step.frame, undefined);
        } else {
          const { position, frames } = step;
          yield { position, frames, pictures: frames.map((f) => this.held.get(f)?.retain()) };
        }
      }
    } finally {
      await this.endRuns();
    }
  }

  /** The held picture nearest to a frame, of those in [lowest, highest], for the caller to release; the frame itself if that is there. */
  nearest(frame: number, lowest: number, highest: number): SharedPicture<T> | undefined {
    let found: SharedPicture<T> | undefined;
    let least = Infinity;
    for (const [held, picture] of this.held) {
      const distance = Math.abs(held - frame);
      if (!picture || held < lowest || held > highest || distance >= least) continue;
      [found, least] = [picture, distance];
    }
    return found?.retain();
  }

  /** Lets go of everything. Call when nothing is being served. */
  async clear(): Promise<void> {
    await this.endRuns();
    for (const frame of [...this.held.keys()]) this.drop(frame);
  }

  private notePassing(ms: number): void {
    this.passingMs = this.passingMs === undefined ? ms : this.passingMs + (ms - this.passingMs) * NEWEST;
  }

  private async endRun(number: number): Promise<void> {
    const run = this.runs.get(number);
    this.runs.delete(number);
    await run?.return();
  }

  private async endRuns(): Promise<void> {
    for (const number of [...this.runs.keys()]) await this.endRun(number);
  }

  private keep(frame: number, picture: SharedPicture<T> | undefined): void {
    this.held.set(frame, picture);
    this.heldBytes += picture?.bytes ?? 0;
    this.peakBytes = Math.max(this.peakBytes, this.heldBytes);
  }

  private drop(frame: number): void {
    const picture = this.held.get(frame);
    this.held.delete(frame);
    this.heldBytes -= picture?.bytes ?? 0;
    picture?.release();
  }
}
