import { z } from 'zod';
import { type Notice, warning } from '../notice';
import type { Pose } from '../tracks/patch';
import { type Track, lostIn, posesOf } from '../tracks/track';
import { type Size, framed } from './framing';
import { type Point, type Similar, about, both, put, undone } from './similar';
import type { Framing } from '../project/schema';

/** Frames over which a path is evened out, at most. */
export const MOST_SMOOTH = 600;
/** How far in a picture is brought to hide its edges, at most, percent. */
export const MOST_ZOOM = 800;

/** How a piece is held by a track. */
export const SteadySchema = z.object({
  on: z.boolean().default(true),
  /** The track of the piece's clip. */
  track: z.string().min(1).max(100),
  /** `stays`: where it is when the piece begins. `centre`: brought to the middle. `frame`: the frame goes along with it. */
  how: z.enum(['stays', 'centre', 'frame']).default('stays'),
  /** Whether size and turn are held as well, where the track tells them. */
  turns: z.boolean().default(true),
  /** Percent of the way. */
  amount: z.number().min(0).max(100).default(100),
  /** Frames of the clip, each way, over which the track's path is evened out: 0 locks it. */
  smooth: z.number().min(0).max(MOST_SMOOTH).default(0),
  /** What hides the edges: brought in just as far as needed, or mirrored; black hides nothing. */
  edges: z.enum(['zoom', 'mirrored', 'black']).default('zoom'),
  /** Percent it is brought in further. */
  closer: z.number().min(100).max(MOST_ZOOM).default(100),
});
export type Steady = z.infer<typeof SteadySchema>;

/** Where every frame of a clip is put in the project's picture. */
export interface Placing {
  /** For frame n of the clip the numbers a, b, x, y at 4n: pixels of the clip to those of the project's picture. */
  readonly maps: Float64Array;
  readonly edges: 'mirrored' | 'black';
  /** Equal texts, equal placings. */
  readonly key: string;
  /** Percent the picture was brought in to hide its edges; 100 where it was not. */
  readonly zoomPercent: number;
  readonly notices: readonly Notice[];
}

export const mapAt = ({ maps }: Pick<Placing, 'maps'>, frame: number): Similar => ({
  a: maps[4 * frame]!,
  b: maps[4 * frame + 1]!,
  x: maps[4 * frame + 2]!,
  y: maps[4 * frame + 3]!,
});

interface Held {
  readonly steady: Steady;
  readonly track: Track;
  /** The clip's picture, and the project's. */
  readonly picture: Size;
  readonly frame: Size;
  readonly framing: Framing;
  readonly clipFrames: number;
  /** The frame of the clip at which the piece begins. */
  readonly begins: number;
  /** Frames of the clip that are seen, as [first, end). */
  readonly seen: readonly [first: number, end: number];
}

/**
 * Where a piece's frames are put so that its track stands still, or the frame goes along with it. It depends on the
 * frame of the clip alone, so the same in every trip and both directions. Where the track is lost between places that
 * are known, it goes straight from one to the other; beyond them it stays as it was; that is said.
 */
export function placingOf(held: Held): Placing {
  const { steady, track, picture, frame, clipFrames, begins, seen } = held;
  const known = posesOf(track, 0, clipFrames);
  const poses = bridged(known);
  if (poses.length === 0) return untouchedPlacing(held);
  const even = smoothed(poses, steady.smooth);
  const follows = steady.how === 'frame';
  const base = framed(picture, frame, follows ? 'fill' : held.framing);
  const middle: Point = { x: frame.width / 2, y: frame.height / 2 };
  const start = poses[Math.min(begins, clipFrames - 1)]!;
  const share = steady.amount / 100;
  const turns = steady.turns && !follows;

  const placed = (n: number): Similar => {
    const [pose, path] = [poses[n]!, even[n]!];
    if (follows) return along(base, path, { picture, frame, share, closer: steady.closer / 100 });
    // Where the place on the evened path should come to lie, in the clip's picture, and the rest moves with it.
    const centred = steady.how === 'centre';
    const locked = steady.smooth === 0;
    const from = centred || locked ? (locked ? pose : path) : pose;
    const to = centred ? put(undone(base), middle) : locked ? start : path;
    const still = centred || locked ? start : path;
    const turn = turns ? (still.turn - from.turn) * share : 0;
    const size = turns ? (still.size / from.size) ** share : 1;
    const target = { x: from.x + (to.x - from.x) * share, y: from.y + (to.y - from.y) * share };
    return both(base, about(from, target, size, turn));
  };

  const rows = Array.from({ length: clipFrames }, (_, n) => placed(n));
  const pivot = steady.how === 'stays' && steady.smooth === 0 ? put(base, start) : middle;
  const seenRows = rows.slice(Math.max(0, seen[0]), seen[1]);
  const needed = steady.edges === 'zoom' && !follows ? zoomNeeded(seenRows, pivot, picture, frame) : 1;
  const zoom = Math.min(needed, MOST_ZOOM / 100);
  const closer = about(pivot, pivot, zoom * (follows ? 1 : steady.closer / 100), 0);
  const maps = new Float64Array(4 * clipFrames);
  rows.forEach((row, n) => {
    const { a, b, x, y } = both(closer, row);
    maps.set([a, b, x, y], 4 * n);
  });
  const edges = steady.edges === 'mirrored' ? 'mirrored' : 'black';
  const lost = lostIn(track, ...seen).reduce((sum, [from, to]) => sum + to - from, 0);
  return {
    maps,
    edges,
    key: `${edges} ${hashOf(maps)}`,
    zoomPercent: 100 * zoom,
    notices: [
      ...(lost > 0
        ? [
            warning(
              'steady-lost',
              `${track.name} is lost in ${lost} of the frames seen: there the picture goes straight on, or stays.`,
              'Correct the track there.',
            ),
          ]
        : []),
      ...(needed > zoom
        ? [
            warning(
              'steady-edges',
              'It comes too near the edge of the picture: they cannot be hidden.',
              'Mirror them, or hold it with less.',
            ),
          ]
        : []),
    ],
  };
}

/** A clip's frames in the project's picture as its framing puts them. */
function untouchedPlacing({ picture, frame, framing, clipFrames }: Held): Placing {
  const { a, b, x, y } = framed(picture, frame, framing);
  const maps = new Float64Array(4 * clipFrames);
  for (let n = 0; n < clipFrames; n++) maps.set([a, b, x, y], 4 * n);
  return { maps, edges: 'black', key: `black ${hashOf(maps)}`, zoomPercent: 100, notices: [] };
}

/** The frame along with a place: brought to the middle as far as the picture goes. */
function along(
  base: Similar,
  path: Pose,
  held: { picture: Size; frame: Size; share: number; closer: number },
): Similar {
  const { picture, frame, share, closer } = held;
  const a = base.a * closer;
  const within = (wanted: number, size: number, room: number) =>
    Math.min(0, Math.max(room - a * size, wanted * share + ((room - a * size) / 2) * (1 - share)));
  return {
    a,
    b: 0,
    x: within(frame.width / 2 - a * path.x, picture.width, frame.width),
    y: within(frame.height / 2 - a * path.y, picture.height, frame.height),
  };
}

/** How far in pictures have to come, about a point of the frame, for none of their edges to be seen. */
function zoomNeeded(rows: readonly Similar[], pivot: Point, picture: Size, frame: Size): number {
  const corners = [0, frame.width].flatMap((x) => [0, frame.height].map((y) => ({ x, y })));
  let zoom = 1;
  for (const row of rows) {
    const back = undone(row);
    const from = put(back, pivot);
    for (const corner of corners) {
      const to = put(back, corner);
      for (const [p, d, size] of [
        [from.x, to.x - from.x, picture.width],
        [from.y, to.y - from.y, picture.height],
      ] as const) {
        const room = d > 0 ? size - p : p;
        if (Math.abs(d) < 1e-9) continue;
        zoom = Math.max(zoom, room <= 0 ? Infinity : Math.abs(d) / room);
      }
    }
  }
  return zoom;
}

/** Places with those that are missing: straight between known ones, the nearest beyond them; none where none is known. */
export function bridged(known: readonly (Pose | undefined)[]): Pose[] {
  const places = known.flatMap((pose, n) => (pose ? [{ n, pose }] : []));
  if (places.length === 0) return [];
  let at = 0;
  return known.map((pose, n) => {
    if (pose) return pose;
    while (at + 1 < places.length && places[at + 1]!.n <= n) at++;
    const [before, after] = [places[at]!, places[at + 1]];
    if (before.n > n || !after) return before.pose;
    const share = (n - before.n) / (after.n - before.n);
    const between = (key: keyof Pose) => before.pose[key] + (after.pose[key] - before.pose[key]) * share;
    return { x: between('x'), y: between('y'), size: between('size'), turn: between('turn') };
  });
}

/** A path evened out by a bell that reaches so many frames each way; at its ends by what there is. */
function smoothed(poses: readonly Pose[], reach: number): readonly Pose[] {
  if (reach <= 0) return poses;
  const wide = Math.ceil(reach);
  const bell = Array.from({ length: 2 * wide + 1 }, (_, i) =>
    Math.exp(-4.5 * ((i - wide) / Math.max(1, reach)) ** 2),
  );
  return poses.map((_, n) => {
    let [weight, x, y, size, turn] = [0, 0, 0, 0, 0];
    for (let k = Math.max(0, n - wide); k <= Math.min(poses.length - 1, n + wide); k++) {
      const w = bell[k - n + wide]!;
      const pose = poses[k]!;
      weight += w;
      x += w * pose.x;
      y += w * pose.y;
      size += w * pose.size;
      turn += w * pose.turn;
    }
    return { x: x / weight, y: y / weight, size: size / weight, turn: turn / weight };
  });
}

/** A short text of many numbers (after Fowler, Noll and Vo). */
function hashOf(numbers: Float64Array): string {
  let [one, two] = [0x811c9dc5, 0x9e3779b1];
  for (const byte of new Uint32Array(numbers.buffer)) {
    one = Math.imul(one ^ byte, 0x01000193);
    two = Math.imul(two ^ (byte >>> 16) ^ one, 0x85ebca6b);
  }
  return `${(one >>> 0).toString(36)}${(two >>> 0).toString(36)}`;
}
