import { z } from 'zod';

const id = z.string().min(1).max(100);
const position = z.number().min(-10_000_000).max(10_000_000);

/** A length or a place given in beats of the song, from where what comes in begins. */
export const InBeatsSchema = z.object({ beats: z.number().min(-10_000).max(10_000) });
export type InBeats = z.infer<typeof InBeatsSchema>;
export const isInBeats = (value: unknown): value is InBeats => InBeatsSchema.safeParse(value).success;

/** How far from a place another lies: frames, or beats. */
const plus = z.union([position, InBeatsSchema]).optional();

/** Which of the times that something of the clip is shown: the k-th, 1 the first, or each. */
const showing = z.union([z.int().min(1).max(10_000), z.literal('every')]).optional();

/** A frame of the clip by its number, or a mark by its identity. */
export const SourcePlaceSchema = z.union([
  z.strictObject({ source: z.int().min(0).max(10_000_000), showing, plus }),
  z.strictObject({ mark: id, showing, plus }),
]);
export type SourcePlace = z.infer<typeof SourcePlaceSchema>;

/** A beat, a bar or an accent of the song, counted in the song from 1; beats with fractions lie between two. */
export const MusicPlaceSchema = z.union([
  z.strictObject({ beat: z.number().min(-10_000).max(100_000), plus }),
  z.strictObject({ bar: z.number().min(-10_000).max(100_000), plus }),
  z.strictObject({ accent: z.int().min(1).max(100_000), band: z.enum(['low', 'mid', 'high']), plus }),
]);
export type MusicPlace = z.infer<typeof MusicPlaceSchema>;

/** The `nth` run (0 the first) of what moves made, the last of them first. */
export const MadeSegmentSchema = z.object({
  makers: z.array(z.object({ step: id, part: z.int().min(-2).max(1_000_000) })).max(100),
  nth: z.int().min(0).max(1_000_000).default(0),
});
export type MadeSegment = z.infer<typeof MadeSegmentSchema>;

/**
 * A beginning or an end of what a move made. `was` is where it lay when that was last known, in frames of what comes
 * in: without the move it rests there.
 */
export const SegmentPlaceSchema = z.strictObject({
  ...MadeSegmentSchema.shape,
  edge: z.enum(['from', 'to']),
  was: position,
  plus,
});
export type SegmentPlace = z.infer<typeof SegmentPlaceSchema>;

/**
 * Where something happens, on a path that comes in. A number is frames from its beginning; `share` a part of all of it;
 * `end` frames before its end; beats are counted from where it begins.
 */
export const PlaceSchema = z.union([
  position,
  z.strictObject({ share: z.number().min(0).max(1000), plus }),
  z.strictObject({ end: position }),
  SourcePlaceSchema,
  MusicPlaceSchema,
  SegmentPlaceSchema,
  InBeatsSchema.strict(),
]);
export type Place = z.infer<typeof PlaceSchema>;

/** From one place to another. */
export const StretchPlacesSchema = z.object({ from: PlaceSchema, to: PlaceSchema });
export type StretchPlaces = z.infer<typeof StretchPlacesSchema>;

/** All that places are made of: what has anything else is none, and need not be read. */
const KEYS: ReadonlySet<string> = new Set([
  ...['share', 'end', 'source', 'mark', 'showing', 'beat', 'bar', 'accent', 'band'],
  ...['makers', 'nth', 'edge', 'was', 'beats', 'plus'],
]);

/** Whether a value is a place that is not a plain number of frames. */
export const isPlace = (value: unknown): value is Exclude<Place, number> =>
  typeof value === 'object' &&
  value !== null &&
  Object.keys(value).every((key) => KEYS.has(key)) &&
  PlaceSchema.safeParse(value).success;

export const inClip = (place: unknown): place is SourcePlace =>
  isPlace(place) && ('source' in place || 'mark' in place);

export const inMusic = (place: unknown): place is MusicPlace =>
  isPlace(place) && ('beat' in place || 'bar' in place || 'accent' in place);

/** Whether where it is depends on the song: the place, or what it is moved by. */
export const listensToMusic = (place: unknown): boolean =>
  inMusic(place) ||
  isInBeats(place) ||
  (isPlace(place) && 'plus' in place && place.plus !== undefined && isInBeats(place.plus));

/**
 * A value with every place in it changed, however deep: undefined leaves one as it is. The same value where none
 * is.
 */
export function withPlaces<T>(value: T, change: (place: Exclude<Place, number>) => unknown): T {
  if (typeof value !== 'object' || value === null) return value;
  if (isPlace(value)) return (change(value) ?? value) as T;
  const entries = Object.entries(value);
  const changed = entries.map(([key, inner]) => [key, withPlaces(inner, change)] as const);
  if (changed.every(([, inner], i) => inner === entries[i]![1])) return value;
  return (Array.isArray(value) ? changed.map(([, inner]) => inner) : Object.fromEntries(changed)) as T;
}
