import { z } from 'zod';
import { frameAndFraction } from '../clip/frame-table';
import { type Notice, warning } from '../notice';
import { drawnPath, pointsOfPath } from '../path/drawn';
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

function writePoints(points: readonly CurvePoint[]): string {
  return points
    .map(
      (p) => `${rounded(p.at)}: ${rounded(p.source)}${p.before || p.after ? ` ~${p.before}/${p.after}` : ''}`,
    )
    .join(', ');
}

function readPoints(typed: string): CurvePoint[] | undefined {
  const points = typed.split(/[,;]+/).map((part): CurvePoint | undefined => {
    const match = /^\s*(\d+(?:\.\d+)?)\s*:\s*(-?\d+(?:\.\d+)?)\s*(?:~\s*(\d+)\s*\/\s*(\d+))?\s*$/.exec(part);
    return match
      ? {
          at: Number(match[1]),
          source: Number(match[2]),
          before: Number(match[3] ?? 0),
          after: Number(match[4] ?? 0),
        }
      : undefined;
  });
  const whole = points.filter((p) => p !== undefined);
  return whole.length === points.length && schema.shape.points.safeParse(whole).success ? whole : undefined;
}

/** A path drawn by hand: points of source over result, each with a bend as soft as wanted on either side. */
export const curve: Move<Values> = {
  id: 'curve',
  name: 'Curve',
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
      help: 'Result frame: source frame from the beginning ~soft before/after. 0: 0, 30: 45 ~8/8, 60: 0',
      read: readPoints,
      write: (value) => writePoints(value as CurvePoint[]),
      summary: (value) => {
        const points = value as CurvePoint[];
        return `${points.length} points over ${rounded(Math.max(...points.map((p) => p.at)))} frames`;
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
