import { type TimePath, pathFrames } from '../path/path';
import { type Place, isPlace } from '../places/place';
import { withoutPlaces } from './place-values';
import { applyChain } from './chain';
import type { AnyMove, MoveContext } from './move';
import { type Random, seeded } from './random';

type Values = Record<string, unknown>;

/** Attempts at a variation that differs from those before it and is not too long. */
const TRIES = 12;
/** Result frames past which a variation is too long to be looked at in a sheet. */
const LONGEST = 3000;

/**
 * Other values of a move, none alike: `count` of them, as far from the present ones as `wildness` says
 * (0 hardly, 1 anything). The same seed gives the same ones. Values its schema or its own limits refuse,
 * and those that leave the path unchanged or endless, are tried again; fewer come back where there are no more.
 */
export function variationsOf(
  move: AnyMove,
  values: Values,
  incoming: TimePath,
  context: MoveContext,
  { seed, wildness, count }: { readonly seed: number; readonly wildness: number; readonly count: number },
): Values[] {
  const random = seeded(seed);
  const known = new Set([JSON.stringify(values)]);
  const found: Values[] = [];
  for (let tries = 0; found.length < count && tries < count * TRIES; tries++) {
    const next = vary(move, values, random, wildness, pathFrames(incoming), context.limited ?? false);
    const key = JSON.stringify(next);
    if (known.has(key) || !move.schema.safeParse(withoutPlaces(move, next)).success) continue;
    known.add(key);
    const link = { id: 'varied', move: move.id, on: true, values: next };
    const { path, steps } = applyChain(incoming, [link], context);
    const notices = steps.flatMap((s) => s.notices);
    if (pathFrames(path) > LONGEST || notices.some((n) => n.level !== 'info')) continue;
    found.push(next);
  }
  return found;
}

/** One variation: every value that applies is moved by chance, numbers in proportion to their size. */
function vary(
  move: AnyMove,
  values: Values,
  random: Random,
  wildness: number,
  incoming: number,
  limited: boolean,
): Values {
  const next: Values = { ...values };
  for (const field of move.fields) {
    if (field.when && !field.when(next, limited)) continue;
    const value = values[field.key];
    // The first value of a move is often how the rest is given ("by trips, by length"): it stays.
    if (field.kind === 'choice') {
      if (field.key !== 'by' && random() < 0.15 + 0.35 * wildness)
        next[field.key] = field.options[Math.floor(random() * field.options.length)]!.value;
    } else if (field.kind === 'text')
      next[field.key] = move.vary?.(next, random, wildness)[field.key] ?? value;
    else if (isPlace(value)) {
      if (random() < 0.75) next[field.key] = placeVaried(value, random, wildness, incoming);
    } else if (random() < 0.75) {
      const factor = 2 ** ((random() * 2 - 1) * (0.3 + 2 * wildness));
      const place = field.kind === 'place';
      const moved = place
        ? Number(value) + (random() * 2 - 1) * incoming * 0.4 * wildness
        : Number(value) * factor + (random() - 0.5) * (field.kind === 'percent' ? 4 : 1.5);
      const highest = place ? Math.max(field.min, incoming - 1) : field.max;
      const step = field.kind === 'percent' && moved > 20 ? 5 : 1;
      next[field.key] = Math.min(highest, field.max, Math.max(field.min, Math.round(moved / step) * step));
    }
  }
  return next;
}

/** A place some way off, or a length in beats some quarters longer: what it holds on to stays. */
function placeVaried(
  place: Exclude<Place, number>,
  random: Random,
  wildness: number,
  incoming: number,
): unknown {
  const by = random() * 2 - 1;
  if ('beats' in place) {
    const beats = place.beats * 2 ** (by * (0.3 + 2 * wildness));
    return { beats: Math.max(0.25, Math.round(beats * 4) / 4) };
  }
  if ('beat' in place)
    return { ...place, beat: Math.max(1, Math.round(place.beat + by * (1 + 3 * wildness))) };
  if ('end' in place) return { end: Math.max(0, Math.round(place.end + by * incoming * 0.4 * wildness)) };
  return { ...place, plus: Math.round(by * incoming * 0.4 * wildness) };
}
