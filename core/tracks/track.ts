import { z } from 'zod';
import { EASES, eased } from '../looks/driver';
import type { Pose } from './patch';

const id = z.string().min(1).max(100);
/** Pixels of the clip's own picture, or beyond its edges; sizes and degrees lie within. */
const number = z.number().min(-100_000).max(100_000);

/** Frames a clip may be followed over. */
const MOST_FOLLOWED = 1_000_000;
/** Tracks a clip may have. */
export const MOST_TRACKS = 100;

/** What is followed: one point; two, which give size and turn as well; or what a box holds, with its size and turn. */
const TrackKindSchema = z.enum(['point', 'points', 'box']);
export type TrackKind = z.infer<typeof TrackKindSchema>;

/**
 * Where a track is at a frame, as plain numbers: `x, y` of a point; `x, y, x, y` of two; `x, y` of a box's middle, its
 * size (1 as chosen) and its turn in degrees, clockwise. Pixels of the clip's own picture, upright, from its corner.
 */
export type TrackValues = readonly number[];

/** How many numbers a place of each kind has. */
export const NUMBERS: Readonly<Record<TrackKind, number>> = { point: 2, points: 4, box: 4 };

/** A place set by hand; the ease leads to the next one where nothing was followed between them. */
const TrackKeySchema = z.object({
  frame: z.int().min(0),
  ease: z.enum(EASES).default('even'),
  values: z.array(number).min(2).max(4),
});
export type TrackKey = z.infer<typeof TrackKeySchema>;

/** Places that were followed over frames in a row, and how sure each is, 0 to 100. */
const FollowedSchema = z.object({
  from: z.int().min(0),
  values: z.array(number).max(4 * MOST_FOLLOWED),
  sure: z.array(z.int().min(0).max(100)).min(1).max(MOST_FOLLOWED),
});
export type Followed = z.infer<typeof FollowedSchema>;

/** Something followed through a clip and kept with it, frame by frame of the clip. */
export const TrackSchema = z
  .object({
    id,
    name: z.string().trim().min(1).max(200),
    kind: TrackKindSchema,
    /** Of what is looked at around a point, or of the box, pixels. */
    width: z.number().min(4).max(20_000),
    height: z.number().min(4).max(20_000),
    /** In order, no two on one frame. */
    keys: z.array(TrackKeySchema).min(1).max(100_000),
    /** In order, none over another. */
    runs: z.array(FollowedSchema).max(100_000).default([]),
  })
  .refine(
    (t) => t.keys.every((k) => k.values.length === NUMBERS[t.kind]),
    'a key has as many numbers as its track needs',
  )
  .refine((t) => t.keys.every((k, i) => i === 0 || k.frame > t.keys[i - 1]!.frame), 'keys are in order')
  .refine(
    (t) => t.runs.every((r) => r.values.length === r.sure.length * NUMBERS[t.kind]),
    'what was followed has as many numbers as its track needs',
  )
  .refine(
    (t) => t.runs.every((r, i) => i === 0 || r.from >= endOf(t.runs[i - 1]!)),
    'what was followed is in order',
  );
export type Track = z.infer<typeof TrackSchema>;

/** The frame after the last of a run. */
const endOf = ({ from, sure }: Followed): number => from + sure.length;

/** The place of the last element that is not beyond a frame; -1 before all. */
function lastUpTo<T>(list: readonly T[], frameOf: (t: T) => number, frame: number): number {
  let [low, high] = [0, list.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (frameOf(list[middle]!) <= frame) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The place of a run that holds a frame, or of the last one before it. */
const runBefore = (track: Track, frame: number): number => lastUpTo(track.runs, (r) => r.from, frame);

/**
 * Where a track is at a frame of the clip, and how sure that is; undefined where it is lost. Set by hand comes first,
 * then what was followed. Between two keys with nothing followed between them it goes from one to the other; before the
 * first and after the last it stays, but only where nothing was ever followed.
 */
export function placeAt(track: Track, frame: number): { values: TrackValues; sure: number } | undefined {
  const { keys, runs, kind } = track;
  const at = lastUpTo(keys, (k) => k.frame, frame);
  const before = keys[at];
  if (before?.frame === frame) return { values: before.values, sure: 100 };
  const place = runBefore(track, frame);
  const run = runs[place];
  if (run && frame < endOf(run)) {
    const n = NUMBERS[kind];
    const i = frame - run.from;
    return { values: run.values.slice(n * i, n * i + n), sure: run.sure[i]! };
  }
  const after = keys[at + 1];
  if (before && after) {
    // The run before may reach past the key, the next may begin before the other.
    const followed =
      (run && endOf(run) > before.frame + 1) || (runs[place + 1]?.from ?? Infinity) < after.frame;
    if (followed) return undefined;
    const share = eased(before.ease, (frame - before.frame) / (after.frame - before.frame));
    return { values: before.values.map((v, i) => v + (after.values[i]! - v) * share), sure: 100 };
  }
  if (runs.length > 0) return undefined;
  return { values: (before ?? after)!.values, sure: 100 };
}

/** A place as where it is, how large and how turned: against what the track's first key is. */
export function poseOf({ kind, keys }: Track, values: TrackValues): Pose {
  const [x, y, a, b] = values as [number, number, number, number];
  if (kind === 'point') return { x, y, size: 1, turn: 0 };
  if (kind === 'box') return { x, y, size: a, turn: b };
  const [fx, fy, fa, fb] = keys[0]!.values as [number, number, number, number];
  const first = Math.hypot(fa - fx, fb - fy);
  const now = Math.hypot(a - x, b - y);
  const size = first > 0 && now > 0 ? now / first : 1;
  const degrees = ((Math.atan2(b - y, a - x) - Math.atan2(fb - fy, fa - fx)) * 180) / Math.PI;
  return { x: (x + a) / 2, y: (y + b) / 2, size, turn: degrees };
}

/** Where a track is at every frame of [first, end); turns go on over a whole turn, as far as they are known. */
export function posesOf(track: Track, first: number, end: number): (Pose | undefined)[] {
  let before = 0;
  return Array.from({ length: Math.max(0, end - first) }, (_, i) => {
    const place = placeAt(track, first + i);
    if (!place) return undefined;
    const pose = poseOf(track, place.values);
    before = pose.turn + 360 * Math.round((before - pose.turn) / 360);
    return { ...pose, turn: before };
  });
}

/** The frames of [first, end) at which a track is lost, as stretches [from, to). */
export function lostIn(track: Track, first: number, end: number): [from: number, to: number][] {
  const lost: [number, number][] = [];
  for (let frame = first; frame < end; frame++) {
    if (placeAt(track, frame)) continue;
    const last = lost[lost.length - 1];
    if (last?.[1] === frame) last[1]++;
    else lost.push([frame, frame + 1]);
  }
  return lost;
}

/** A track whose places over frames from `from` on are those given, undefined where it is lost; what was followed there before goes. */
export function withFollowed(
  track: Track,
  from: number,
  places: readonly ({ values: TrackValues; sure: number } | undefined)[],
): Track {
  const end = from + places.length;
  const runs = track.runs.flatMap((r) => [cut(track, r, r.from, from), cut(track, r, end, endOf(r))]);
  let open: { from: number; values: number[]; sure: number[] } | undefined;
  const made: Followed[] = [];
  places.forEach((place, i) => {
    if (!place) return void (open = undefined);
    if (!open) made.push((open = { from: from + i, values: [], sure: [] }));
    open.values.push(...place.values);
    open.sure.push(place.sure);
  });
  const all = [...runs.flatMap((r) => (r ? [r] : [])), ...made].sort((a, b) => a.from - b.from);
  return { ...track, runs: joined(all) };
}

function cut({ kind }: Track, run: Followed, from: number, to: number): Followed | undefined {
  const [first, end] = [Math.max(from, run.from), Math.min(to, endOf(run))];
  if (end <= first) return undefined;
  const n = NUMBERS[kind];
  const [a, b] = [first - run.from, end - run.from];
  return { from: first, values: run.values.slice(n * a, n * b), sure: run.sure.slice(a, b) };
}

/** Runs of which one begins where the other ends, as one. */
function joined(runs: readonly Followed[]): Followed[] {
  const all: Followed[] = [];
  for (const run of runs) {
    const last = all[all.length - 1];
    if (last && endOf(last) === run.from)
      all[all.length - 1] = {
        from: last.from,
        values: [...last.values, ...run.values],
        sure: [...last.sure, ...run.sure],
      };
    else all.push(run);
  }
  return all;
}

/** One way to follow: from the place at a frame on up to another one, which is not looked at itself. */
export interface Way {
  readonly from: number;
  readonly to: number;
  readonly values: TrackValues;
}

/**
 * What is to be followed from a frame on, each way as far as the next key or the clip's end; where there is a key it is
 * followed from there as well, so that what comes out leads from one to the other. The place at the frame is its key.
 */
export function waysFrom(
  track: Track,
  frame: number,
  clipFrames: number,
): { readonly sides: readonly Side[] } {
  const at = track.keys.findIndex((k) => k.frame === frame);
  const own = track.keys[at];
  if (!own) return { sides: [] };
  const side = (other: TrackKey | undefined, limit: number): Side => ({
    away: { from: frame, to: other?.frame ?? limit, values: own.values },
    back: other && { from: other.frame, to: frame, values: other.values },
  });
  const sides = [side(track.keys[at + 1], clipFrames), side(track.keys[at - 1], -1)];
  return { sides: sides.filter(({ away }) => Math.abs(away.to - away.from) > 1) };
}

/** Following to one side of a frame; with a key at its end also from there. */
export interface Side {
  readonly away: Way;
  readonly back: Way | undefined;
}

/** A place found by following, or none. */
export type Place = { readonly values: TrackValues; readonly sure: number } | undefined;

/** Two ways over the same frames as one, the first counting for less the farther it has come; both in order of frames from where the first began. */
export function bothWays(first: readonly Place[], second: readonly Place[]): Place[] {
  const total = first.length + 1;
  return first.map((a, i) => {
    const b = second[i];
    if (!a || !b) return a ?? b;
    const share = (i + 1) / total;
    const values = a.values.map((v, k) => v + (b.values[k]! - v) * share);
    return { values, sure: Math.round(a.sure + (b.sure - a.sure) * share) };
  });
}
