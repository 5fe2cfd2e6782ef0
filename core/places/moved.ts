import { type MadeSegment, MadeSegmentSchema, type Place, withPlaces } from './place';

const withIds = (segment: MadeSegment, id: (step: string) => string): MadeSegment => ({
  ...segment,
  makers: segment.makers.map((m) => ({ ...m, step: id(m.step) })),
});

/** Something with places in it (a link, a look), every move that they hold on to under another id. */
export function withSteps<T extends object>(value: T, id: (step: string) => string): T {
  const changed = withPlaces(value, (p) => ('makers' in p ? { ...p, ...withIds(p, id) } : undefined));
  const zone = (changed as { zone?: { segment?: unknown } }).zone;
  const segment = MadeSegmentSchema.safeParse(zone?.segment);
  return segment.success ? { ...changed, zone: { ...zone, segment: withIds(segment.data, id) } } : changed;
}

/** The same where a mark goes: what held on to it holds on to the frame it was on. */
export const withoutMark = <T>(value: T, mark: { readonly id: string; readonly frame: number }): T =>
  withPlaces(value, (p) => {
    if (!('mark' in p) || p.mark !== mark.id) return undefined;
    const { mark: _, ...rest } = p;
    return { source: mark.frame, ...rest };
  });

/** A place some frames after another (before it, below 0): what it holds on to stays. */
export function later(place: Place, frames: number): Place {
  if (frames === 0) return place;
  if (typeof place === 'number') return place + frames;
  if ('end' in place) return { end: place.end - frames };
  if ('beats' in place) return { beats: place.beats + Math.sign(frames) / 2 };
  if (typeof place.plus === 'object')
    return { ...place, plus: { beats: place.plus.beats + Math.sign(frames) / 2 } };
  return { ...place, plus: (place.plus ?? 0) + frames };
}
