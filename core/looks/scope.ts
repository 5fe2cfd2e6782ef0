import { frameOn, isHeard } from '../beats/music';
import { z } from 'zod';
import { PlaceSchema } from '../places/place';
import { type Facts, framesAt, wayOf } from './facts';

const WAYS = ['forward', 'backward', 'held'] as const;
const frames = z.int().min(0).max(100_000);
const some = z.int().min(1).max(100_000);
const not = z.boolean().default(false);

/** One condition on a frame; `not` turns it round. Frames count from where the look's list begins. */
export const ConditionSchema = z.discriminatedUnion('kind', [
  /** From one place to another: of what is shown each time, as often as it is. */
  z.object({ kind: z.literal('range'), not, from: PlaceSchema, to: PlaceSchema }),
  z.object({ kind: z.literal('way'), not, way: z.enum(WAYS) }),
  z.object({ kind: z.literal('slower'), not, percent: z.number().min(0).max(10_000) }),
  z.object({ kind: z.literal('faster'), not, percent: z.number().min(0).max(10_000) }),
  z.object({ kind: z.literal('first'), not, frames: some, way: z.enum(WAYS) }),
  z.object({ kind: z.literal('last'), not, frames: some, way: z.enum(WAYS) }),
  z.object({ kind: z.literal('joins'), not, before: frames, after: frames }),
  z.object({ kind: z.literal('turns'), not, before: frames, after: frames }),
  /** Every `every`-th beat (or bar) from the `from`-th on, counted from 1. */
  z.object({
    kind: z.literal('beats'),
    not,
    of: z.enum(['beats', 'bars']),
    every: z.int().min(1).max(64),
    from: z.int().min(1).max(64),
    before: frames,
    after: frames,
  }),
  z.object({
    kind: z.literal('accents'),
    not,
    band: z.enum(['low', 'mid', 'high']),
    before: frames,
    after: frames,
  }),
  z.object({ kind: z.literal('mark'), not, name: z.string().max(200), before: frames, after: frames }),
  /** One that this version does not know, kept as it was: it holds nowhere, so that its look is off, not everywhere. */
  z.object({ kind: z.literal('unknown'), not, was: z.unknown() }),
]);
export type Condition = z.infer<typeof ConditionSchema>;

/**
 * Where a look applies: where all its conditions hold, or where one of them is enough, any; without conditions,
 * everywhere. Fades are frames inside it.
 */
export const ScopeSchema = z.object({
  all: z.array(ConditionSchema).max(12).default([]),
  either: z.boolean().default(false),
  fadeIn: frames.default(0),
  fadeOut: frames.default(0),
});
export type Scope = z.infer<typeof ScopeSchema>;

export const EVERYWHERE: Scope = { all: [], either: false, fadeIn: 0, fadeOut: 0 };

/** Frames in a row in which a look applies. */
export interface Stretch {
  readonly first: number;
  /** The frame after its last. */
  readonly end: number;
}

/** The stretches in which a scope holds, in order. */
export function stretchesOf(scope: Scope, facts: Facts): Stretch[] {
  const either = scope.either && scope.all.length > 0;
  const holds = new Uint8Array(facts.frames).fill(either ? 0 : 1);
  for (const condition of scope.all) {
    const here = framesOf(condition, facts);
    const wanted = condition.kind !== 'unknown' && condition.not ? 0 : 1;
    for (let i = 0; i < holds.length; i++) if ((here[i] === wanted) === either) holds[i] = either ? 1 : 0;
  }
  return runsOf(facts.frames, (i) => holds[i] === 1);
}

/** How strongly a scope holds at a frame of a stretch: its fades, (k + 1) / (n + 1) for the k-th of n frames. */
export function fadeAt({ fadeIn, fadeOut }: Scope, { first, end }: Stretch, frame: number): number {
  return Math.min(1, (frame - first + 1) / (fadeIn + 1), (end - frame) / (fadeOut + 1));
}

/** Frames chosen of the song: those that beats, bars or accents are on; accents that are strong enough on Beats. */
export function chosenOf(
  facts: Facts,
  on:
    | { readonly of: 'beats' | 'bars'; readonly every: number; readonly from: number }
    | { readonly band: 'low' | 'mid' | 'high' },
): number[] {
  const { music } = facts;
  if (!music) return [];
  if ('band' in on)
    return music.accents
      .filter(
        (a) =>
          a.band === on.band &&
          a.strength * 100 >= music.envelopes[a.band].leastPercent &&
          isHeard(a.at, music),
      )
      .map((a) => frameOn(a.at, music));
  const { beats, firstBar, beatsPerBar } = music;
  const step = on.of === 'bars' ? beatsPerBar * on.every : on.every;
  const offset = firstBar + (on.of === 'bars' ? beatsPerBar * (on.from - 1) : on.from - 1);
  return beats
    .filter((b, i) => (((i - offset) % step) + step) % step === 0 && isHeard(b, music))
    .map((b) => frameOn(b, music));
}

function framesOf(condition: Condition, facts: Facts): Uint8Array {
  const { frames: count, speeds } = facts;
  const where = (holds: (i: number) => boolean) =>
    Uint8Array.from({ length: count }, (_, i) => (holds(i) ? 1 : 0));
  const around = (places: readonly number[], { before, after }: Around, loops = false) => {
    const out = new Uint8Array(count);
    for (const at of places)
      for (let i = at - before; i < at + after; i++) {
        // What lies before the loop's own join is the end.
        const here = loops && at === 0 && i < 0 ? i + count : i;
        if (here >= 0 && here < count) out[here] = 1;
      }
    return out;
  };
  const percent = (i: number) => Math.abs(speeds[i]!) * 100;
  switch (condition.kind) {
    case 'range': {
      const out = new Uint8Array(count);
      const ends = framesAt(condition.to, facts);
      for (const from of framesAt(condition.from, facts)) {
        const to = ends.find((end) => end > from);
        if (to !== undefined) out.fill(1, Math.max(0, from), Math.max(0, to));
      }
      return out;
    }
    case 'way':
      return where((i) => wayOf(speeds[i]!) === condition.way);
    case 'slower':
      return where((i) => percent(i) < condition.percent - SAME);
    case 'faster':
      return where((i) => percent(i) > condition.percent + SAME);
    case 'first':
    case 'last': {
      const out = new Uint8Array(count);
      for (const { first, end } of runsOf(count, (i) => wayOf(speeds[i]!) === condition.way))
        if (condition.kind === 'first') out.fill(1, first, Math.min(end, first + condition.frames));
        else out.fill(1, Math.max(first, end - condition.frames), end);
      return out;
    }
    case 'joins':
      return around(facts.joins, condition, true);
    case 'turns':
      return around(facts.turns, condition, true);
    case 'beats':
    case 'accents':
      return around(chosenOf(facts, condition), condition);
    case 'mark':
      return around(facts.marks.get(condition.name) ?? [], condition);
    case 'unknown':
      return new Uint8Array(count);
  }
}

/** Frames before a place, and from it on. */
interface Around {
  readonly before: number;
  readonly after: number;
}

/** Percent within which two speeds are one. */
const SAME = 1e-6;

function runsOf(count: number, holds: (i: number) => boolean): Stretch[] {
  const runs: Stretch[] = [];
  let first = -1;
  for (let i = 0; i <= count; i++) {
    const here = i < count && holds(i);
    if (here && first < 0) first = i;
    if (!here && first >= 0) {
      runs.push({ first, end: i });
      first = -1;
    }
  }
  return runs;
}
