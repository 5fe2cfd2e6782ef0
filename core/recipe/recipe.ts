import { z } from 'zod';
import { BetweenSchema } from '../gather/gather';
import { ValueSchema } from '../looks/driver';
import { LookSchema, MOST_LOOKS } from '../looks/look';
import { ZoneSchema } from '../moves/registry';
import { MadeKindSchema } from '../sound/made/kinds';
import { SteadySchema } from '../steady/steady';

/** The version this program writes. A file with a greater one is refused with a sentence. */
export const RECIPE_VERSION = 1;

/** Moves a recipe may have. */
export const MOST_STEPS = 200;

const id = z.string().min(1).max(100);

/** A length or a place as a part of what comes in: 0.5 is half of it, whatever that is. */
export const ShareSchema = z.object({ share: z.number().min(0).max(1000) });
export type Share = z.infer<typeof ShareSchema>;
export const isShare = (value: unknown): value is Share => ShareSchema.safeParse(value).success;

/** One move of a recipe. Lengths and places are frames, beats or shares, as they were meant. */
export const RecipeStepSchema = z.object({
  move: id,
  on: z.boolean().default(true),
  values: z.record(z.string(), z.unknown()).default({}),
  zone: ZoneSchema.optional(),
  /** What other moves of the recipe call it that hold on to its parts. */
  id: id.optional(),
  /** Result frames that came in where it was made: what lists of frames among its values are measured by. */
  incoming: z.number().positive().max(10_000_000).optional(),
  /** Whether such lists stretch along with what comes in, or stay as many frames. */
  lists: z.enum(['along', 'frames']).default('along'),
});
export type RecipeStep = z.infer<typeof RecipeStepSchema>;

/** Moves and looks; ids of looks only tell them apart. */
const PartsSchema = z.object({
  chain: z.array(RecipeStepSchema).max(MOST_STEPS).default([]),
  looks: z.array(LookSchema).max(MOST_LOOKS).default([]),
});
export type RecipeParts = z.infer<typeof PartsSchema>;

/** What its values were made on, so that they can be put on something else. */
const MadeOnSchema = z.object({
  /** The clip's id: on the same one, its tracks, regions and plates are as they were. */
  clipId: id.optional(),
  span: z.object({ in: z.int().min(0), out: z.int().min(1) }).refine((s) => s.out > s.in),
  /** Frames a second of the clip. */
  clipHz: z.number().positive().max(10_000),
  /** The clip's picture, upright, pixels. */
  picture: z.object({
    width: z.number().positive().max(100_000),
    height: z.number().positive().max(100_000),
  }),
  /** Result frames it came to. */
  frames: z.int().min(1).max(10_000_000),
  /** The clip's marks that values may name, by their frames. */
  marks: z
    .array(z.object({ name: z.string().max(200), frame: z.int().min(0), id: id.optional() }))
    .max(10_000)
    .default([]),
  /** Seconds a beat lasted; absent without beats. */
  beatS: z.number().positive().max(60).optional(),
});
export type MadeOn = z.infer<typeof MadeOnSchema>;

/** A chain of moves and looks under a name, to be put on other spans. */
export const RecipeSchema = PartsSchema.extend({
  format: z.literal('skip-back-recipe'),
  version: z.literal(RECIPE_VERSION),
  name: z.string().trim().min(1).max(200),
  /** What it does, in a sentence. */
  says: z.string().max(400).default(''),
  madeOn: MadeOnSchema,
  between: BetweenSchema.default('repeat'),
  shutter: ValueSchema.default(0),
  /** By what it is held, where the clip has a track. */
  steady: SteadySchema.nullable().default(null),
  /** Sounds that it needs switched on. */
  sounds: z.array(MadeKindSchema).max(20).default([]),
  /** What it is where there are no beats; without it, what listens to beats waits for them. */
  unheard: PartsSchema.optional(),
});
export type Recipe = z.infer<typeof RecipeSchema>;

/** Seconds of a clip that a recipe is made for: as long as the span it was made on. */
export const spanSeconds = ({ madeOn: { span, clipHz } }: Recipe): number => (span.out - span.in) / clipHz;
