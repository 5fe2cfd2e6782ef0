import { frame } from '@skipback/core/time/units';
import { inOrder } from '../pixels/in-order';
import type { SharedPicture } from '../frames/shared-picture';
import type { ReadyPictures } from './picture-clock';
import type { PlayOrder } from './play-order';
import type { ShownPicture } from './screen';

/** A picture of the order whose sources are there: made, or let go of. */
export interface Makeable {
  /** Its place among the places that were asked for. */
  readonly at: number;
  make(): Promise<SharedPicture<ShownPicture> | undefined>;
  release(): void;
}

/** What pictures are made of, as far as keeping up asks of it. */
export interface Making {
  /** Serves the result frames `positions` from place `start` on, over and over where it loops. */
  serve(positions: Int32Array, start: number, loops: boolean): AsyncGenerator<Makeable, void, void>;
  /** How many pictures are worth making at once. */
  readonly depth: () => number;
  /** Frames that must be decoded to get at a result frame when decoding begins anew there. */
  readonly wayTo: (position: number) => number;
  /** Milliseconds it takes to pass over one frame on the way; undefined where that is not known yet. */
  readonly passingMs: () => number | undefined;
  /** Frames decoded so far. */
  readonly decoded: () => number;
}

/** Places passed over between two pictures, at most: fewer pictures than this a second are no motion any more. */
const WIDEST = 8;
/** Seconds behind from which on what lies between is given up. */
const GIVEN_UP_S = 0.5;
/** Seconds ahead in which a place is looked for that can be reached in time. */
const LOOKED_AHEAD_S = 4;
/** How many pictures what one takes is the mean of. */
const MEAN_OF = 12;
/** Seconds at one stride before a smaller one is tried. */
const TRIED_AFTER_S = 1;

/** A picture is taken to need a little more than its mean, or each would come a little later than the one before. */
const SLACK = 1.03;

const now = () => performance.now();

/**
 * Makes the pictures of a play order ahead of the clock. Where they take longer than they last, only every second,
 * third … is made, so that each comes when it is due; where it has come to lie behind, it goes on at what is due.
 */
export class Filling {
  /** Every so-manieth place of the order is made. */
  private stride = 1;
  private changedAt = 0;
  /** Milliseconds that the newest pictures took at this stride. */
  private took: number[] = [];
  /** What of that is not decoding, on the mean. */
  private makingMs = 0;
  /** Whether this stride is tried because there was time to spare, and has not proven itself yet. */
  private tried = false;

  constructor(
    private readonly order: PlayOrder,
    private readonly loops: boolean,
    private readonly rateHz: number,
    private readonly waiting: ReadyPictures,
    private readonly making: Making,
  ) {}

  /** Fills until all was made or `signal` aborts. */
  async fill(signal: AbortSignal): Promise<void> {
    let turn: number | undefined = 0;
    while (turn !== undefined && !signal.aborted) turn = await this.stretch(turn, signal);
    this.waiting.filled = true;
  }

  private get count(): number {
    return this.order.positions.length;
  }

  /** The last turn there is. */
  get lastTurn(): number {
    return this.loops ? Infinity : this.count - 1 - this.order.start;
  }

  /** Makes pictures from `turn` on at one stride; gives the turn to go on with, or undefined when all were made. */
  private async stretch(turn: number, signal: AbortSignal): Promise<number | undefined> {
    const { order, count, stride, waiting, making, lastTurn } = this;
    const index = (order.start + turn) % count;
    const places: number[] = [];
    for (let i = index % stride; i < count; i += stride) places.push(i);
    // Without a loop it ends on its last frame.
    if (!this.loops && places[places.length - 1] !== count - 1) places.push(count - 1);
    const start = Math.floor(index / stride);
    const round = Math.floor((order.start + turn) / count);
    const positions = Int32Array.from(places, (p) => order.positions[p]!);
    let served = 0;
    let first = true;
    let [since, decodedBefore] = [now(), making.decoded()];
    const turnOf = (n: number) =>
      (round + Math.floor((start + n) / places.length)) * count +
      places[(start + n) % places.length]! -
      order.start;
    const make = async (m: Makeable) => {
      const t = turnOf(served++);
      // Where the next one is due already it is not drawn; the last one stays on the screen.
      const over = t + stride <= waiting.due && t !== lastTurn;
      if (over) m.release();
      return {
        turn: t,
        position: frame(positions[m.at]!),
        over,
        picture: over ? undefined : await m.make(),
      };
    };
    const inRow = inOrder(making.serve(positions, start, this.loops), making.depth(), make, (m) =>
      m.picture?.release(),
    );
    for await (const made of inRow) {
      const { over, ...ready } = made;
      // The first one opens what is read from.
      if (!first && !over) this.note(now() - since, making.decoded() - decodedBefore);
      first = false;
      const wasFull = !over && (await waiting.add(ready, signal));
      if (signal.aborted) return undefined;
      [since, decodedBefore] = [now(), making.decoded()];
      const next = ready.turn + 1;
      if (next > lastTurn) return undefined;
      const behind = waiting.due - next;
      const wanted = this.wanted();
      if (over || behind > GIVEN_UP_S * this.rateHz) {
        this.take(Math.max(stride, wanted));
        return this.reachable(next);
      }
      const wider = behind > stride ? Math.max(stride + 1, wanted) : wanted;
      // A stride that is tried is given up before anything is late.
      const early = this.tried ? (2.5 * this.makingMs * this.rateHz) / 1000 : 0;
      if (behind > -early && wider > stride && stride < WIDEST) {
        this.take(wider);
        return this.reachable(next);
      }
      if (served > MEAN_OF && wanted <= stride) this.tried = false;
      if (wasFull && stride > 1 && now() - this.changedAt > 1000 * TRIED_AFTER_S) {
        // What a loop has kept is there at once: all of it is tried.
        this.take(this.loops ? 1 : Math.min(stride, wanted));
        this.tried = this.stride !== stride;
        if (this.tried) return next;
      }
    }
    return undefined;
  }

  private take(stride: number): void {
    this.changedAt = now();
    this.tried = false;
    if (stride === this.stride) return;
    this.stride = Math.min(WIDEST, stride);
    this.took = [];
  }

  private note(ms: number, decoded: number): void {
    // What was kept says nothing of what making takes.
    if (decoded === 0 && ms < 250 / this.rateHz) return;
    this.took.push(ms);
    if (this.took.length > MEAN_OF) this.took.shift();
  }

  /** The stride at which pictures take no longer than they last. */
  private wanted(): number {
    const { took } = this;
    if (took.length === 0) return this.stride;
    const meanMs = took.reduce((sum, ms) => sum + ms, 0) / took.length;
    // What is passed over takes its time as well, the more of it the wider the stride.
    const passingMs = this.making.passingMs() ?? 0;
    this.makingMs = Math.max(0, meanMs - this.stride * passingMs);
    const leftMs = 1000 / this.rateHz - passingMs;
    if (leftMs <= 0) return WIDEST;
    return Math.max(1, Math.min(WIDEST, Math.ceil((this.makingMs * SLACK) / leftMs)));
  }

  /** The turn from `next` and what is due on whose picture can be there soonest after it is due, or in time. */
  private reachable(next: number): number {
    const { order, count, waiting, lastTurn } = this;
    const turnMs = 1000 / this.rateHz;
    const { due } = waiting;
    const from = Math.max(due, next);
    let best = Math.min(from, lastTurn);
    const passingMs = this.making.passingMs() ?? 0;
    let least = Infinity;
    for (let t = from; t <= Math.min(lastTurn, from + LOOKED_AHEAD_S * this.rateHz); t++) {
      const way = this.making.wayTo(order.positions[(order.start + t) % count]!);
      const lateMs = this.makingMs + way * passingMs - (t - due) * turnMs;
      if (lateMs < least) [best, least] = [t, lateMs];
      if (lateMs <= 0) break;
    }
    return best;
  }
}
