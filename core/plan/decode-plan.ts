import { lastAtOrBefore } from '../search';

/**
 * Which frames to decode, in which order, and which to keep, when the order in which they will be
 * shown is known. What is dropped is the frame needed furthest ahead (Belady 1966), so a there-and-back
 * of any number of trips decodes its span once where it fits, and a backward pass through a long group
 * of pictures is decoded in the largest chunks that fit. A picture may be made of a set of frames: all of
 * them are held when it is its turn, and the same holds for them.
 */
export interface DecodeRequest {
  /** Frames in the order they will be shown; those of one picture stand together. */
  readonly wanted: Int32Array;
  /** For every position where its frames end in `wanted`; without it each position has one. */
  readonly ends?: Int32Array | undefined;
  /** Whether the order starts over after its end. */
  readonly loops: boolean;
  /** Position to begin with. */
  readonly start: number;
  /** Frames at which decoding can begin, ascending; the first is 0 or the lowest that can be decoded. */
  readonly keys: readonly number[];
  /** The first frames of clips that are numbered through, ascending: a run ends before the next one. */
  readonly clipStarts?: readonly number[];
  /** How many frames may be held at once; where one picture needs more, as many as it needs. */
  readonly capacity: number;
  /** Frames held already. */
  readonly held: Iterable<number>;
}

/** Runs that may be open at once: enough for two clips, or two places of one, that are seen together. */
export const MOST_RUNS = 2;

export type DecodeStep =
  /** Begin decode run `run` at key frame `key` in place of its run before; it will be read no further than `last`. */
  | { readonly kind: 'open'; readonly run: number; readonly key: number; readonly last: number }
  /** Take the next frame of a run; keep it, or pass over it. */
  | { readonly kind: 'decode'; readonly run: number; readonly frame: number; readonly keep: boolean }
  /** Let go of a held frame. */
  | { readonly kind: 'drop'; readonly frame: number }
  /** Every frame of a position is held now: show it. */
  | { readonly kind: 'show'; readonly position: number; readonly frames: readonly number[] };

/** The greatest key frame not after `frame`. */
export const keyBefore = (keys: readonly number[], frame: number): number =>
  keys[lastAtOrBefore(keys, frame)]!;

/** The first frame after the clip that a frame is of. */
function clipEnd(clipStarts: readonly number[] = [], frame: number): number {
  let low = 0;
  let high = clipStarts.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (clipStarts[middle]! <= frame) low = middle + 1;
    else high = middle;
  }
  return clipStarts[low] ?? Infinity;
}

/** Positions at which each frame is wanted, for asking when it is wanted next. */
class Uses {
  private readonly positions = new Map<number, number[]>();

  constructor(
    sets: Sets,
    private readonly period: number | undefined,
  ) {
    for (let position = 0; position < sets.length; position++)
      for (const f of sets.at(position)) {
        const list = this.positions.get(f);
        if (!list) this.positions.set(f, [position]);
        else if (list[list.length - 1] !== position) list.push(position);
      }
  }

  /** The first position at or after `at` (counted on through repeats); Infinity when there is none. */
  next(frame: number, at: number): number {
    const list = this.positions.get(frame);
    if (!list) return Infinity;
    const lap = this.period === undefined ? 0 : Math.floor(at / this.period) * this.period;
    const within = at - lap;
    let low = 0;
    let high = list.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (list[middle]! < within) low = middle + 1;
      else high = middle;
    }
    if (low < list.length) return lap + list[low]!;
    return this.period === undefined ? Infinity : lap + this.period + list[0]!;
  }
}

/** The frames of every position. */
class Sets {
  readonly length: number;

  constructor(
    private readonly wanted: Int32Array,
    private readonly ends: Int32Array | undefined,
  ) {
    this.length = ends?.length ?? wanted.length;
  }

  at(position: number): Int32Array {
    if (!this.ends) return this.wanted.subarray(position, position + 1);
    return this.wanted.subarray(this.ends[position - 1] ?? 0, this.ends[position]);
  }

  get largest(): number {
    let most = 1;
    for (let p = 0; this.ends && p < this.length; p++)
      most = Math.max(most, this.ends[p]! - (this.ends[p - 1] ?? 0));
    return most;
  }
}

/** A run that is being read: its clip's end tells it from those of other clips. */
interface Run {
  readonly number: number;
  readonly clipEnd: number;
  cursor: number;
  last: number;
  usedAt: number;
}

/**
 * The steps, one by one, endless when the order loops. Pure: the same request gives the same steps.
 * A caller that stops early simply stops asking.
 */
export function* planDecoding(request: DecodeRequest): Generator<DecodeStep, void, void> {
  const { loops, keys, clipStarts } = request;
  const sets = new Sets(request.wanted, request.ends);
  const capacity = Math.max(sets.largest, Math.floor(request.capacity));
  const { length } = sets;
  if (length === 0) return;
  const uses = new Uses(sets, loops ? length : undefined);
  const held = new Set<number>(request.held);
  const at = (position: number) => sets.at(loops ? position % length : position);
  const runs: Run[] = [];

  /**
   * Last frame worth reading in one run that is begun for `target` at `position`: the end of the stretch that never
   * turns back nor passes over a key frame it could begin at. What a picture has besides from elsewhere in the clip is
   * another run's.
   */
  const runEnd = (position: number, target: number, end: number): number => {
    let last = target;
    const limit = loops ? position + length : length;
    for (let p = position; p < limit; p++) {
      let latest = -1;
      for (const f of at(p).toSorted()) {
        if (clipEnd(clipStarts, f) !== end) continue;
        if (f > last) {
          if (keyBefore(keys, f) > last + 1) break;
          last = f;
        }
        latest = f;
      }
      // A picture of none of its frames ends it, as does one that lies wholly before where it has come to.
      if (latest < last) break;
    }
    return last;
  };

  /** The run that reads on to a frame, begun anew where none does. */
  function* runTo(position: number, target: number): Generator<DecodeStep, Run, void> {
    const end = clipEnd(clipStarts, target);
    const key = keyBefore(keys, target);
    const known = runs.find(
      (r) => r.clipEnd === end && target > r.cursor && target <= r.last && key <= r.cursor + 1,
    );
    if (known) return known;
    // A run of this clip that is read on for the same pictures stays: they are of two places in it.
    const done = (r: Run) => r.cursor >= r.last || r.usedAt < position - 1;
    const oldest = runs.toSorted((a, b) => a.usedAt - b.usedAt)[0];
    const replaced =
      runs.find((r) => r.clipEnd === end && done(r)) ?? (runs.length >= MOST_RUNS ? oldest : undefined);
    if (replaced) runs.splice(runs.indexOf(replaced), 1);
    const run: Run = {
      number: replaced?.number ?? runs.length,
      clipEnd: end,
      cursor: key - 1,
      last: runEnd(position, target, end),
      usedAt: position,
    };
    runs.push(run);
    yield { kind: 'open', run: run.number, key, last: run.last };
    return run;
  }

  /** The held frame needed furthest ahead. */
  const furthest = (position: number): { frame: number; use: number } => {
    let frame = -1;
    let use = -1;
    for (const f of held) {
      const next = uses.next(f, position);
      if (next > use) [frame, use] = [f, next];
      if (use === Infinity) break;
    }
    return { frame, use };
  };

  while (held.size > capacity) {
    const { frame } = furthest(request.start);
    held.delete(frame);
    yield { kind: 'drop', frame };
  }
  for (let position = request.start; loops || position < length; position++) {
    const frames = at(position);
    // Ascending, as they are decoded.
    for (const target of frames.length > 1 ? frames.toSorted() : frames) {
      if (held.has(target)) continue;
      const run = yield* runTo(position, target);
      run.usedAt = position;
      while (run.cursor < target) {
        run.cursor++;
        const use = held.has(run.cursor) ? Infinity : uses.next(run.cursor, position);
        let keep = use !== Infinity;
        if (keep && held.size >= capacity) {
          const worst = furthest(position);
          keep = worst.use > use;
          if (keep) {
            held.delete(worst.frame);
            yield { kind: 'drop', frame: worst.frame };
          }
        }
        if (keep) held.add(run.cursor);
        yield { kind: 'decode', run: run.number, frame: run.cursor, keep };
      }
    }
    yield { kind: 'show', position: loops ? position % length : position, frames: [...frames] };
  }
}

/** What a plan costs, for the reader of a report: frames decoded and shown over its first `shows` shows. */
export function planCost(
  request: DecodeRequest,
  shows: number,
): { decoded: number; runs: number; peakHeld: number } {
  let decoded = 0;
  let runs = 0;
  let held = new Set(request.held).size;
  let peakHeld = held;
  let left = shows;
  for (const step of planDecoding(request)) {
    if (step.kind === 'open') runs++;
    else if (step.kind === 'drop') held--;
    else if (step.kind === 'decode') {
      decoded++;
      if (step.keep) peakHeld = Math.max(peakHeld, ++held);
    } else if (--left <= 0) break;
  }
  return { decoded, runs, peakHeld };
}
