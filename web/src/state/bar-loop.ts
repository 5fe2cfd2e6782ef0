import { type Frame, frame } from '@skipback/core/time/units';
import { barStart, nearestBeat, placeOf } from '@skipback/core/beats/grid';
import { frameOfSong, songAtFrame, frameOn, leanAt } from '@skipback/core/beats/music';
import type { Project, Song } from '@skipback/core/project/schema';
import type { Rational } from '@skipback/core/time/rational';
import { setPlaying, usePlaying } from './playing';

export interface BeatStretch {
  readonly from: number;
  readonly to: number;
}

/** Result frames of a stretch of beats, within a result of a length; undefined when none of it is heard there. */
export function framesOfBeats(
  song: Song,
  { from, to }: BeatStretch,
  rate: Rational,
  totalFrames: number,
): { first: Frame; end: Frame } | undefined {
  const [a, b] = [song.grid.beats[from], song.grid.beats[to]];
  if (a === undefined || b === undefined) return undefined;
  const first = frame(Math.max(0, frameOn(frameOfSong(song, a, rate), { lean: leanAt(rate) })));
  const end = frame(Math.min(totalFrames, frameOn(frameOfSong(song, b, rate), { lean: leanAt(rate) })));
  return end > first ? { first, end } : undefined;
}

/** The bar at a result frame, and `count` - 1 after it, as places of beats; undefined without a whole bar. */
export function barsAt(song: Song, frame: number, rate: Rational, count: number): BeatStretch | undefined {
  const { grid } = song;
  const at = songAtFrame(song, frame + 0.5, rate);
  const near = nearestBeat(grid, at);
  if (!near) return undefined;
  const from = barStart(grid, near.offS < 0 && near.place > 0 ? near.place - 1 : near.place);
  const to = Math.min(grid.beats.length - 1, from + count * grid.beatsPerBar);
  return to > from ? { from, to } : undefined;
}

/** Loops the bar under the playhead, and `count` - 1 after it; or plays all again. What it now is, in words. */
export function toggleBars(project: Project, count: number): string {
  const { beats, position } = usePlaying.getState();
  const { song, rate } = project;
  const next = beats !== null || !song ? undefined : barsAt(song, position, rate, count);
  setPlaying({ beats: next ?? null });
  if (beats !== null) return 'Plays all of it';
  if (!song || song.grid.beats.length < 2) return 'There is no song with beats: add one on Beats.';
  return next ? `Loops ${wordsOf(song, next)}` : 'There is no whole bar under the playhead.';
}

/** A stretch of beats in words: its bars, or its beats. */
export function wordsOf({ grid }: Song, { from, to }: BeatStretch): string {
  const [a, b] = [placeOf(grid, from), placeOf(grid, to)];
  if (a.beat !== 0 || b.beat !== 0) {
    const beats = to - from;
    return `${beats} beat${beats === 1 ? '' : 's'} from bar ${a.bar + 1}, beat ${a.beat + 1}`;
  }
  return b.bar - a.bar === 1 ? `bar ${a.bar + 1}` : `bars ${a.bar + 1} to ${b.bar}`;
}
