import { type MadeSegment, MadeSegmentSchema, withPlaces } from './place';

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
