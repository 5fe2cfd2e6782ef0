import { isDriver } from '../looks/driver';
import type { Look } from '../looks/look';
import { moveById, valuesOf } from '../moves/registry';
import { type Place, withPlaces } from '../places/place';
import type { Piece } from './schema';

/**
 * What is counted in result frames, at another rate: as long, and at the same instant, as before. What lies in the
 * clip, in the music, on a segment or at a share stays that.
 */
const whole = (frames: number, times: number, least = 0): number =>
  Math.max(least, Math.round(frames * times));

function placeAtRate(place: Exclude<Place, number>, times: number): unknown {
  if ('end' in place) return { end: whole(place.end, times, -Infinity) };
  const plus =
    'plus' in place && typeof place.plus === 'number' ? { plus: whole(place.plus, times, -Infinity) } : {};
  return { ...place, ...plus, ...('was' in place && { was: place.was * times }) };
}

const placesAtRate = <T>(value: T, times: number): T => withPlaces(value, (p) => placeAtRate(p, times));

function stepAtRate(step: Piece['chain'][number], times: number): Piece['chain'][number] {
  const move = moveById(step.move);
  const values = placesAtRate({ ...step.values }, times);
  for (const field of move?.fields ?? []) {
    const value = valuesOf(step)[field.key];
    if ((field.kind === 'length' || field.kind === 'place') && typeof value === 'number')
      values[field.key] = Math.min(field.max, whole(value, times, field.min));
  }
  // Lists along what comes in, and along the clip, which is no longer for that.
  const all = { ...move?.defaults, ...values };
  if (move?.elsewhere) {
    const read = move.schema.safeParse(all);
    if (read.success)
      Object.assign(values, move.elsewhere(read.data, { source: (frame) => frame, along: times, clip: 1 }));
  }
  const { zone } = step;
  const at = (place: Place) => (typeof place === 'number' ? place * times : placesAtRate(place, times));
  const limited =
    zone &&
    ('from' in zone
      ? { from: at(zone.from), to: at(zone.to) }
      : { ...zone, was: { from: zone.was.from * times, to: zone.was.to * times } });
  return { ...step, values, ...(limited && { zone: limited }) };
}

function drivenAtRate<V>(value: V, times: number): V {
  if (!isDriver(value)) return value;
  const moved = placesAtRate(value, times);
  switch (moved.kind) {
    case 'keys':
      return {
        ...moved,
        keys: moved.keys.map((k) => (typeof k.at === 'number' ? { ...k, at: whole(k.at, times) } : k)),
      };
    case 'pulse':
      return { ...moved, rise: moved.rise * times, hold: moved.hold * times, fall: moved.fall * times };
    case 'steps':
    case 'random':
      return { ...moved, every: whole(moved.every, times, 1) };
    default:
      return moved;
  }
}

/** A look at another rate. */
export function lookAtRate(look: Look, times: number): Look {
  const at = (place: Place): Place =>
    typeof place === 'number' ? whole(place, times) : placesAtRate(place, times);
  const all = look.scope.all.map((c) => {
    if (c.kind === 'range') return { ...c, from: at(c.from), to: at(c.to) };
    if ('before' in c) return { ...c, before: whole(c.before, times), after: whole(c.after, times) };
    return c.kind === 'first' || c.kind === 'last' ? { ...c, frames: whole(c.frames, times, 1) } : c;
  });
  const { fadeIn, fadeOut } = look.scope;
  return {
    ...look,
    strength: drivenAtRate(look.strength, times),
    values: Object.fromEntries(Object.entries(look.values).map(([key, v]) => [key, drivenAtRate(v, times)])),
    scope: { ...look.scope, all, fadeIn: whole(fadeIn, times), fadeOut: whole(fadeOut, times) },
    ...(look.region?.counts === 'result' && {
      region: {
        ...look.region,
        keys: look.region.keys
          .map((k) => ({ ...k, at: whole(k.at, times) }))
          // Keys that fall on one frame are one.
          .filter((k, i, all) => i === 0 || k.at > all[i - 1]!.at),
      },
    }),
  };
}

/** A piece at another rate. */
export const pieceAtRate = (piece: Piece, times: number): Piece => ({
  ...piece,
  chain: piece.chain.map((s) => stepAtRate(s, times)),
  looks: piece.looks.map((l) => lookAtRate(l, times)),
  shutter: drivenAtRate(piece.shutter, times),
  dissolve:
    typeof piece.dissolve === 'number' ? whole(piece.dissolve, times) : placesAtRate(piece.dissolve, times),
});
