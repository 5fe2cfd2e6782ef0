import { type FrameTable, durationOf, frameAt, frameDurationAt } from '../clip/frame-table';
import { type Rational, toNumber } from '../time/rational';
import { framesBefore, seconds } from '../time/units';
import type { TimePath } from './path';
import { type Segment, evenSegment, isEven, sourceAt, splitSegment } from './segment';

/**
 * Turns that are shown once. A path is kept as it plays, with every such turn resolved; the segments that meet
 * there remember the turn's instant. Whatever changes the path's pace resolves them anew, so a turn stays
 * once through everything that follows. The pass that gives way is the one that remembers the turn.
 *
 * Resolved means: from the last frame shown before the turn to the first one after, the source advances by the
 * mean of the two passes' steps, none counted below a frame of the clip (so what a slow speed repeats is not
 * repeated once more), and where middles do not allow that, by something between the two steps.
 */
export function resolveTurns(path: TimePath, table: FrameTable): TimePath {
  if (!turns(path) || resolved.get(path) === table) return path;
  const first = new Resolving(path, table);
  first.run();
  let best = first;
  // Where the end cannot be made to meet the beginning, the last turn before it helps out, or the last few.
  for (let turns = 1; turns <= HELPING && best.loopOff > GOOD_ENOUGH; turns++)
    for (const lean of LEANS) {
      const other = first.leaning(lean, turns);
      if (other && other.loopOff < best.loopOff) best = other;
      if (best.loopOff <= GOOD_ENOUGH) break;
    }
  const made = { rate: path.rate, segments: best.segments };
  resolved.set(made, table);
  return made;
}

/** Paths that came out of here, so that none is walked again for the clip it was resolved for. */
const resolved = new WeakMap<TimePath, FrameTable>();

/** The path `to`, which plays as `from` does: where its turns are resolved, so are these. */
export function stillResolved(from: TimePath, to: TimePath): TimePath {
  const table = resolved.get(from);
  if (table) resolved.set(to, table);
  return to;
}

/** A loop whose end is off by no more than this shows neither a frame twice nor a leap. */
const GOOD_ENOUGH = 1;
/** Segments before the last turn that may still be taken back when a loop is closed. */
const NEAR = 8;
/** Turns that may lean together. */
const HELPING = 4;
/** How far a turn may lean from the mean towards the greater step (or the smaller), to be tried in this order. */
const LEANS = Array.from({ length: 20 }, (_, i) => ((i >> 1) + 1) * (i % 2 === 0 ? 0.1 : -0.1));

/**
 * The same for a length that was asked for: each turn takes just one step, so that the length follows the pace
 * closely, and stays so until the pace changes. The advance may then be off by half a step.
 */
export function settleTurns(path: TimePath, table: FrameTable): TimePath {
  if (!turns(path)) return path;
  const settling = new Resolving(path, table, 'settles');
  settling.run();
  return settledPath({ rate: path.rate, segments: settling.segments });
}

/** The path with its turns as they lie, until its pace changes. */
export const settledPath = (path: TimePath): TimePath => ({
  rate: path.rate,
  segments: path.segments.map((s) => ({ ...s, turnsSettled: true as const })),
});

/** The path as it is, its turns forgotten: nothing that comes later moves them. */
export function withoutTurns(path: TimePath): TimePath {
  const segments = path.segments.map(
    ({ length, from, to, speedIn, speedOut, cutBefore, maker, part }): Segment => {
      const plain = { length, from, to, speedIn, speedOut, maker, part };
      return cutBefore ? { ...plain, cutBefore } : plain;
    },
  );
  return { rate: path.rate, segments };
}

const turns = (path: TimePath): boolean =>
  path.segments.some((s) => s.turnIn !== undefined || s.turnOut !== undefined);

/** Marks a path as a pass whose beginning and end are turns shown once. */
export function turningOnce(back: TimePath): TimePath {
  const end = back.segments.length - 1;
  return {
    rate: back.rate,
    segments: back.segments.map((s, i) => ({
      ...s,
      ...(i === 0 && { turnIn: s.turnIn ?? s.from }),
      ...(i === end && { turnOut: s.turnOut ?? s.to }),
    })),
  };
}

const SMALL = 1e-9;
/** Slower than this, in frames of the clip a result frame, a pass comes to rest at its turn by itself. */
const AT_REST = 1e-3;

/** The instant at which two segments turn once, if they do. */
function turnBetween(before: Segment, after: Segment): number | undefined {
  const turn = after.turnIn ?? before.turnOut;
  if (turn === undefined || after.cutBefore || before.speedOut * after.speedIn >= 0) return undefined;
  if (before.turnsSettled && after.turnsSettled) return undefined;
  const reaches = (other: number | undefined, end: number) => Math.abs((other ?? end) - turn) < 1e-6;
  return reaches(before.turnOut, before.to) && reaches(after.turnIn, after.from) ? turn : undefined;
}

/** Both passes at a turn, in frames of the clip a result frame, and how far apart the frames around it may lie. */
interface Steps {
  readonly frameS: number;
  readonly before: number;
  readonly after: number;
  readonly least: number;
  readonly mean: number;
  readonly most: number;
}

/** A segment that turns in where another did, and is of the same making. */
const markedAs = ({ turnIn, maker, part }: Segment, segment: Segment): Segment => ({
  ...segment,
  ...(turnIn !== undefined && { turnIn }),
  maker,
  part,
});

/** A segment that begins anew where another was put before it. */
const unturnedIn = (segment: Segment): Segment => ({
  ...segment,
  cutBefore: undefined,
  turnIn: undefined,
  turnsSettled: undefined,
});

/** One walk over a path: what is done, what is to come. Cost grows with the segments. */
class Resolving {
  private readonly done: Segment[] = [];
  /** Result frames done. */
  private at = 0;
  private next = 0;
  /** What comes next, where it begins otherwise than in the path. */
  private changed: Segment | undefined;
  /** Where the walk stood at the last turns that were entered later, the last one first. */
  private readonly lastTurns: { done: number; before: Segment; at: number; next: number }[] = [];
  /** How badly the end meets the beginning. */
  loopOff = 0;
  private readonly rate: Rational;
  private readonly hz: number;

  constructor(
    private readonly path: TimePath,
    private readonly table: FrameTable,
    /** Settles for just a step at each turn; or lets so many of the next turns lean. */
    private readonly how: 'settles' | { lean: number; turns: number } = { lean: 0, turns: 0 },
    /** What was done before and is left as it is; its first segment leads `done` too, for the loop. */
    private readonly kept: { readonly of: readonly Segment[]; readonly count: number } = { of: [], count: 0 },
  ) {
    this.rate = path.rate;
    this.hz = toNumber(path.rate);
  }

  /** What it came to. */
  get segments(): readonly Segment[] {
    if (this.done.length === 0) return this.path.segments.slice(0, 1);
    const { of, count } = this.kept;
    return count === 0 ? this.done : [...of.slice(0, count), ...this.done.slice(1)];
  }

  run(): void {
    for (let after = this.coming; after; after = this.coming) {
      const before = this.done[this.done.length - 1];
      const turn = before && turnBetween(before, after);
      if (turn !== undefined) {
        const steps = this.stepsAt(turn, before!.speedOut, after.speedIn);
        if (Math.min(steps.before, steps.after) > AT_REST) {
          if (after.turnIn !== undefined) this.enterLater(turn, steps);
          else this.leaveEarlier(turn, steps);
        }
      }
      const segment = this.coming;
      this.goPast();
      if (segment) this.push(segment);
    }
    if (this.done.length > 0) this.closeLoop();
  }

  /** The same walk, gone on from its last turns with these leaning; undefined where it had not so many. */
  leaning(lean: number, turns: number): Resolving | undefined {
    const lastTurn = this.lastTurns[turns - 1];
    // Where the end was taken back beyond that turn there is nothing left to lean.
    if (!lastTurn || this.done.length < lastTurn.done) return undefined;
    const entered = lastTurn.done - 1;
    const from = entered === 0 ? 0 : Math.max(1, entered - NEAR);
    const kept = { of: this.done, count: from };
    const other = new Resolving(this.path, this.table, { lean, turns }, kept);
    if (from > 0) other.done.push(this.done[0]!);
    for (let i = from; i < entered; i++) other.done.push(this.done[i]!);
    other.done.push(lastTurn.before);
    other.at = lastTurn.at;
    other.next = lastTurn.next;
    other.run();
    // Taken back as far as that, what was kept would no longer fit.
    return from === 0 || other.done.length > 1 ? other : undefined;
  }

  /** What comes next; undefined at the end. */
  private get coming(): Segment | undefined {
    return this.changed ?? this.path.segments[this.next];
  }

  private goPast(): void {
    this.next++;
    this.changed = undefined;
  }

  private push(segment: Segment): void {
    this.done.push(segment);
    this.at += segment.length;
  }

  private stepsAt(turn: number, speedBefore: number, speedAfter: number): Steps {
    const frameS = frameDurationAt(this.table, frameAt(this.table, seconds(turn)));
    const before = Math.abs(speedBefore) / this.hz / frameS;
    const after = Math.abs(speedAfter) / this.hz / frameS;
    const [a, b] = [Math.max(1, before), Math.max(1, after)];
    // Slower than the clip's frames a turn goes to the very next one at least: less would repeat one more often.
    const least = Math.max(1, Math.min(before, after));
    const most = Math.max(a, b) + Math.max(0, 1 - Math.min(before, after));
    return { frameS, before, after, least, mean: (a + b) / 2, most };
  }

  /** Source instant at a position that is done already. */
  private instantDone(position: number): number {
    let start = this.at;
    for (let i = this.done.length - 1; i >= 0; i--) {
      const segment = this.done[i]!;
      start -= segment.length;
      if (position >= start || i === 0) return sourceAt(segment, Math.max(0, position - start), this.rate);
    }
    return 0;
  }

  /** Lets what comes begin so much later (or earlier again) that its first frame lies a mean step from the last one shown. */
  private enterLater(turn: number, steps: Steps): void {
    const last = framesBefore(this.at) - 0.5;
    const away = last < 0 ? 0 : Math.abs(turn - this.instantDone(last));
    // The first middle after the join lies so far into what comes.
    const into = last + 1 - this.at;
    const least = away + (steps.least / 2 - steps.after * into) * steps.frameS;
    const before = this.done[this.done.length - 1]!;
    this.lastTurns.unshift({ done: this.done.length, before, at: this.at, next: this.next });
    if (this.lastTurns.length > HELPING) this.lastTurns.pop();
    const lean = this.how === 'settles' || this.how.turns-- <= 0 ? 0 : this.how.lean;
    const advance = steps.mean + lean * (lean > 0 ? steps.most - steps.mean : steps.mean - steps.least);
    const wanted =
      this.how === 'settles'
        ? Math.max(least, Math.max(1, steps.before) * steps.frameS)
        : away + (advance - steps.after * into) * steps.frameS;
    this.beginAt(turn, Math.max(0, wanted));
  }

  /** Lets what comes, which leaves a turn, begin where it is `distance` source seconds away from it. */
  private beginAt(turn: number, distance: number): void {
    const first = this.coming!;
    const now = Math.abs(first.from - turn);
    if (distance < now - SMALL) {
      const more = ((now - distance) / Math.abs(first.speedIn)) * this.hz;
      const from = turn + Math.sign(first.speedIn) * distance;
      if (isEven(first, this.rate))
        this.changed = { ...first, from: seconds(from), length: first.length + more };
      else {
        this.push(markedAs(first, evenSegment(more, from, first.from, this.rate)));
        this.changed = unturnedIn(first);
      }
      return;
    }
    if (distance <= now + SMALL) return;
    for (;;) {
      const head = this.coming!;
      if (Math.abs(head.to - turn) > distance + SMALL) {
        const cut = timeAtDistance(head, turn, distance, this.rate);
        this.changed = markedAs(first, splitSegment(head, cut, this.rate)[1]);
        return;
      }
      this.goPast();
      const following = this.coming;
      if (!following || following.cutBefore || head.speedOut * following.speedIn <= 0) return;
    }
  }

  /** Where the pass that is done would reach the turn, as a position. */
  private reaches(turn: number, steps: Steps): number {
    const last = this.done[this.done.length - 1]!;
    return this.at + ((turn - last.to) * Math.sign(last.speedOut)) / steps.frameS / steps.before;
  }

  /** Ends what is done so early that the first frame of what comes lies a step from the last one shown. */
  private leaveEarlier(turn: number, steps: Steps): void {
    const reaches = this.reaches(turn, steps);
    const { before: a, after: b } = steps;
    if (this.how === 'settles') return this.endAt(Math.min(reaches - Math.max(1, b) / a, reaches));
    let best = { end: reaches, off: Infinity };
    for (let last = framesBefore(reaches) - 0.5; last > 0; last--) {
      const u = reaches - last;
      if (a * u > 2 * (steps.most + a + b)) break;
      // A middle on the join would belong to what comes.
      const fromJoin = Math.min(1 - 1e-5, Math.max(0, (a * u - steps.mean) / b));
      const off = offBy(a * u - b * fromJoin, steps);
      if (off < best.off - 1e-6) best = { end: last + 1 - fromJoin, off };
    }
    this.endAt(best.end);
  }

  /** Where the end turns into the path's own beginning, it is moved to the whole frame that loops best. */
  private closeLoop(): void {
    const first = this.done[0]!;
    const last = this.done[this.done.length - 1]!;
    const turn = this.done.length > 1 ? turnBetween(last, first) : undefined;
    if (turn === undefined) return;
    const steps = this.stepsAt(turn, last.speedOut, first.speedIn);
    if (Math.min(steps.before, steps.after) <= AT_REST) return;
    const reaches = this.reaches(turn, steps);
    const begins = Math.abs(sourceAt(first, Math.min(0.5, first.length), this.rate) - turn) / steps.frameS;
    let best = { end: this.at, off: Infinity };
    for (let end = framesBefore(reaches); end >= 1; end--) {
      const out = steps.before * (reaches - end + 0.5);
      if (out > 2 * (steps.most + steps.before + begins)) break;
      const advance = Math.abs(out - begins);
      // Repeating a frame is seen, so is a leap; a step a little longer or shorter than the passes' is not.
      const off =
        badly(Math.max(1 - advance, advance - 1.4 * steps.most)) +
        10 * Math.max(advance - steps.most, 0) +
        Math.abs(advance - steps.mean);
      if (off < best.off - 1e-6) best = { end, off };
    }
    this.loopOff = best.off;
    this.endAt(Math.min(best.end, reaches));
  }

  /** Lets what is done end at another position: before the turn it ends in, or a part of a frame after it. */
  private endAt(end: number): void {
    const { turnOut } = this.done[this.done.length - 1]!;
    if (end > this.at + SMALL) this.goOn(end - this.at);
    while (this.done.length > 1 && this.at - this.done[this.done.length - 1]!.length >= end - SMALL)
      this.at -= this.done.pop()!.length;
    const last = this.done.pop()!;
    const start = this.at - last.length;
    const kept =
      end < this.at - SMALL && end > start + SMALL ? splitSegment(last, end - start, this.rate)[0] : last;
    this.at = start;
    this.push(turnOut === undefined || kept.turnOut === turnOut ? kept : { ...kept, turnOut });
  }

  /** Lets what is done go on as it went for some frames more, as far as the clip goes. */
  private goOn(wanted: number): void {
    const last = this.done[this.done.length - 1]!;
    const way = last.speedOut / this.hz;
    const room = way < 0 ? last.to : durationOf(this.table) - last.to;
    const more = Math.min(wanted, room / Math.abs(way));
    if (more <= SMALL) return;
    this.done.pop();
    this.at -= last.length;
    const to = last.to + way * more;
    if (isEven(last, this.rate)) this.push({ ...last, to: seconds(to), length: last.length + more });
    else {
      const { length, from, to: end, speedIn, speedOut, turnIn, cutBefore, maker, part } = last;
      this.push({
        ...{ length, from, to: end, speedIn, speedOut, maker, part },
        ...(turnIn !== undefined && { turnIn }),
        ...(cutBefore && { cutBefore }),
      });
      this.push({ ...evenSegment(more, end, to, this.rate), maker, part });
    }
  }
}

/** How badly an advance over a turn suits the passes' steps: outside them first, then how far from their mean. */
function offBy(advance: number, { least, mean, most }: Steps): number {
  return badly(Math.max(least - advance, advance - most)) + Math.abs(advance - mean);
}

/** Something that must not be, by however little it is. */
function badly(by: number): number {
  return by > 1e-6 ? 100 + 1000 * by : 0;
}

/** The position inside a segment that leaves a turn at which it is so far away from it. */
function timeAtDistance(segment: Segment, turn: number, distance: number, rate: Rational): number {
  const now = Math.abs(segment.from - turn);
  if (isEven(segment, rate)) return ((distance - now) / Math.abs(segment.speedIn)) * toNumber(rate);
  let low = 0;
  let high = segment.length;
  for (let i = 0; i < 60 && high - low > 1e-10; i++) {
    const middle = (low + high) / 2;
    if (Math.abs(sourceAt(segment, middle, rate) - turn) < distance) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
