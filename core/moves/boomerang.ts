import { z } from 'zod';
import type { FrameTable } from '../clip/frame-table';
import { info, type Notice } from '../notice';
import { tooMuch } from '../path/limits';
import { type TimePath, joinPaths, pathFrames, pathLength, reversePath, speedUp } from '../path/path';
import { asPart } from '../path/makers';
import { resolveTurns, settleTurns, turningOnce } from '../path/turns';
import { percentText } from '../time/entry';
import { atLength } from './at-length';
import type { Move } from './move';

const schema = z.object({
  by: z.enum(['trips', 'length']),
  trips: z.int().min(1).max(999),
  length: z.int().min(2).max(1_000_000),
  backPercent: z.number().min(5).max(3000),
  turn: z.enum(['once', 'twice']),
  ends: z.enum(['home', 'away']),
  /** Whether a total length is met exactly, the speed giving way; or by whole trips at the speed that is set. */
  total: z.enum(['exact', 'whole']).default('whole'),
  backBy: z.enum(['percent', 'length']).default('percent'),
  backLength: z.int().min(1).max(1_000_000).default(30),
});
type Values = z.infer<typeof schema>;

/** `trips` times there and back, and there once more where it ends away; the way back at `pace` times the speed. */
function tripsOf(path: TimePath, trips: number, values: Values, pace: number, table: FrameTable): TimePath {
  const back = speedUp(reversePath(path), pace);
  const turned = values.turn === 'once' ? turningOnce(back) : back;
  const parts: TimePath[] = [];
  for (let i = 0; i < trips; i++) parts.push(asPart(path, 2 * i), asPart(turned, 2 * i + 1));
  if (values.ends === 'away') parts.push(asPart(path, 2 * trips));
  return resolveTurns(joinPaths(path.rate, parts), table);
}

/** Frames that the first way back lasts. */
const wayBack = (path: TimePath): number =>
  path.segments.reduce((sum, s) => (s.part === 1 ? sum + s.length : sum), 0);

/** The pace at which a way back lasts `length` frames, its turns resolved: a turn shown once takes a part of it. */
function paceFor(path: TimePath, trips: number, values: Values, table: FrameTable): number {
  const there = pathLength(path);
  const few = Math.min(trips, 2);
  let pace = there / values.backLength;
  for (let i = 0; i < 8; i++) {
    const lasts = wayBack(tripsOf(path, few, values, pace, table));
    if (Math.abs(lasts - values.backLength) < 1e-6) break;
    pace = Math.max(1e-4, (pace * lasts) / values.backLength);
  }
  return pace;
}

/** There and back, as often as wanted. */
export const boomerang: Move<Values> = {
  id: 'boomerang',
  name: 'Boomerang',
  group: 'there',
  also: 'loop, ping-pong, bounce, there and back',
  summary: 'There and back, as many round trips as you like.',
  schema,
  defaults: {
    by: 'trips',
    trips: 2,
    length: 240,
    backPercent: 100,
    turn: 'once',
    ends: 'home',
    total: 'whole',
    backBy: 'percent',
    backLength: 30,
  },
  suggest: () => ({ total: 'exact' }),
  shape: [0, 0.5, 1, 0.5, 0, 0.5, 1, 0.5, 0],
  fields: [
    {
      key: 'by',
      kind: 'choice',
      label: 'Set by',
      help: 'Count the round trips, or give the total length.',
      options: [
        { value: 'trips', label: 'round trips' },
        { value: 'length', label: 'total length' },
      ],
    },
    {
      key: 'trips',
      kind: 'count',
      label: 'Round trips',
      help: 'One trip is once there and once back.',
      min: 1,
      max: 999,
      when: (v) => v.by === 'trips',
    },
    {
      key: 'length',
      kind: 'length',
      label: 'Total length',
      help: 'In the whole number of trips nearest to it.',
      min: 2,
      max: 1_000_000,
      when: (v) => v.by === 'length',
    },
    {
      key: 'total',
      kind: 'choice',
      label: 'Comes to it',
      help: 'Exactly, by a slightly other speed; or as near as whole trips at this speed come.',
      options: [
        { value: 'exact', label: 'exactly' },
        { value: 'whole', label: 'by whole trips at this speed' },
      ],
      when: (v) => v.by === 'length',
    },
    {
      key: 'backBy',
      kind: 'choice',
      label: 'Way back set by',
      help: 'Its speed, or the length it comes to.',
      options: [
        { value: 'percent', label: 'speed' },
        { value: 'length', label: 'length' },
      ],
    },
    {
      key: 'backLength',
      kind: 'length',
      label: 'Way back',
      help: 'How long each way back is.',
      min: 1,
      max: 1_000_000,
      when: (v) => v.backBy === 'length',
    },
    {
      key: 'backPercent',
      kind: 'percent',
      label: 'Backward speed',
      help: 'Speed of the way back, measured against the way there.',
      min: 5,
      max: 3000,
      when: (v) => v.backBy === 'percent',
    },
    {
      key: 'turn',
      kind: 'choice',
      label: 'Turn frame',
      help: 'Shown once it turns smoothly; shown twice it rests a frame at each turn.',
      options: [
        { value: 'once', label: 'once' },
        { value: 'twice', label: 'twice' },
      ],
    },
    {
      key: 'ends',
      kind: 'choice',
      label: 'Ends',
      help: 'Home closes the loop; away adds one last way there, to leave going forward.',
      options: [
        { value: 'home', label: 'home, loop closes' },
        { value: 'away', label: 'away, going forward' },
      ],
    },
  ],
  mends: (finding, { ends, turn }, { inside }) => {
    if (finding === 'loop' && ends === 'away') return { words: 'End at the start', values: { ends: 'home' } };
    if (finding === 'doubled' && turn === 'twice')
      return { words: 'Show the turn frame once', values: { turn: 'once' } };
    if (finding === 'skip' && ends === 'home' && inside)
      return { words: 'End going forward', values: { ends: 'away' } };
    return undefined;
  },
  views: ({ backPercent, backLength, ends, backBy }, key, to, { before, after }) => {
    const pace = backBy === 'percent' ? backPercent / 100 : before / backLength;
    if (key === 'backBy')
      return to === 'length'
        ? { backLength: Math.max(1, Math.round(before / pace)) }
        : { backPercent: Number(Math.min(3000, Math.max(5, 100 * pace)).toFixed(2)) };
    if (key !== 'by') return {};
    const away = ends === 'away' ? before : 0;
    return to === 'length'
      ? { length: Math.max(2, Math.round(after)) }
      : { trips: Math.max(1, Math.round((after - away) / (before + before / pace))) };
  },
  partName: (part) => `${part % 2 === 0 ? 'way there' : 'way back'}${part > 1 ? ` ${1 + (part >> 1)}` : ''}`,
  lengthOf: (part, { backLength }) =>
    part % 2 === 1
      ? {
          ...{ key: 'backLength', value: backLength, min: 1, max: 1_000_000, whole: true, grows: true },
          set: (value) => ({ backBy: 'length', backLength: value }),
        }
      : undefined,
  apply(path, values, { table }) {
    const there = pathLength(path);
    const pace =
      values.backBy === 'percent' ? values.backPercent / 100 : paceFor(path, values.trips, values, table);
    const trip =
      values.by === 'length' || there / pace < 3
        ? pathLength(tripsOf(path, 1, { ...values, ends: 'home' }, pace, table))
        : Infinity;
    const away = values.ends === 'away' ? there : 0;
    const trips =
      values.by === 'trips' ? values.trips : Math.max(1, Math.round((values.length - away) / trip));
    const refused = tooMuch(path, trips * 2 + 1);
    if (refused) return { path, notices: [refused] };
    const whole = tripsOf(path, trips, values, pace, table);
    const exact = values.by === 'length' && values.total === 'exact';
    const lasts = pathLength(whole);
    const result = exact
      ? atLength((by) => settleTurns(speedUp(whole, by), table), lasts, values.length)
      : whole;

    const notices: Notice[] = [];
    if (exact)
      notices.push(
        info(
          'trips-chosen',
          `${trips} round trip${trips === 1 ? '' : 's'} at ${percentText((100 * lasts) / values.length)} of their speed make${trips === 1 ? 's' : ''} exactly ${pathFrames(result)} frames.`,
        ),
      );
    else if (values.by === 'length')
      notices.push(
        info(
          'trips-chosen',
          `${trips} round trip${trips === 1 ? '' : 's'} make${trips === 1 ? 's' : ''} ${pathFrames(result)} frames.`,
        ),
      );
    if (trip - there < 0.5)
      notices.push(info('no-way-back', 'The span is too short for a way back that turns once.'));
    return { path: result, notices };
  },
};
