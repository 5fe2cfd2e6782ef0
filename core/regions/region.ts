import { z } from 'zod';
import { EASES, eased } from '../looks/driver';
import { type Similar, about, both, put, sizeOf, turnOf } from '../steady/similar';
import { bridged } from '../steady/steady';
import type { Pose } from '../tracks/patch';
import { type Track, posesOf } from '../tracks/track';

const number = z.number().min(-100_000).max(100_000);

/** Corners a polygon may have. */
export const MOST_CORNERS = 200;

const RegionKeySchema = z.object({
  at: z.int().min(0).max(10_000_000),
  ease: z.enum(EASES).default('even'),
  values: z
    .array(number)
    .min(5)
    .max(2 * MOST_CORNERS),
});

/**
 * Where in the picture a look applies. Of a piece's look it lies in the clip's own picture, of one of the whole result
 * in the project's. An ellipse or a rectangle is `x, y` of its middle, width, height and degrees; a polygon is its
 * corners, `x, y` one after the other.
 */
export const RegionSchema = z
  .object({
    shape: z.enum(['ellipse', 'rectangle', 'polygon']),
    /** What its keys count: frames of the clip, or of the list of looks. */
    counts: z.enum(['clip', 'result']).default('clip'),
    /** In order, no two on one frame; one alone stands still. */
    keys: z.array(RegionKeySchema).min(1).max(10_000),
    /** Pixels of the project's picture: how softly it ends, and how far it is moved out. */
    feather: z.number().min(0).max(4000).default(24),
    grow: z.number().min(-4000).max(4000).default(0),
    inverted: z.boolean().default(false),
    /** Carried by a track of the piece's clip: it lies as it is at frame `from`, and goes along from there. */
    carried: z
      .object({ track: z.string().min(1).max(100), from: z.int().min(0), turns: z.boolean().default(true) })
      .nullable()
      .default(null),
  })
  .refine(
    (r) => r.keys.every((k) => k.values.length === r.keys[0]!.values.length),
    'keys have one number of corners',
  )
  .refine(
    (r) => r.keys.every((k) => (r.shape === 'polygon' ? k.values.length % 2 === 0 : k.values.length === 5)),
    'a region has the numbers of its shape',
  )
  .refine((r) => r.keys.every((k, i) => i === 0 || k.at > r.keys[i - 1]!.at), 'keys are in order');
export type Region = z.infer<typeof RegionSchema>;

/** A region as it is drawn on one picture, in pixels of the project's. Plain data: equal data, equal pixels. */
export interface Mask {
  readonly shape: Region['shape'];
  /** As a region's numbers. */
  readonly numbers: readonly number[];
  readonly feather: number;
  readonly grow: number;
  readonly inverted: boolean;
}

/** Parts of a pixel that a mask's place counts in. */
const FINE = 16;
const fine = (v: number): number => Math.round(v * FINE) / FINE;

/** The numbers of a region at a frame that its keys count. */
export function numbersAt({ keys }: Region, frame: number): readonly number[] {
  const next = keys.findIndex((k) => k.at > frame);
  const before = keys[next < 0 ? keys.length - 1 : next - 1];
  const after = next < 0 ? undefined : keys[next];
  if (!before) return after!.values;
  if (!after) return before.values;
  const share = eased(before.ease, (frame - before.at) / (after.at - before.at));
  return before.values.map((v, i) => v + (after.values[i]! - v) * share);
}

/** A region's numbers put elsewhere. */
export function moved(shape: Region['shape'], numbers: readonly number[], map: Similar): number[] {
  if (shape !== 'polygon') {
    const [x, y, width, height, turn] = numbers as [number, number, number, number, number];
    const middle = put(map, { x, y });
    const size = sizeOf(map);
    return [middle.x, middle.y, width * size, height * size, turn + turnOf(map)];
  }
  return numbers.flatMap((_, i) => {
    if (i % 2 === 1) return [];
    const { x, y } = put(map, { x: numbers[i]!, y: numbers[i + 1]! });
    return [x, y];
  });
}

/** How a track carries what lies on it, from one pose to another. */
const carriedFrom = (from: Pose, to: Pose, turns: boolean): Similar =>
  turns ? about(from, to, to.size / from.size, to.turn - from.turn) : about(from, to, 1, 0);

/** Where a carried region's own numbers lie at each frame of a clip: how they are moved there; undefined where it is not. */
export function carriesOf(
  region: Region,
  tracks: readonly Track[],
  clipFrames: number,
): ((frame: number) => Similar | undefined) | undefined {
  const { carried } = region;
  const track = carried && tracks.find((t) => t.id === carried.track);
  if (!carried || !track) return undefined;
  const known = posesOf(track, 0, clipFrames);
  const first = known.findIndex(Boolean);
  const last = known.findLastIndex(Boolean);
  const poses = bridged(known);
  const from = poses[Math.min(carried.from, clipFrames - 1)];
  return (frame) =>
    from && frame >= first && frame <= last ? carriedFrom(from, poses[frame]!, carried.turns) : undefined;
}

/** A region drawn through a map from where it lies to the project's picture. */
export function maskOf(region: Region, numbers: readonly number[], map: Similar): Mask {
  const put = moved(region.shape, numbers, map);
  return {
    shape: region.shape,
    numbers: put.map(fine),
    feather: region.feather,
    grow: region.grow,
    inverted: region.inverted,
  };
}

/** The map of a region's own numbers to the project's picture, at a frame of the clip: carried, then placed. */
export const mapOf = (placed: Similar, carries: Similar | undefined): Similar =>
  carries ? both(placed, carries) : placed;
