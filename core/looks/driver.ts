import { z } from 'zod';
import { chance } from '../moves/random';
import { PlaceSchema } from '../places/place';
import { type Facts, framesAt } from './facts';
import { type Stretch, chosenOf } from './scope';

const number = z.number().min(-1e6).max(1e6);
const frames = z.number().min(0).max(100_000);
const every = z.int().min(1).max(100_000);
export const EASES = ['even', 'in', 'out', 'both', 'hold'] as const;
const ease = z.enum(EASES).default('even');
export type Ease = (typeof EASES)[number];

/** Where a key lies: frames from where keys are counted, or a place that is where it is. */
const keyPlace = z.union([z.int().min(0).max(10_000_000), PlaceSchema]);

/** What moves a value. Frames are result frames. */
export const DriverSchema = z.discriminatedUnion('kind', [
  /** Through keys; `counts` from each stretch's first frame, or from the list's. An ease leads to the next key. */
  z.object({
    kind: z.literal('keys'),
    counts: z.enum(['stretch', 'result']).default('stretch'),
    keys: z
      .array(z.object({ at: keyPlace, value: number, ease }))
      .min(1)
      .max(1000),
  }),
  /** From `rest` by `depth` on every chosen beat or accent: up over the `rise` frames before it, `hold` there, down over `fall`. */
  z.object({
    kind: z.literal('pulse'),
    rest: number,
    depth: number,
    on: z.enum(['beats', 'bars', 'low', 'mid', 'high']),
    every: z.int().min(1).max(64).default(1),
    from: z.int().min(1).max(64).default(1),
    rise: frames.default(0),
    hold: frames.default(1),
    fall: frames.default(6),
    alternating: z.boolean().default(false),
  }),
  /** The next of a row of values every so many frames of the stretch. */
  z.object({
    kind: z.literal('steps'),
    values: z.array(number).min(1).max(200),
    every,
    smooth: z.boolean().default(false),
  }),
  /** From `from` at a speed to `to` at another, percent, clamped; with `signed` backward speeds are negative. */
  z.object({
    kind: z.literal('speed'),
    fromPercent: number,
    from: number,
    toPercent: number,
    to: number,
    signed: z.boolean().default(false),
  }),
  /** From `from` at each stretch's first frame to `to` at its last. */
  z.object({ kind: z.literal('progress'), from: number, to: number, ease }),
  /**
   * `rest` and up to `within` more or less, another every so many frames; where it comes home it is back at rest on each
   * stretch's last frame, eased over the last `homeOver` frames.
   */
  z.object({
    kind: z.literal('random'),
    rest: number,
    within: z.number().min(0).max(1e6),
    every,
    smooth: z.boolean().default(true),
    seed: z
      .int()
      .min(0)
      .max(2 ** 31 - 1)
      .default(1),
    comesHome: z.boolean().default(true),
    homeOver: z.int().min(1).max(10_000).default(1),
  }),
]);
export type Driver = z.infer<typeof DriverSchema>;

/** A number, or what moves it. */
export const ValueSchema = z.union([number, DriverSchema]);
export type Value = z.infer<typeof ValueSchema>;

export const isDriver = (value: unknown): value is Driver =>
  typeof value === 'object' && value !== null && DriverSchema.safeParse(value).success;

/** A share of the way, 0 to 1, eased. */
export function eased(ease: Ease, share: number): number {
  switch (ease) {
    case 'even':
      return share;
    case 'in':
      return share * share;
    case 'out':
      return share * (2 - share);
    case 'both':
      return share * share * (3 - 2 * share);
    case 'hold':
      return share < 1 ? 0 : 1;
  }
}

/** The value of a driver at a frame of a stretch. Finite for finite values; the same for the same arguments. */
export function valueAt(driver: Driver, frame: number, stretch: Stretch, facts: Facts): number {
  const { first, end } = stretch;
  const inside = frame - first;
  const length = end - first;
  switch (driver.kind) {
    case 'keys':
      return throughKeys(keysIn(driver, stretch, facts), frame);
    case 'pulse': {
      const places = placesOf(facts, driver);
      const { share, count } = pulseAt(places, frame, driver);
      const sign = driver.alternating && count % 2 === 1 ? -1 : 1;
      return driver.rest + sign * driver.depth * share;
    }
    case 'steps': {
      const at = inside / driver.every;
      const step = Math.floor(at);
      const value = (n: number) => driver.values[n % driver.values.length]!;
      return driver.smooth ? mix(value(step), value(step + 1), at - step) : value(step);
    }
    case 'speed': {
      const speed = facts.speeds[frame]! * 100;
      const { fromPercent, toPercent, from, to } = driver;
      const way = toPercent - fromPercent;
      const share = way === 0 ? 0 : ((driver.signed ? speed : Math.abs(speed)) - fromPercent) / way;
      return mix(from, to, Math.min(1, Math.max(0, share)));
    }
    case 'progress':
      return mix(driver.from, driver.to, eased(driver.ease, length > 1 ? inside / (length - 1) : 0));
    case 'random': {
      const at = inside / driver.every;
      const step = Math.floor(at);
      const value = (n: number) => driver.within * (2 * chance(driver.seed, first, n) - 1);
      const away = driver.smooth ? mix(value(step), value(step + 1), eased('both', at - step)) : value(step);
      const left = driver.comesHome ? (length - 1 - inside) / Math.min(driver.homeOver, length) : 1;
      return driver.rest + away * (left < 1 ? eased('both', left) : 1);
    }
  }
}

const mix = (a: number, b: number, share: number): number => a + (b - a) * share;

type Keys = Extract<Driver, { kind: 'keys' }>;
interface Key {
  readonly at: number;
  readonly value: number;
  readonly ease: Ease;
}
const laid = new WeakMap<Facts, WeakMap<Keys, Map<number, Key[]>>>();

/** A driver's keys by the frames they lie on, in order; worked out once for a stretch. */
export function keysIn(driver: Keys, { first }: Stretch, facts: Facts): readonly Key[] {
  const from = driver.counts === 'stretch' ? first : 0;
  const mine = laid.get(facts) ?? new WeakMap<Keys, Map<number, Key[]>>();
  laid.set(facts, mine);
  const byStretch = mine.get(driver) ?? new Map<number, Key[]>();
  mine.set(driver, byStretch);
  let keys = byStretch.get(from);
  if (!keys) {
    keys = driver.keys
      .flatMap(({ at, value, ease: to }) =>
        (typeof at === 'number' ? [from + at] : framesAt(at, facts)).map((on) => ({
          at: on,
          value,
          ease: to,
        })),
      )
      .sort((a, b) => a.at - b.at);
    // Where none of its places is, it rests at its first key.
    if (keys.length === 0) keys = [{ at: from, value: driver.keys[0]!.value, ease: 'even' }];
    byStretch.set(from, keys);
  }
  return keys;
}

function throughKeys(sorted: readonly Key[], at: number): number {
  let low = 0;
  let high = sorted.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (sorted[middle]!.at > at) high = middle;
    else low = middle + 1;
  }
  const next = low < sorted.length ? low : -1;
  if (next === 0) return sorted[0]!.value;
  const before = sorted[(next < 0 ? sorted.length : next) - 1]!;
  if (next < 0) return before.value;
  const after = sorted[next]!;
  return mix(before.value, after.value, eased(before.ease, (at - before.at) / (after.at - before.at)));
}

type Pulse = Extract<Driver, { kind: 'pulse' }>;
const known = new WeakMap<Facts, Map<string, number[]>>();

/** The frames a pulse answers to, in order; found once for the same facts. */
function placesOf(facts: Facts, { on, every, from }: Pulse): number[] {
  const key = `${on} ${every} ${from}`;
  const mine = known.get(facts) ?? new Map<string, number[]>();
  known.set(facts, mine);
  let places = mine.get(key);
  if (!places) {
    places =
      on === 'beats' || on === 'bars'
        ? chosenOf(facts, { of: on, every, from })
        : chosenOf(facts, { band: on }).filter((_, i) => (i - (from - 1)) % every === 0 && i >= from - 1);
    mine.set(key, places);
  }
  return places;
}

/** How far up a pulse is at a frame, 0 to 1, and how many places there were before the one it answers to. */
function pulseAt(
  places: readonly number[],
  frame: number,
  { rise, hold, fall }: Pulse,
): { share: number; count: number } {
  let low = 0;
  let high = places.length;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (places[middle]! <= frame) low = middle + 1;
    else high = middle;
  }
  const since = low > 0 ? frame - places[low - 1]! : Infinity;
  const falls = since < hold ? 1 : Math.max(0, 1 - (since - hold + 1) / (fall + 1));
  // It is at its top when the beat comes: on the way up to the next one already.
  const till = low < places.length ? places[low]! - frame : Infinity;
  const rises = till <= rise ? (rise + 1 - till) / (rise + 1) : 0;
  return rises > falls ? { share: rises, count: low } : { share: falls, count: Math.max(0, low - 1) };
}
