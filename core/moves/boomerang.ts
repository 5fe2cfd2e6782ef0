import { z } from 'zod';
import { info, type Notice } from '../notice';
import { type TimePath, joinPaths, pathFrames, reversePath, slicePath, speedUp } from '../path/path';
import { percentText } from '../time/entry';
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

/**
 * The way back of a path. Turning once leaves out what one result frame of the forward pass covers
 * at each end, so neither turn shows a frame twice. May be empty when the path is that short.
 */
function wayBack(path: TimePath, backPercent: number, turn: Values['turn']): TimePath {
  const kept = turn === 'once' ? slicePath(path, 1, pathFrames(path) - 1) : path;
  return speedUp(reversePath(kept), backPercent / 100);
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
      kind: 'frames',
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
  apply(path, values) {
    const back = wayBack(path, values.backPercent, values.turn);
    const backFrames = pathFrames(back);
    const tripFrames = pathFrames(path) + backFrames;
    const away = values.ends === 'away' ? pathFrames(path) : 0;
    const trips =
      values.by === 'trips' ? values.trips : Math.max(1, Math.round((values.length - away) / tripFrames));
    const parts: TimePath[] = [];
    for (let i = 0; i < trips; i++) parts.push(path, back);
    if (away > 0) parts.push(path);
    const result = joinPaths(path.rate, parts);

    const notices: Notice[] = [];
    if (values.by === 'length')
      notices.push(
        info(
          'trips-chosen',
          `${trips} round trip${trips === 1 ? '' : 's'} make${trips === 1 ? 's' : ''} ${pathFrames(result)} frames.`,
        ),
      );
    if (backFrames === 0)
      notices.push(info('no-way-back', 'The span is too short for a way back that turns once.'));
    else {
      const kept = values.turn === 'once' ? pathFrames(path) - 2 : pathFrames(path);
      const actual = (kept / backFrames) * 100;
      if (Math.abs(actual - values.backPercent) > 0.05)
        notices.push(
          info('true-speed', `${backFrames} whole frames make the way back ${percentText(actual)}.`),
        );
    }
    return { path: result, notices };
  },
};
