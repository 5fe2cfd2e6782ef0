import { z } from 'zod';
import type { Gather } from '../gather/gather';
import type { Similar } from '../steady/similar';

/**
 * Which points a look is drawn on by what is seen there: those that differ from a clean plate, a picture of the place
 * without what moves through it. Percent are of the whole range from dark to light.
 */
export const MatteSchema = z.object({
  /** The plate: a frame of a clip; null is the clip that is treated. */
  clip: z.string().min(1).max(100).nullable().default(null),
  frame: z.int().min(0).max(10_000_000).default(0),
  /** Differences up to this are none; over `softness` more they come in. */
  threshold: z.number().min(0).max(100).default(7),
  softness: z.number().min(0).max(100).default(5),
  /** Specks and holes up to about so many pixels of the project's picture go. */
  clean: z.number().min(0).max(60).default(4),
  /** Pixels: how softly it ends, and how far it is moved out. */
  feather: z.number().min(0).max(400).default(3),
  grow: z.number().min(-60).max(60).default(0),
  inverted: z.boolean().default(false),
});
export type Matte = z.infer<typeof MatteSchema>;

/** A matte as it is drawn on one picture: plain data, equal data equal pixels. */
export interface DrawnMatte {
  readonly plate: Gather;
  /** How the plate is moved, pixels of the project's picture. */
  readonly held?: Similar;
  /** Whose differences of what, as in `MatteSchema`. */
  readonly threshold: number;
  readonly softness: number;
  readonly clean: number;
  readonly feather: number;
  readonly grow: number;
  readonly inverted: boolean;
  /** How far the whole matte is moved, for what is drawn beside. */
  readonly moved?: readonly [x: number, y: number];
}
