import { z } from 'zod';
import { warning } from '../notice';
import type { TimePath } from '../path/path';
import type { MoveResult } from './move';

/** Which beats a move works on. */
export const WHICH = z.enum(['every', 'second', 'fourth', 'bar', 'half']);

export const WHICH_FIELD = {
  key: 'which',
  kind: 'choice',
  label: 'Beats',
  help: 'Counted from where the bars begin.',
  options: [
    { value: 'half', label: 'every half beat' },
    { value: 'every', label: 'every beat' },
    { value: 'second', label: 'every second beat' },
    { value: 'fourth', label: 'every fourth beat' },
    { value: 'bar', label: 'every bar' },
  ],
} as const;

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
