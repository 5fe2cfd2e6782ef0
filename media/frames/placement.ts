import type { Framing } from '@skipback/core/project/schema';
import type { Similar } from '@skipback/core/steady/similar';
import { type Placing, mapAt } from '@skipback/core/steady/steady';
import type { ClipSource } from './clip-row';

/** Where a decoded picture comes to lie: by its clip's framing, or held by a track. */
export interface Placement {
  readonly framing: Framing;
  /** As in `ClipSource`. */
  readonly clear: boolean;
  /** From the clip's pixels to those of the project's picture. */
  readonly held: { readonly map: Similar; readonly edges: Placing['edges'] } | undefined;
}

export const placementOf = ({ framing, placing, clear = false }: ClipSource, frame: number): Placement => ({
  framing,
  clear,
  held: placing && { map: mapAt(placing, frame), edges: placing.edges },
});
