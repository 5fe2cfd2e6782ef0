import { addedBeat, removedBeat } from '@skipback/core/beats/grid';
import type { Song } from '@skipback/core/project/schema';
import { setGrid } from '@skipback/core/project/song-actions';
import { type Hands, useCommands } from '../commands/use-commands';
import { chooseBeat, setBeatsView } from '../state/beats-view';
import { act } from '../state/project-store';
import type { SongPlaying } from './use-song-player';

interface Situation {
  readonly song: Song | null;
  readonly playing: SongPlaying;
  readonly chosen: number | null;
  /** Loops the bar under the playhead, or plays on. */
  readonly loop: () => void;
  /** Asks for a song's file. */
  readonly choose: () => void;
}

/** Seconds that the arrows go. */
const STEP_S = 1;

/** Says what Beats does for commands. */
export function useBeatsCommands({ song, playing, chosen, loop, choose }: Situation): void {
  const none = song ? undefined : { why: 'There is no song yet.' };
  const seek = (to: () => number) => none ?? (() => playing.seek(to()));
  const beats = song?.grid.beats ?? [];
  const go = (by: 1 | -1) => () => {
    if (beats.length === 0) return 'There are no beats yet: find them, or type the tempo.';
    const after = beats.findIndex((b) => b > playing.now() + 1e-6);
    const near = by === 1 ? after : (after < 0 ? beats.length : after) - 1;
    const next = chosen === null ? near : chosen + by;
    if (next < 0 || next >= beats.length) return by === 1 ? 'It is the last beat.' : 'It is the first beat.';
    return chooseBeat(next, beats[next]!, song!.lengthS);
  };
  const hands: Hands = {
    play: none ?? (() => playing.toggle()),
    first: seek(() => 0),
    last: seek(() => song!.lengthS),
    previous: seek(() => playing.now() - STEP_S),
    next: seek(() => playing.now() + STEP_S),
    previousTen: seek(() => playing.now() - 10 * STEP_S),
    nextTen: seek(() => playing.now() + 10 * STEP_S),
    bar: none ?? loop,
    click: none ?? (() => playing.setClicks(!playing.clicks)),
    nextBeat: none ?? go(1),
    previousBeat: none ?? go(-1),
    addBeat:
      none ??
      (() => {
        const at = playing.now();
        const grid = addedBeat(song!.grid, at);
        if (grid.beats.length === beats.length) return 'There is a beat here already.';
        act('add a beat', (p) => setGrid(p, grid));
        return setBeatsView({ chosen: grid.beats.findIndex((b) => Math.abs(b - at) < 1e-6) });
      }),
    removeBeat:
      none ??
      (() => {
        if (chosen === null || chosen >= beats.length)
          return 'Choose a beat first: press it, or go to it with . and ,';
        act('take a beat away', (p) => setGrid(p, removedBeat(song!.grid, chosen)));
        return setBeatsView({ chosen: beats.length > 1 ? Math.min(chosen, beats.length - 2) : null });
      }),
    import: choose,
  };
  useCommands(hands);
}
