import { z } from 'zod';
import { chosenBeats } from '../beats/music';
import { info } from '../notice';
import { pathFrames, pathLength } from '../path/path';
import { type Stretch, knotsOf, warpPath } from '../path/warp';
import type { Move } from './move';
import { WHICH_FIELD, WHICH, accentsOf, ofAccents, strongestApart, withoutBeats } from './on-beats';

const schema = z.object({
  rest: z.number().min(2).max(1000),
  peak: z.number().min(2).max(3000),
  rise: z.int().min(0).max(300),
  fall: z.int().min(0).max(300),
  which: WHICH,
  least: z.number().min(0).max(100).default(40),
});
type Values = z.infer<typeof schema>;

/** A resting speed, and a burst on every chosen beat: fastest exactly on the beat. */
export const surge: Move<Values> = {
  id: 'surge',
  name: 'Surge',
  group: 'music',
  also: 'pulse, speed on beats',
  summary: 'Crawls along and bursts forward on the beats.',
  schema,
  listens: () => true,
  defaults: { rest: 40, peak: 400, rise: 2, fall: 8, which: 'every', least: 40 },
  shape: [0, 0.04, 0.2, 0.3, 0.34, 0.52, 0.63, 0.67, 0.86, 1],
  fields: [
    {
      key: 'rest',
      kind: 'percent',
      label: 'Between beats',
      help: 'Speed of what comes in between the bursts.',
      min: 2,
      max: 1000,
    },
    {
      key: 'peak',
      kind: 'percent',
      label: 'On the beat',
      help: 'Speed at the top of each burst.',
      min: 2,
      max: 3000,
    },
    { key: 'rise', kind: 'length', label: 'Rises over', help: 'Frames before the beat.', min: 0, max: 300 },
    { key: 'fall', kind: 'length', label: 'Falls over', help: 'Frames after it.', min: 0, max: 300 },
    WHICH_FIELD,
    {
      key: 'least',
      kind: 'percent',
      label: 'At least',
      help: 'Weaker accents do nothing; 100 is a strong one.',
      when: (v) => ofAccents(v.which),
      min: 0,
      max: 100,
    },
  ],
  apply(path, { rest, peak, rise, fall, which, least }, { music, table }) {
    if (!music || music.beats.length < 2) return withoutBeats(path, 'Surge');
    const end = pathLength(path);
    // Time runs at least as slowly as at rest, so beats up to there can be reached.
    const reach = (end / Math.min(rest, peak)) * 100;
    const low = rest / 100;
    const high = peak / 100;
    const stretches: Stretch[] = [];
    let time = 0;
    const go = (to: number, from: number, till: number) => {
      if (to > time) stretches.push({ from, to: till, time: to - time });
      time = Math.max(time, to);
    };
    const beats = ofAccents(which)
      ? strongestApart(
          accentsOf(music, which, least).filter((a) => a.at >= -1e-6 && a.at < reach),
          1,
        ).map((a) => a.at)
      : chosenBeats(music, which, 0, reach);
    beats.forEach((beat, i) => {
      const next = beats[i + 1] ?? Infinity;
      const before = Math.max(time, beat - rise);
      go(before, low, low);
      go(beat, low + (high - low) * (rise > 0 ? Math.max(0, 1 - (beat - time) / rise) : 1), high);
      go(
        Math.min(beat + fall, next),
        high,
        low + (high - low) * Math.max(0, 1 - (Math.min(beat + fall, next) - beat) / Math.max(1e-9, fall)),
      );
    });
    stretches.push({ from: low, to: low, old: end });
    const result = warpPath(path, knotsOf(stretches.map((s, part) => ({ ...s, part }))), table);
    const frames = pathFrames(result);
    const used = beats.filter((b) => b < frames).length;
    return {
      path: result,
      notices: [info('surges', `${used} burst${used === 1 ? '' : 's'} in ${frames} frames.`)],
    };
  },
};
