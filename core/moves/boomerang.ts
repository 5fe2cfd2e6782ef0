import { z } from 'zod';
import type { FrameTable } from '../clip/frame-table';
import { info, type Notice } from '../notice';
import { tooMuch } from '../path/limits';
import { type TimePath, joinPaths, pathFrames, pathLength, reversePath, speedUp } from '../path/path';
import { resolveTurns, turningOnce } from '../path/turns';
import type { Move } from './move';

const schema = z.object({
  by: z.enum(['trips', 'length']),
  trips: z.int().min(1).max(999),
  length: z.int().min(2).max(1_000_000),
  backPercent: z.number().min(5).max(3000),
  turn: z.enum(['once', 'twice']),
  ends: z.enum(['home', 'away']),
});
type Values = z.infer<typeof schema>;

/** `trips` times there and back, and there once more where it ends away. */
function tripsOf(path: TimePath, trips: number, values: Values, table: FrameTable): TimePath {
  const back = speedUp(reversePath(path), values.backPercent / 100);
  const turned = values.turn === 'once' ? turningOnce(back) : back;
  const parts: TimePath[] = [];
  for (let i = 0; i < trips; i++) parts.push(path, turned);
  if (values.ends === 'away') parts.push(path);
  return resolveTurns(joinPaths(path.rate, parts), table);
}

/** There and back, as often as wanted. */
export const boomerang: Move<Values> = {
  id: 'boomerang',
  name: 'Boomerang',
  summary: 'There and back, as many round trips as you like.',
  schema,
  defaults: { by: 'trips', trips: 2, length: 240, backPercent: 100, turn: 'once', ends: 'home' },
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
      help: 'Takes the whole number of trips nearest to it; Fit makes it exact.',
      min: 2,
      max: 1_000_000,
      when: (v) => v.by === 'length',
    },
    {
      key: 'backPercent',
      kind: 'percent',
      label: 'Backward speed',
      help: 'Speed of the way back, measured against the way there.',
      min: 5,
      max: 3000,
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
    if (finding === 'loop' && ends === 'away') return { words: 'End home', values: { ends: 'home' } };
    if (finding === 'doubled' && turn === 'twice') return { words: 'Turn once', values: { turn: 'once' } };
    if (finding === 'skip' && ends === 'home' && inside)
      return { words: 'Leave forward', values: { ends: 'away' } };
    return undefined;
  },
  apply(path, values, { table }) {
    const there = pathLength(path);
    const trip =
      values.by === 'length' || (there * 100) / values.backPercent < 3
        ? pathLength(tripsOf(path, 1, { ...values, ends: 'home' }, table))
        : Infinity;
    const away = values.ends === 'away' ? there : 0;
    const trips =
      values.by === 'trips' ? values.trips : Math.max(1, Math.round((values.length - away) / trip));
    const refused = tooMuch(path, trips * 2 + 1);
    if (refused) return { path, notices: [refused] };
    const result = tripsOf(path, trips, values, table);

    const notices: Notice[] = [];
    if (values.by === 'length')
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
