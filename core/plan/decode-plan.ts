/**
 * Which frames to decode, in which order, and which to keep, when the order in which they will be
 * shown is known. What is dropped is the frame needed furthest ahead (Belady 1966), so a there-and-back
 * of any number of trips decodes its span once where it fits, and a backward pass through a long group
 * of pictures is decoded in the largest chunks that fit.
 */
export interface DecodeRequest {
  /** Frames in the order they will be shown. */
  readonly wanted: Int32Array;
  /** Whether the order starts over after its end. */
  readonly loops: boolean;
  /** Index in `wanted` to begin with. */
  readonly start: number;
  /** Frames at which decoding can begin, ascending; the first is 0 or the lowest that can be decoded. */
  readonly keys: readonly number[];
  /** The first frames of clips that are numbered through, ascending: a run ends before the next one. */
  readonly clipStarts?: readonly number[];
  /** How many frames may be held at once; at least 1. */
  readonly capacity: number;
  /** Frames held already. */
  readonly held: Iterable<number>;
}

export type DecodeStep =
  /** Begin a decode run at key frame `key`; it will be read no further than `last`. */
  | { readonly kind: 'open'; readonly key: number; readonly last: number }
  /** Take the next frame of the run; keep it, or pass over it. */
  | { readonly kind: 'decode'; readonly frame: number; readonly keep: boolean }
  /** Let go of a held frame. */
  | { readonly kind: 'drop'; readonly frame: number }
  /** `wanted[position]` is held now: show it. */
  | { readonly kind: 'show'; readonly position: number; readonly frame: number };

/** The greatest key frame not after `frame`. */
export function keyBefore(keys: readonly number[], frame: number): number {
  let low = 0;
  let high = keys.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (keys[middle]! <= frame) low = middle;
    else high = middle - 1;
  }
  return keys[low]!;
}

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
    wanted: Int32Array,
    private readonly period: number | undefined,
  ) {
    wanted.forEach((f, i) => {
      const list = this.positions.get(f);
      if (list) list.push(i);
      else this.positions.set(f, [i]);
    });
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

/**
 * The steps, one by one, endless when the order loops. Pure: the same request gives the same steps.
 * A caller that stops early simply stops asking.
 */
export function* planDecoding(request: DecodeRequest): Generator<DecodeStep, void, void> {
  const { wanted, loops, keys } = request;
  const capacity = Math.max(1, Math.floor(request.capacity));
  const length = wanted.length;
  if (length === 0) return;
  const uses = new Uses(wanted, loops ? length : undefined);
  const held = new Set<number>(request.held);
  const at = (position: number) => wanted[loops ? position % length : position]!;
  let cursor = -1;
  let runLast = -2;

  /** Last frame worth reading in one run from `position`: the end of the stretch that never turns back nor passes over a key frame it could begin at. */
  const runEnd = (position: number): number => {
    let last = at(position);
    const end = clipEnd(request.clipStarts, last);
    const limit = loops ? position + length : length;
    for (let p = position + 1; p < limit; p++) {
      const f = at(p);
      if (f < last || f >= end || keyBefore(keys, f) > last + 1) break;
      last = f;
    }
    return last;
  };

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
    const target = at(position);
    if (!held.has(target)) {
      const goesOn = target > cursor && target <= runLast && keyBefore(keys, target) <= cursor + 1;
      if (!goesOn) {
        const key = keyBefore(keys, target);
        runLast = runEnd(position);
        cursor = key - 1;
        yield { kind: 'open', key, last: runLast };
      }
      while (cursor < target) {
        cursor++;
        const use = held.has(cursor) ? Infinity : uses.next(cursor, position);
        let keep = use !== Infinity;
        if (keep && held.size >= capacity) {
          const worst = furthest(position);
          keep = worst.use > use;
          if (keep) {
            held.delete(worst.frame);
            yield { kind: 'drop', frame: worst.frame };
          }
        }
        if (keep) held.add(cursor);
        yield { kind: 'decode', frame: cursor, keep };
      }
    }
    yield { kind: 'show', position: loops ? position % length : position, frame: target };
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
