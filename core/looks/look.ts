import { z } from 'zod';
import { MatteSchema } from '../regions/matte';
import { RegionSchema } from '../regions/region';
import { ValueSchema } from './driver';
import { EVERYWHERE, ScopeSchema } from './scope';

const id = z.string().min(1).max(100);

/** Looks a list may have. */
export const MOST_LOOKS = 100;

/** A look as a project has it. Values a treatment does not know are kept; those it misses take its defaults. */
export const LookSchema = z.object({
  id,
  /** Which treatment. One this version does not know is kept and left out. */
  look: id,
  on: z.boolean().default(true),
  values: z.record(z.string(), z.unknown()).default({}),
  scope: ScopeSchema.default(EVERYWHERE),
  /** Percent. */
  strength: ValueSchema.default(100),
  /** Where in the picture; null for all of it. */
  region: RegionSchema.nullable().default(null),
  /** On which points, by what is seen there; null for all. With a region, those within it. */
  matte: MatteSchema.nullable().default(null),
});
export type Look = z.infer<typeof LookSchema>;
