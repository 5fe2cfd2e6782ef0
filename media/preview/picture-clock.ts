import type { Frame } from '@skipback/core/time/units';
import { budgets } from '../budgets';
import type { SharedPicture } from '../frames/shared-picture';
import type { PreviewReply } from './messages';
import type { Screen, ShownPicture } from './screen';
import type { ScreenLooks } from './screen-looks';

/** Pictures made ready ahead of the clock, at least and at most: a cut to a place far behind its key frame takes a second of them. */
const AHEAD = { least: 10, most: 40 };

/** How many pictures of so many bytes are made ready ahead of the clock. */
export const aheadOf = (pictureBytes: number): number =>
  Math.max(AHEAD.least, Math.min(AHEAD.most, Math.floor(budgets.ahead / pictureBytes)));
/** Pictures ready before the clock starts. */
const BEFORE_START = 3;
/** Pictures with looks that came too late in half a second of playing, from which on they are drawn coarser. */
const TOO_LATE = 3;
/** Milliseconds without a late picture after which they are drawn finer again. */
const FINER_AFTER_MS = 5000;
/** How often numbers are told. */
const TOLD_EVERY_MS = 500;

/** A picture that waits for its turn; whoever shows it or passes it over releases it. */
export interface Ready {
  readonly turn: number;
  readonly position: Frame;
  readonly picture: SharedPicture<ShownPicture> | undefined;
}

/** Pictures made ready on one side and shown on the other. */
export class ReadyPictures {
  readonly pictures: Ready[] = [];
  /** Set when no more come. */
  filled = false;
  /** The turn that is due by the clock; -1 before it runs. */
  due = -1;
  private wake = () => {};

  /** `most` pictures may wait. */
  constructor(private readonly most: number) {}

  /** Adds one and waits until there is room for another. Gives whether there was none. */
  async add(ready: Ready, signal: AbortSignal): Promise<boolean> {
    if (signal.aborted) {
      ready.picture?.release();
      return false;
    }
    const full = this.pictures.push(ready) >= this.most;
    while (this.pictures.length >= this.most && !signal.aborted)
      await new Promise<void>((resolve) => (this.wake = resolve));
    return full;
  }

  /** Says that one was taken, or that none will be any more. */
  taken(): void {
    this.wake();
  }

  clear(): void {
    this.pictures.splice(0).forEach((r) => r.picture?.release());
  }
}

/**
 * Shows what is due by a monotonic clock, one display frame after the other. What was due and not shown is counted;
 * where drawing is to blame, pictures are drawn coarser for a while.
 */
export class PictureClock {
  /** Pictures shown, and those that were due but never reached the screen, since playing began. */
  shown = 0;
  late = 0;
  /** How far the sound has moved the clock since then. */
  private shiftMs = 0;

  constructor(
    private readonly screen: Screen,
    private readonly looks: ScreenLooks,
    private readonly tell: (reply: PreviewReply) => void,
    private readonly tellStats: () => void,
  ) {}

  begin(): void {
    this.shown = 0;
    this.late = 0;
    this.shiftMs = 0;
  }

  shiftClock(byMs: number): void {
    this.shiftMs += byMs;
  }

  /**
   * Follows until all was shown (true) or `signal` aborts. `first` is the result frame that comes first, `lastTurn` the
   * last one there is.
   */
  async follow(
    waiting: ReadyPictures,
    first: Frame,
    lastTurn: number,
    rateHz: number,
    signal: AbortSignal,
  ): Promise<boolean> {
    const { pictures } = waiting;
    let began: number | undefined;
    let shownTurn = -1;
    let lastTold = 0;
    let lateBefore = 0;
    let inTimeSince = performance.now();
    for (;;) {
      const now = await displayFrame();
      if (signal.aborted) return false;
      if (began === undefined) {
        if (pictures.length < BEFORE_START && !waiting.filled) continue;
        began = now;
        this.tell({ kind: 'began', atMs: performance.timeOrigin + now, position: first });
      }
      const due = Math.floor(((now - began + this.shiftMs) / 1000) * rateHz + 0.01);
      waiting.due = due;
      let next: Ready | undefined;
      while (pictures[0] && pictures[0].turn <= due) {
        next?.picture?.release();
        next = pictures.shift();
      }
      if (next) {
        this.screen.show(next.picture?.picture);
        next.picture?.release();
        this.shown++;
        shownTurn = next.turn;
        this.tell({ kind: 'shown-result', position: next.position });
        waiting.taken();
      }
      this.late = Math.max(0, Math.min(due, lastTurn) + 1 - this.shown);
      if (now - lastTold > TOLD_EVERY_MS) {
        lastTold = now;
        if (this.late - lateBefore >= TOO_LATE && this.looks.any && this.looks.meanMs > 150 / rateHz) {
          this.looks.coarser(1);
          inTimeSince = now;
        } else if (this.late > lateBefore) inTimeSince = now;
        else if (now - inTimeSince > FINER_AFTER_MS && this.looks.coarser(-1)) inTimeSince = now;
        lateBefore = this.late;
        this.tellStats();
      }
      if (waiting.filled && pictures.length === 0 && due > shownTurn) return true;
    }
  }
}

/** The next display refresh, as a time in milliseconds. */
function displayFrame(): Promise<number> {
  return new Promise((resolve) => {
    if (typeof requestAnimationFrame === 'function') requestAnimationFrame(() => resolve(performance.now()));
    else setTimeout(() => resolve(performance.now()), 8);
  });
}
