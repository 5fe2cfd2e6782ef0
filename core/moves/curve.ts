import { z } from 'zod';
import { frameAndFraction } from '../clip/frame-table';
import { type Notice, warning } from '../notice';
import { drawnPath, pointsOfPath } from '../path/drawn';
import type { Place, SourcePlace } from '../places/place';
import { PLAIN_READING, type Reading, readPlace, readSource } from '../places/read';
import { type Ground, resolvePlace, sourceOf } from '../places/resolve';
import { PLAIN_TELLING, type Telling, placeText } from '../places/words';
import { seconds } from '../time/units';
import type { Move } from './move';

/** Most points a curve may have. */
export const MOST_POINTS = 2000;

const point = z.object({
  at: z.number().min(0).max(1_000_000),
  source: z.number().min(-10_000_000).max(10_000_000),
  /** The frame of the clip it stands on instead, a mark's. */
  on: z.int().min(0).max(10_000_000).optional(),
  before: z.int().min(0).max(10_000),
  after: z.int().min(0).max(10_000),
});
const schema = z.object({
  points: z
    .array(point)
    .min(2)
    .max(MOST_POINTS)
    .refine((ps) => ps.some((p) => p.at !== ps[0]!.at), 'a curve lasts at least a frame'),
});
type Values = z.infer<typeof schema>;
export type CurvePoint = Values['points'][number];

const rounded = (n: number) => Number(n.toFixed(2));

/** A point as a hand has it: where it stands now, and the places it holds on to, if any. */
export type HeldPoint = CurvePoint & {
  readonly holds?: { readonly at?: Exclude<Place, number>; readonly on?: SourcePlace } | undefined;
};

/** A stored point, whose place in time may be any, and which may stand on a mark. */
interface StoredPoint extends Omit<CurvePoint, 'at' | 'on'> {
  readonly at: Place;
  readonly on?: number | SourcePlace;
}

const INSIDE = 1e-6;

/** Points as they are stored, where they stand now: on what comes in, counted from source frame `origin`. */
export function heldPoints(stored: readonly unknown[], ground: Ground, origin: number): HeldPoint[] {
  return (stored as readonly StoredPoint[])
    .map(({ at, on, source, before, after }): HeldPoint => {
      const [now] = typeof at === 'number' ? [at] : resolvePlace(at, ground).at;
      const frame = typeof on === 'object' ? sourceOf(on, ground) : on;
      const holds = { ...(typeof at !== 'number' && { at }), ...(typeof on === 'object' && { on }) };
      return {
        at: Math.max(0, now ?? 0),
        source: frame === undefined ? source : frame + 0.5 - origin,
        ...{ before, after },
        ...(Object.keys(holds).length > 0 && { holds }),
      };
    })
    .sort((a, b) => a.at - b.at);
}

/** The points to be stored: what still stands where its place is keeps that, what was moved off it does not. */
export const storedPoints = (points: readonly HeldPoint[], ground: Ground, origin: number): unknown[] =>
  points.map(({ at, source, before, after, holds }) => {
    const time = holds?.at && resolvePlace(holds.at, ground).at[0];
    const frame = holds?.on && sourceOf(holds.on, ground);
    const stays = time !== undefined && Math.abs(time - at) < INSIDE;
    const stands = frame !== undefined && Math.abs(frame + 0.5 - origin - source) < INSIDE;
    return { at: stays ? holds!.at : at, source, ...(stands && { on: holds!.on }), before, after };
  });

function writePoints(points: readonly StoredPoint[], telling: Telling = PLAIN_TELLING): string {
  const time = (at: Place) =>
    typeof at === 'number' ? String(rounded(at + telling.first)) : placeText(at, telling);
  const height = ({ on, source }: StoredPoint) =>
    on === undefined
      ? rounded(source)
      : typeof on === 'number'
        ? `source ${on + telling.first}`
        : placeText(on, telling);
  return points
    .map((p) => `${time(p.at)}: ${height(p)}${p.before || p.after ? ` ~${p.before}/${p.after}` : ''}`)
    .join(', ');
}

function readPoints(typed: string, reading: Reading = PLAIN_READING): unknown {
  const points = typed.split(/[,;]+/).map((part): StoredPoint | undefined => {
    const match = /^\s*(.+?)\s*:\s*(?!\d+:)([^~:]+?)\s*(?:~\s*(\d+)\s*\/\s*(\d+))?\s*$/.exec(part);
    if (!match) return undefined;
    const exact = /^\d+(?:\.\d+)?$/.test(match[1]!) ? Number(match[1]) - reading.first : undefined;
    const at = exact ?? readPlace(match[1]!, reading, { least: 0, most: 1_000_000 });
    if (typeof at === 'string') return undefined;
    const height = /^-?\d+(?:\.\d+)?$/.test(match[2]!) ? Number(match[2]) : readSource(match[2]!, reading);
    if (height === undefined) return undefined;
    return {
      at,
      ...(typeof height === 'number' ? { source: height } : { source: 0, on: height }),
      ...{ before: Number(match[3] ?? 0), after: Number(match[4] ?? 0) },
    };
  });
  if (points.some((p) => p === undefined)) return undefined;
  const plain = points.map((p, i) => ({
    ...p!,
    at: typeof p!.at === 'number' ? p!.at : i,
    on: typeof p!.on === 'object' ? 0 : p!.on,
  }));
  return schema.shape.points.safeParse(plain).success ? points : undefined;
}

/** A path drawn by hand: points of source over result, each with a bend as soft as wanted on either side. */
export const curve: Move<Values> = {
  id: 'curve',
  name: 'Curve',
  group: 'hand',
  also: 'retime, keyframes, graph',
  summary: 'A path drawn by hand, point by point; it stands for everything above it.',
  schema,
  defaults: {
    points: [
      { at: 0, source: 0, before: 0, after: 0 },
      { at: 30, source: 30, before: 8, after: 8 },
      { at: 60, source: 0, before: 0, after: 0 },
    ],
  },
  suggest: (path, { table }) => {
    const { points } = pointsOfPath(path, table);
    return points.length <= MOST_POINTS ? { points } : {};
  },
  vary: ({ points }, random, wildness) => {
    const low = Math.min(...points.map((p) => p.source));
    const high = Math.max(...points.map((p) => p.source));
    return {
      points: points.map((p, i) =>
        i === 0
          ? p
          : {
              ...p,
              source: Math.round(
                Math.min(high, Math.max(low, p.source + (random() * 2 - 1) * (high - low) * wildness * 0.7)),
              ),
            },
      ),
    };
  },
  shape: [0, 0.1, 0.35, 0.7, 0.9, 0.8, 0.5, 0.55, 0.8, 1],
  fields: [
    {
      key: 'points',
      kind: 'text',
      label: 'Points',
      help: 'Result frame or place: source frame from the beginning, or a mark ~soft before/after. 0: 0, 30: 45 ~8/8, beat 5: mark catch',
      read: readPoints,
      write: (value, telling) => writePoints(value as StoredPoint[], telling),
      summary: (value) => {
        const points = value as StoredPoint[];
        const held = points.filter((p) => typeof p.at !== 'number' || typeof p.on === 'object').length;
        const last = Math.max(...points.map((p) => (typeof p.at === 'number' ? p.at : 0)));
        return `${points.length} points over ${rounded(last)} frames${held > 0 ? `, ${held} on the song or a mark` : ''}`;
      },
      byHand: 'curve',
    },
  ],
  lists: ({ points }, { place, source }) => ({
    points: points.map((p) => ({
      ...p,
      at: Math.max(0, place(p.at)),
      ...(p.on !== undefined && { on: source(p.on) }),
    })),
  }),
  partName: (part) => `stretch ${part + 1}`,
  lengthOf: (part, { points }) => {
    // What lies on the song or a mark stays there.
    if (points.some((p) => typeof p.at !== 'number')) return undefined;
    const sorted = points.toSorted((a, b) => a.at - b.at);
    const from = sorted[part];
    const next = sorted[part + 1];
    if (!from || !next) return undefined;
    return {
      ...{ key: 'points', value: next.at - from.at, min: 0.5, max: 1_000_000, whole: false, grows: true },
      set: (value) => ({
        points: points.map((p) =>
          p.at >= next.at ? { ...p, at: Math.max(0, p.at + value - (next.at - from.at)) } : p,
        ),
      }),
    };
  },
  elsewhere: ({ points }, { along, clip }) => ({
    points: points.map((p) => ({
      ...p,
      at: p.at * along,
      source: p.source * clip,
      before: Math.round(p.before * along),
      after: Math.round(p.after * along),
    })),
  }),
  apply(path, { points }, { table }) {
    const origin = frameAndFraction(table, seconds(path.segments[0]!.from));
    // A point on a mark stands on the middle of its frame.
    const standing = points.map((p) => (p.on === undefined ? p : { ...p, source: p.on + 0.5 - origin }));
    const { path: drawn, outside } = drawnPath(standing, origin, table, path.rate);
    const notices: Notice[] =
      outside > 0.005
        ? [
            warning(
              'ran-out',
              `Ran out of frames: the curve goes ${rounded(outside)} beyond the clip and rests at its end.`,
              'Lower those points, or move the span.',
            ),
          ]
        : [];
    return drawn.segments.length > 0 ? { path: drawn, notices } : { path, notices };
  },
};
