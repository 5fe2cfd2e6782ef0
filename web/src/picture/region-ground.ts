import { frameCount } from '@skipback/core/clip/frame-table';
import type { LookPlace } from '@skipback/core/project/look-actions';
import { type Region, carriesOf, mapOf } from '@skipback/core/regions/region';
import type { Similar } from '@skipback/core/steady/similar';
import type { Seen } from './seen';

const HERE: Similar = { a: 1, b: 0, x: 0, y: 0 };

/** Where a region of a look lies on the picture that is seen: at which frame of its keys, and how. */
export interface RegionGround {
  readonly frame: number;
  /** From the region's own numbers to the project's picture. */
  readonly map: Similar;
}

/** Undefined where the region is not in what is seen: another clip, or its track is lost there. */
export function regionGround(
  seen: Seen | undefined,
  where: LookPlace,
  region: Region | null,
  position: number,
): RegionGround | undefined {
  if (where === null) return { frame: position, map: HERE };
  if (!seen) return undefined;
  const { clip, record } = seen.loaded;
  const carries = region && carriesOf(region, clip.tracks, frameCount(record.facts.table));
  const carried = carries?.(seen.frame);
  if (carries && !carried) return undefined;
  const counted = region?.counts === 'result' ? position - seen.countsFrom : seen.frame;
  return { frame: Math.max(0, counted), map: mapOf(seen.map, carried) };
}
