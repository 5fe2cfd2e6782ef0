import type { Facts } from '@skipback/core/looks/facts';
import type { Stretch } from '@skipback/core/looks/scope';
import type { LookPlace } from '@skipback/core/project/look-actions';

/** Where a value's driver is worked out, for its curve. */
export interface Ground {
  readonly facts: Facts;
  readonly stretches: readonly Stretch[];
  /** The piece it is of; null for the whole result. */
  readonly where: LookPlace;
  /** The card it is in: the look's, or the piece's. */
  readonly card: string;
}
