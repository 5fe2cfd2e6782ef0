import { type Music, frameAfter, frameOfBeat, frameOn } from '../beats/music';
import { type FrameTable, durationOf, frameCount, startOf } from '../clip/frame-table';
import { type Notice, warning } from '../notice';
import { runsMadeBy } from '../path/makers';
import { type TimePath, pathFrames, pathLength } from '../path/path';
import { frame } from '../time/units';
import type { MusicPlace, Place, SegmentPlace, SourcePlace } from './place';
import { nearestTo, showingsOf } from './showings';
import { musicText, sourceText } from './words';

/** A mark of the clip, as places need it. */
export interface PlaceMark {
  readonly id: string;
  readonly name: string;
  readonly frame: number;
}

/** What places are worked out on: a path that comes in, its clip, the song counted from its first frame. */
export interface Ground {
  readonly path: TimePath;
  readonly table: FrameTable;
  readonly marks: readonly PlaceMark[];
  readonly music: Music | undefined;
}

/** Where a place lies: result positions, in order; for `every` as many as there are. */
export interface Resolved {
  readonly at: readonly number[];
  /** The instant that is shown there, where the place is one of the clip; seconds. */
  readonly instant?: number;
  /** Why it lies elsewhere, or nowhere. */
  readonly said?: Notice;
}

const NOWHERE: readonly number[] = [];

/** Where a place lies on a path. Never fails: what cannot be found is said, and lies nearest to it, or nowhere. */
export function resolvePlace(place: Place, ground: Ground): Resolved {
  if (typeof place === 'number') return { at: [place] };
  if ('source' in place || 'mark' in place) return inTheClip(place, ground);
  if ('makers' in place) return onSegment(place, ground);
  if ('share' in place) return moved([place.share * pathLength(ground.path)], place.plus, ground);
  if ('end' in place) return { at: [pathFrames(ground.path) - place.end] };
  return inTheSong(place, ground);
}

/** A place moved by frames, or by beats where there are any. */
function moved(
  at: readonly number[],
  by: number | { readonly beats: number } | undefined,
  { music }: Ground,
): Resolved {
  if (by === undefined || by === 0) return { at };
  if (typeof by === 'number') return { at: at.map((a) => a + by) };
  if (!music || music.beats.length < 2) return { at, said: noBeats() };
  return { at: at.map((a) => frameOfBeat(music, beatAt(music, a) + by.beats)) };
}

/** The beat number at a position, with its fraction, 0 the first on or after frame 0; carried on past the ends. */
export function beatAt(music: Music, at: number): number {
  const zero = frameOfBeat(music, 0);
  const step = Math.max(1e-6, frameOfBeat(music, 1) - zero);
  let low = Math.floor((at - zero) / step) - 1;
  // Beats are nearly even: a few steps from where they would be if they were.
  for (let i = 0; i < 100_000 && frameOfBeat(music, low) > at; i++) low--;
  for (let i = 0; i < 100_000 && frameOfBeat(music, low + 1) <= at + 1e-9; i++) low++;
  const [a, b] = [frameOfBeat(music, low), frameOfBeat(music, low + 1)];
  return b > a ? low + (at - a) / (b - a) : low;
}

const noBeats = () =>
  warning('no-beats', 'It is placed by beats, but there is no song with beats.', 'Add a song on Beats.');

/** The frame of the clip that a place of it names; a mark that is gone names none. */
export function sourceOf(
  place: SourcePlace,
  { marks, table }: Pick<Ground, 'marks' | 'table'>,
): number | undefined {
  const named = 'mark' in place ? marks.find((m) => m.id === place.mark)?.frame : place.source;
  return named === undefined ? undefined : Math.min(frameCount(table) - 1, Math.max(0, named));
}

function inTheClip(place: SourcePlace, ground: Ground): Resolved {
  const { path, table } = ground;
  const shown = sourceOf(place, ground);
  if (shown === undefined)
    return {
      at: NOWHERE,
      said: warning('no-mark', 'It goes by a mark that is not there any more.', 'Choose another place.'),
    };
  const first = startOf(table, frame(shown));
  const end = shown + 1 < frameCount(table) ? startOf(table, frame(shown + 1)) : durationOf(table);
  const showings = showingsOf(path, first, end);
  const wanted = place.showing ?? 1;
  const here =
    wanted === 'every' ? showings : showings[wanted - 1] ? [showings[wanted - 1]!] : showings.slice(-1);
  const instant = (first + end) / 2;
  if (here.length === 0) {
    const near = moved([nearestTo(path, instant)], place.plus, ground);
    const told = sourceText({ ...place, plus: undefined, showing: undefined }, ground.marks);
    return {
      ...near,
      said: warning(
        'not-shown',
        `What comes in never shows ${told}: it is where it comes nearest.`,
        'Choose a frame that is played, or a longer span.',
      ),
    };
  }
  const found = moved(
    here.map((s) => s.from),
    place.plus,
    ground,
  );
  const still = place.plus === undefined || place.plus === 0 ? { instant } : {};
  if (typeof wanted === 'number' && wanted > showings.length)
    return {
      ...found,
      ...still,
      said: warning(
        'fewer-showings',
        `It is shown ${showings.length === 1 ? 'once' : `${showings.length} times`}: the last of them is taken.`,
        'Choose an earlier time.',
      ),
    };
  return { ...found, ...still };
}

function onSegment(place: SegmentPlace, ground: Ground): Resolved {
  const runs = runsMadeBy(ground.path, place.makers);
  const run = runs[Math.min(place.nth, runs.length - 1)];
  if (run) return moved([place.edge === 'from' ? run.from : run.to], place.plus, ground);
  return {
    ...moved([place.was], place.plus, ground),
    said: warning(
      'segment-gone',
      'It holds on to a part of a move that is not there now: it rests where that was.',
      'Switch the move on, or choose another place.',
    ),
  };
}

/** Beats, bars and accents: the whole frame they are on. */
function inTheSong(place: MusicPlace | { readonly beats: number }, ground: Ground): Resolved {
  const { music, path } = ground;
  if (!music || music.beats.length < 2) return { at: NOWHERE, said: noBeats() };
  if ('beats' in place) return { at: [frameOn(frameOfBeat(music, place.beats), music)] };
  const at = instantOf(place, music);
  const found = at === undefined ? { at: NOWHERE } : moved([frameOn(at, music)], place.plus, ground);
  const outside = found.at.every((a) => a < 0 || a > pathLength(path));
  if (!outside) return found;
  return {
    at: NOWHERE,
    said: warning(
      'outside-music',
      `${musicText(place)} does not lie in what comes in: nothing happens.`,
      'Choose another place, or slide the song.',
    ),
  };
}

/** Where a place of the song lies, exactly; undefined for an accent that there is not. */
export function instantOf(place: MusicPlace, music: Music): number | undefined {
  const { beats, firstBar, beatsPerBar } = music;
  if ('accent' in place) return music.accents.filter((a) => a.band === place.band)[place.accent - 1]?.at;
  const number = 'beat' in place ? place.beat - 1 : firstBar + (place.bar - 1) * beatsPerBar;
  const low = Math.floor(number);
  const inside = (i: number) => beats[Math.min(beats.length - 1, Math.max(0, i))]!;
  const step = (inside(beats.length - 1) - inside(0)) / (beats.length - 1);
  const at = (i: number) =>
    i < 0 ? inside(0) + i * step : i >= beats.length ? inside(i) + (i - beats.length + 1) * step : inside(i);
  return at(low) + (number - low) * (at(low + 1) - at(low));
}

/** Frames that a length lasts, from where what comes in begins. */
export const lengthFrames = ({ beats }: { readonly beats: number }, music: Music): number =>
  frameOn(frameAfter(music, beats), music);
