import type { Facts } from './facts';
import { type Condition, EVERYWHERE, type Scope, stretchesOf } from './scope';

/** Frames that what is put on a hit is there at least. */
const HIT = 6;

/** Where a hit is: on the kicks of the song, else on marks of the clip, else where it turns. */
export const HITS: readonly Condition[] = [
  { kind: 'accents', not: false, band: 'low', before: 0, after: HIT },
  // Any mark there is.
  { kind: 'mark', not: false, name: '', before: 0, after: HIT },
  { kind: 'turns', not: false, before: 0, after: HIT },
];

/** A condition as it is there: of the marks the first one that is shown, and long enough for what falls away. */
function asItIs(condition: Condition, facts: Facts, lasts: number): Condition {
  const long = 'after' in condition ? { ...condition, after: Math.max(condition.after, lasts) } : condition;
  if (long.kind !== 'mark' || long.name !== '') return long;
  const [name] = [...facts.marks].find(([, frames]) => frames.length > 0) ?? [''];
  return { ...long, name };
}

/**
 * Where something begins that belongs to certain parts: the first of the conditions that holds in some frames and not
 * in all; undefined where none does. `lasts` is how long what it does takes to fall away, frames.
 */
export function scopeFor(wanted: readonly Condition[], facts: Facts, lasts: number): Scope | undefined {
  for (const one of wanted) {
    const scope = { ...EVERYWHERE, all: [asItIs(one, facts, lasts)] };
    const frames = stretchesOf(scope, facts).reduce((n, s) => n + s.end - s.first, 0);
    if (frames > 0 && frames < facts.frames) return scope;
  }
  return undefined;
}
