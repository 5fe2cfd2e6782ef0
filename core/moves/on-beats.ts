import { z } from 'zod';
import type { Band } from '../beats/grid';
import { type Music, isHeard } from '../beats/music';
import { warning } from '../notice';
import type { TimePath } from '../path/path';
import type { MoveResult } from './move';

/** Which beats a move works on. */
export const WHICH = z.enum(['every', 'second', 'fourth', 'bar', 'half', 'low', 'mid', 'high', 'all']);

export const WHICH_FIELD = {
  key: 'which',
  kind: 'choice',
  label: 'Bursts on',
  help: 'Beats are counted from where the bars begin; accents are those on Beats.',
  options: [
    { value: 'half', label: 'every half beat' },
    { value: 'every', label: 'every beat' },
    { value: 'second', label: 'every second beat' },
    { value: 'fourth', label: 'every fourth beat' },
    { value: 'bar', label: 'every bar' },
    { value: 'low', label: 'kicks' },
    { value: 'mid', label: 'snares' },
    { value: 'high', label: 'hats' },
    { value: 'all', label: 'all accents' },
  ],
} as const;

const BANDS = ['low', 'mid', 'high', 'all'] as const;
export type OfAccents = (typeof BANDS)[number];

/** Whether it is accents, not beats. */
export const ofAccents = (which: z.infer<typeof WHICH>): which is OfAccents =>
  (BANDS as readonly string[]).includes(which);

/** Accents of a band, or of all, at least so strong (100 is a strong one), in order. */
export const accentsOf = (
  music: Music,
  band: OfAccents,
  leastPercent: number | ((band: Band) => number),
): readonly Music['accents'][number][] =>
  music.accents.filter((a) => {
    const least = typeof leastPercent === 'number' ? leastPercent : leastPercent(a.band);
    return (band === 'all' || a.band === band) && a.strength * 100 >= least && isHeard(a.at, music);
  });

/** Accents at least `apart` frames from each other: where two are nearer, the stronger one stays. */
export function strongestApart<A extends { readonly at: number; readonly strength: number }>(
  accents: readonly A[],
  apart: number,
): A[] {
  const kept: A[] = [];
  for (const accent of accents.toSorted((a, b) => b.strength - a.strength || a.at - b.at)) {
    // Those that stay, by where they are.
    let low = 0;
    let high = kept.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (kept[middle]!.at < accent.at) low = middle + 1;
      else high = middle;
    }
    const near = [kept[low - 1], kept[low]].some((k) => k && Math.abs(k.at - accent.at) < apart);
    if (!near) kept.splice(low, 0, accent);
  }
  return kept;
}

/** What a move on the music answers where there is none: nothing is changed. */
export function withoutBeats(path: TimePath, name: string): MoveResult {
  return {
    path,
    notices: [
      warning(
        'no-beats',
        `${name} needs the beats of a song.`,
        'Add a song on Beats, or type a tempo there.',
      ),
    ],
  };
}
