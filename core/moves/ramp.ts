import { type Notice, info, warning } from '../notice';
import { pathFrames, pathLength } from '../path/path';
import { knotsOf, warpPath } from '../path/warp';
import { percentText } from '../time/entry';
import type { FrameTable } from '../clip/frame-table';
import type { TimePath } from '../path/path';
import { type Winding, windPath } from '../path/wound';
import type { Place } from '../places/place';
import { PLAIN_READING, type Reading, readPlace } from '../places/read';
import { PLAIN_TELLING, type Telling, placeText } from '../places/words';
import type { Move, MoveResult } from './move';
import { type Point, type RampValues, change, layOut, rampSchema } from './ramp-layout';

function readPoints(typed: string, reading: Reading = PLAIN_READING): unknown {
  const points = typed.split(/[,;]+/).map((part) => {
    const match = /^\s*(.*?)\s*(?::(?!\d+:)|=|\s)\s*([-−]?\d+(?:\.\d+)?)\s*(%|x)?\s*$/.exec(part);
    const at = match && readPlace(match[1]!, reading, { least: 0, most: 1_000_000 });
    if (!match || at === null || typeof at === 'string') return undefined;
    return { at, percent: Number(match[2]!.replace('−', '-')) * (match[3] === 'x' ? 100 : 1) };
  });
  if (points.some((p) => p === undefined)) return undefined;
  const plain = points.map((p) => ({ ...p!, at: typeof p!.at === 'number' ? p!.at : 0 }));
  return rampSchema.shape.points.safeParse(plain).success ? points : undefined;
}

const wordsOf = (at: unknown, telling: Telling = PLAIN_TELLING): string => {
  const text = placeText(at as Place, telling);
  return typeof at === 'number' ? text.replace(/ f$/, '') : text;
};

/** One speed per stretch, and a change of a given width around each point between two stretches. */
export const ramp: Move<RampValues> = {
  id: 'ramp',
  name: 'Ramp',
  group: 'pace',
  also: 'speed ramp, ease, retime, slow to fast',
  summary: 'A speed for each stretch, with eased changes between them.',
  schema: rampSchema,
  defaults: {
    points: [
      { at: 0, percent: 100 },
      { at: 30, percent: 300 },
    ],
    before: 6,
    after: 6,
    soft: 'both',
  },
  suggest: (path) => ({
    points: [
      { at: 0, percent: 100 },
      { at: Math.floor(pathFrames(path) / 2), percent: 300 },
    ],
  }),
  vary: ({ points }, random, wildness) => ({
    points: points.map((p) => ({
      at: p.at,
      percent: Math.min(
        3000,
        Math.max(5, Math.round((p.percent * 2 ** ((random() * 2 - 1) * (0.4 + 2 * wildness))) / 5) * 5),
      ),
    })),
  }),
  shape: [0, 0.06, 0.12, 0.18, 0.26, 0.4, 0.6, 0.8, 1],
  fields: [
    {
      key: 'points',
      kind: 'text',
      label: 'Speeds',
      help: 'From where on, and how fast; below 0 backward, 0 stands still: 0: 100, 30: 300, 1.5 s: 50, mark catch: -100',
      read: readPoints,
      write: (value, telling) =>
        (value as Point[]).map((p) => `${wordsOf(p.at, telling)}: ${p.percent}`).join(', '),
      summary: (value, telling) =>
        (value as Point[])
          .map(
            (p, i) =>
              `${percentText(p.percent)}${i === 0 && p.at === 0 ? '' : ` from ${typeof p.at === 'number' ? 'frame ' : ''}${wordsOf(p.at, telling)}`}`,
          )
          .join(', '),
      byHand: 'speed',
    },
    {
      key: 'before',
      kind: 'length',
      label: 'Change begins',
      help: 'Result frames before each point at which its change of speed begins.',
      min: 0,
      max: 10_000,
    },
    {
      key: 'after',
      kind: 'length',
      label: 'and ends after',
      help: 'Result frames after the point at which the change is done.',
      min: 0,
      max: 10_000,
    },
    {
      key: 'soft',
      kind: 'choice',
      label: 'Softness',
      help: 'Which side of a change is eased; sharp changes evenly from end to end.',
      options: [
        { value: 'both', label: 'both sides' },
        { value: 'in', label: 'its beginning' },
        { value: 'out', label: 'its end' },
        { value: 'none', label: 'sharp' },
      ],
    },
  ],
  lists: ({ points }, { place }) => ({ points: points.map((p) => ({ ...p, at: Math.max(0, place(p.at)) })) }),
  partName: (part) => (part % 2 === 0 ? `stretch ${1 + part / 2}` : `change ${(part + 1) / 2}`),
  lengthOf: (part, { points }) => {
    if (points.some((p) => typeof p.at !== 'number')) return undefined;
    const order = points.map((p, place) => ({ ...p, place })).sort((a, b) => a.at - b.at);
    const point = part % 2 === 0 && points.every((p) => p.percent > 0) ? order[part / 2] : undefined;
    if (!point) return undefined;
    return {
      ...{ key: 'points', value: point.percent, min: 1, max: 3000, whole: false, grows: false },
      set: (percent) => ({ points: points.with(point.place, { at: point.at, percent }) }),
    };
  },
  elsewhere: ({ points }, { along }) => ({
    points: points.map((p) => ({ ...p, at: Math.round(p.at * along) })),
  }),
  apply(path, values, { table }) {
    const end = pathLength(path);
    if (values.points.some((p) => p.percent <= 0)) return woundAlong(path, values, table);
    const { used, stretches, size } = layOut(values, end);
    const notices: Notice[] = [];
    if (used.length < values.points.length)
      notices.push(
        warning(
          'outside',
          `What comes in has ${pathFrames(path)} frames; points after its end do nothing.`,
          'Move them earlier.',
        ),
      );
    if (size < 1 && used.length > 1)
      notices.push(
        info(
          'narrowed',
          `The changes have room for ${Math.floor((values.before + values.after) * size)} frames each.`,
        ),
      );
    const result = warpPath(path, knotsOf(stretches), table);
    notices.push(
      info(
        'mean-speed',
        `${pathFrames(path)} frames become ${pathFrames(result)}: ${percentText((100 * end) / pathLength(result))} on the whole.`,
      ),
    );
    return { path: result, notices };
  },
};

/**
 * A ramp that also goes backward or stands still: its points in the order they are given. Each stretch covers what
 * lies between its point and the next, one that stands still lasts as long; changes are eased through the turn.
 */
function woundAlong(
  path: TimePath,
  { points, before, after, soft }: RampValues,
  table: FrameTable,
): MoveResult {
  const end = pathLength(path);
  const last = points.length - 1;
  const paces = points.map((p) => p.percent / 100);
  const windings: Winding[] = [];
  const lasts = points.map((p, i) => {
    const from = i === 0 ? 0 : p.at;
    const next = points[i + 1]?.at ?? (paces[i]! < 0 ? 0 : end);
    const frames = Math.abs(next - from);
    return paces[i] === 0 ? frames : frames / Math.abs(paces[i]!);
  });
  const roomAt = (i: number) =>
    Math.min(
      1,
      lasts[i - 1]! / (i === 1 ? 1 : 2) / Math.max(1e-9, before),
      lasts[i]! / (i === last ? 1 : 2) / Math.max(1e-9, after),
    );
  let owed = 0;
  for (let i = 0; i <= last; i++) {
    const pace = paces[i]!;
    const leaves =
      i < last ? change(pace, paces[i + 1]!, before * roomAt(i + 1), after * roomAt(i + 1), soft) : undefined;
    const covers = lasts[i]! * pace - owed - (leaves?.oldBefore ?? 0);
    const used = (i > 0 ? after * roomAt(i) : 0) + (i < last ? before * roomAt(i + 1) : 0);
    const time = pace === 0 ? Math.max(0, lasts[i]! - used) : Math.max(0, covers / pace);
    windings.push({ from: pace, to: pace, time, part: 2 * i });
    for (const piece of leaves?.pieces ?? []) windings.push({ ...piece, part: 2 * i + 1 });
    owed = leaves?.oldAfter ?? 0;
  }
  const { path: made, waited } = windPath(path, windings, table);
  const notices: Notice[] = [
    info('wound', `${pathFrames(path)} frames become ${pathFrames(made)}, there and back.`),
  ];
  if (
    waited > 0.5 &&
    waited > windings.reduce((sum, w) => (w.from === 0 && w.to === 0 ? sum + w.time : sum), 0) + 0.5
  )
    notices.unshift(
      warning(
        'ran-out',
        `Ran out of frames: ${Math.ceil(waited)} short; it waits there.`,
        'Move those points, or slow them down.',
      ),
    );
  return { path: made, notices };
}
