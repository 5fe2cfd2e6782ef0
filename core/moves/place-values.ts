import { type Notice, warning } from '../notice';
import { type InBeats, type SourcePlace, inClip, inMusic, isInBeats, isPlace } from '../places/place';
import { type Ground, instantOf, lengthFrames, resolvePlace, sourceOf } from '../places/resolve';
import type { AnyMove, Field } from './move';

/** A move's values with every place in them worked out. */
export interface Worked {
  /** One set of values for every time it happens, the last first: done in this order none moves another. */
  readonly sets: readonly Record<string, unknown>[];
  /** The instants of the clip that places of it name, by the values' keys; seconds. */
  readonly instants: Readonly<Record<string, number>>;
  readonly notices: readonly Notice[];
}

type Values = Record<string, unknown>;

/** Why a move does nothing where a place of it cannot be found. */
class Nowhere {
  constructor(readonly said: Notice) {}
}

/**
 * Works out the places among a move's values on what comes in: lengths in beats as frames, places as result positions,
 * frames of the clip by their numbers. A notice where one cannot be found at all: then the move does nothing.
 */
export function workOut(move: AnyMove, values: Values, ground: Ground, limited = true): Worked | Notice {
  const notices: Notice[] = [];
  const instants: Record<string, number> = {};
  const say = (said: Notice | undefined) => {
    if (said) notices.push(said);
  };
  const found = (value: unknown): number => {
    if (!isPlace(value)) return value as number;
    const { at, said } = resolvePlace(value, ground);
    if (at.length === 0) throw new Nowhere(said!);
    say(said);
    return at[0]!;
  };
  try {
    const shown = (f: Field<Values>) => f.when?.(values, limited) ?? true;
    let sets: Values[] = [{ ...values }];
    for (const field of move.fields) {
      const value = values[field.key];
      if (!isPlace(value)) continue;
      const set = (to: unknown) => {
        sets = sets.map((s) => ({ ...s, [field.key]: to }));
      };
      if (!shown(field)) set(standIn(field));
      else if (field.kind === 'length' && isInBeats(value)) set(lengthOf(field, value, ground));
      else if (field.kind === 'source' && inClip(value)) set(frameOf(value, ground));
      else if (field.kind === 'beat' && inMusic(value)) set({ at: soundsAt(value, ground) });
      else if (field.kind === 'place') {
        const { at, instant, said } = resolvePlace(value, ground);
        if (at.length === 0) return said!;
        say(said);
        if (instant !== undefined) instants[field.key] = instant;
        sets = sets.flatMap((s) =>
          at.toReversed().map((a) => ({ ...s, [field.key]: Math.max(field.min, a) })),
        );
      }
    }
    if (move.lists) {
      const where = {
        place: found,
        source: (v: unknown) => (inClip(v) ? frameOf(v, ground) : (v as number)),
      };
      sets = sets.map((s) => ({ ...s, ...move.lists!(s, where) }));
    }
    return { sets, instants, notices };
  } catch (e) {
    if (e instanceof Nowhere) return e.said;
    throw e;
  }
}

/** The same for values on their own, so that the rest of them can be checked: places are some frame that is allowed. */
export function withoutPlaces(move: AnyMove, values: Values): Values {
  const out = { ...values };
  for (const field of move.fields) if (isPlace(values[field.key])) out[field.key] = standIn(field);
  // Each another one, as they will be.
  let known = 0;
  const plain = (value: unknown) => (isPlace(value) ? ++known : (value as number));
  try {
    return move.lists ? { ...out, ...move.lists(out, { place: plain, source: plain }) } : out;
  } catch {
    // A list of another form than it should have: its schema says so.
    return out;
  }
}

const standIn = (field: Field<Values>): number => ('min' in field ? Math.max(1, field.min) : 1);

function lengthOf(field: Field<Values>, value: InBeats, { music }: Ground): number {
  if (!music || music.beats.length < 2)
    throw new Nowhere(
      warning(
        'no-beats',
        `${field.label} is in beats, but there is no song with beats.`,
        'Add a song on Beats, or type frames.',
      ),
    );
  return Math.max('min' in field ? field.min : 1, lengthFrames(value, music));
}

function frameOf(place: SourcePlace, ground: Ground): number {
  const frame = sourceOf(place, ground);
  if (frame === undefined)
    throw new Nowhere(
      warning('no-mark', 'It goes by a mark that is not there any more.', 'Choose another frame.'),
    );
  return frame + (typeof place.plus === 'number' ? Math.round(place.plus) : 0);
}

function soundsAt(place: Parameters<typeof instantOf>[0], { music }: Ground): number {
  const at = music && music.beats.length > 1 ? instantOf(place, music) : undefined;
  if (at === undefined)
    throw new Nowhere(
      warning(
        'no-beats',
        'It lands on the song, and there is none, or not so much of it.',
        'Add a song on Beats.',
      ),
    );
  return at + (typeof place.plus === 'number' ? place.plus : 0);
}

/** The values that are given in beats, by their keys. */
export const beatsIn = (values: Values): Record<string, number> =>
  Object.fromEntries(Object.entries(values).flatMap(([key, v]) => (isInBeats(v) ? [[key, v.beats]] : [])));
