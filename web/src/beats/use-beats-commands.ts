import {
  type AccentKey,
  addedAccent,
  changedAccent,
  isAccent,
  removedAccent,
} from '@skipback/core/beats/accent-edits';
import { type Band, addedBeat, removedBeat } from '@skipback/core/beats/grid';
import type { Song } from '@skipback/core/project/schema';
import { changeAccents, setGrid } from '@skipback/core/project/song-actions';
import { type Hands, useCommands } from '../commands/use-commands';
import { chooseAccent, chooseBeat, setBeatsView } from '../state/beats-view';
import { act } from '../state/project-store';
import type { SongPlaying } from './use-song-player';

interface Situation {
  readonly song: Song | null;
  readonly playing: SongPlaying;
  readonly chosen: number | null;
  readonly accent: AccentKey | null;
  /** Loops the bar under the playhead, or plays on. */
  readonly loop: () => void;
  /** Asks for a song's file. */
  readonly choose: () => void;
}

/** Seconds that the arrows go. */
const STEP_S = 1;

/** Says what Beats does for commands. */
export function useBeatsCommands({ song, playing, chosen, accent, loop, choose }: Situation): void {
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
  const mine = song?.accents.find((a) => isAccent(a, accent));
  const first = 'Choose an accent first: click it, or go to it with N.';
  const goAccent = (by: 1 | -1) => () => {
    const all = song!.accents;
    if (all.length === 0) return 'There are no accents yet: find them, or add one.';
    const here = mine ? all.indexOf(mine) : -1;
    const after = all.findIndex((a) => a.at > playing.now() + 1e-6);
    const next = here >= 0 ? here + by : by === 1 ? after : (after < 0 ? all.length : after) - 1;
    const to = all[next];
    if (!to) return by === 1 ? 'It is the last accent.' : 'It is the first accent.';
    return chooseAccent(to, song!.lengthS);
  };
  const strengthen = (by: number) => {
    if (!mine) return first;
    const strength = Number(Math.min(10, Math.max(0, mine.strength + by)).toFixed(2));
    return act('change an accent', (p) => changeAccents(p, (s) => changedAccent(s, mine, { strength })));
  };
  const give = (band: Band) => {
    if (!mine) return first;
    if (changedAccent(song!, mine, { band }).accents === song!.accents)
      return band === mine.band ? 'It is theirs already.' : 'They have an accent here already.';
    act('give an accent to another', (p) => changeAccents(p, (s) => changedAccent(s, mine, { band })));
    return setBeatsView({ accent: { at: mine.at, band } });
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
        if (mine) {
          act('remove an accent', (p) => changeAccents(p, (s) => removedAccent(s, mine)));
          return setBeatsView({ accent: null });
        }
        if (chosen === null || chosen >= beats.length)
          return 'Choose a beat or an accent first: click it, or go to one with . and , or N.';
        act('remove a beat', (p) => setGrid(p, removedBeat(song!.grid, chosen)));
        return setBeatsView({ chosen: beats.length > 1 ? Math.min(chosen, beats.length - 2) : null });
      }),
    addAccent:
      none ??
      (() => {
        const added = {
          at: Number(playing.now().toFixed(4)),
          band: accent?.band ?? ('low' as const),
          strength: 1,
        };
        const next = addedAccent(song!, added);
        if (next.accents === song!.accents) return 'There is an accent here already.';
        act('add an accent', (p) => changeAccents(p, (s) => addedAccent(s, added)));
        return setBeatsView({ accent: { at: added.at, band: added.band }, chosen: null });
      }),
    nextAccent: none ?? goAccent(1),
    previousAccent: none ?? goAccent(-1),
    stronger: none ?? (() => strengthen(0.05)),
    weaker: none ?? (() => strengthen(-0.05)),
    giveToKicks: none ?? (() => give('low')),
    giveToSnares: none ?? (() => give('mid')),
    giveToHats: none ?? (() => give('high')),
    import: choose,
  };
  useCommands(hands);
}
