import { type Rational, toNumber } from '../time/rational';
import type { Envelopes } from './envelope';
import type { Accent, Band, BeatGrid } from './grid';

/** The song as moves know it: beats and accents as result frames (with fractions) of what they work on. */
export interface Music {
  /** Beats, ascending; some may lie before frame 0. */
  readonly beats: readonly number[];
  /** Place in `beats` of the first that begins a bar, counted from the first beat of the song. */
  readonly firstBar: number;
  readonly beatsPerBar: number;
  readonly accents: readonly { readonly at: number; readonly band: Band; readonly strength: number }[];
  /** The shapes that accents of each band are given. */
  readonly envelopes: Envelopes;
  /** Where the song begins to sound: what lies before is silent, and nothing happens on it. */
  readonly sounds?: number;
  /** Frames by which `frameOn` leans to later ones; none where it is not given. */
  readonly lean?: number;
}

/** Beats and accents are found up to this much before they are heard, seconds. */
const FOUND_EARLY_S = 0.01;

/** Frames to lean to later ones, so that what lies on a beat does not come a whole frame before it is heard. */
export const leanAt = (rate: Rational): number => Math.max(0, FOUND_EARLY_S * toNumber(rate) - 0.5);

/**
 * The frame that a beat or an accent at a result position is on: the nearest. Whatever is to happen on it, a landing, a
 * turn, a step, a look, happens on this one.
 */
export const frameOn = (at: number, { lean = 0 }: Pick<Music, 'lean'> = {}): number => Math.round(at + lean);

/** Where a song lies under the result. */
export interface SongPlace {
  /** Result frame at which the song's instant `fromS` sounds. */
  readonly startFrame: number;
  readonly fromS: number;
}

/** Result frame, with fraction, at which an instant of the song sounds. */
export const frameOfSong = (place: SongPlace, atS: number, rate: Rational): number =>
  place.startFrame + (atS - place.fromS) * toNumber(rate);

/** The instant of the song that sounds at a result frame. */
export const songAtFrame = (place: SongPlace, frame: number, rate: Rational): number =>
  place.fromS + (frame - place.startFrame) / toNumber(rate);

/** The grid, accents and envelopes of a song laid under a result. */
export function musicOf(
  {
    grid,
    accents,
    envelopes,
  }: { readonly grid: BeatGrid; readonly accents: readonly Accent[]; readonly envelopes: Envelopes },
  place: SongPlace,
  rate: Rational,
): Music {
  return {
    envelopes,
    beats: grid.beats.map((b) => frameOfSong(place, b, rate)),
    firstBar: grid.firstBar,
    beatsPerBar: grid.beatsPerBar,
    lean: leanAt(rate),
    sounds: place.startFrame,
    accents: accents.map((a) => ({ ...a, at: frameOfSong(place, a.at, rate) })),
  };
}

/** The same music counted from a later frame on. */
export function musicFrom(music: Music, frame: number): Music {
  if (frame === 0) return music;
  return {
    ...music,
    beats: music.beats.map((b) => b - frame),
    ...(music.sounds !== undefined && { sounds: music.sounds - frame }),
    accents: music.accents.map((a) => ({ ...a, at: a.at - frame })),
  };
}

/** Frames a beat lasts on the mean around frame 0; 0 without beats. */
export function beatFrames({ beats }: Music): number {
  if (beats.length < 2) return 0;
  const here = Math.max(
    0,
    Math.min(
      beats.length - 2,
      beats.findIndex((b) => b >= 0),
    ),
  );
  const to = Math.min(beats.length - 1, here + 8);
  const from = Math.max(0, to - 8);
  return (beats[to]! - beats[from]!) / (to - from);
}

/** A beat this much before frame 0 still counts as on it: pieces begin on whole frames, beats do not. */
const ON_IT = 1 - 1e-6;

/** The frame at a beat number with fractions, 0 the first beat on or after frame 0; carried on past the ends. */
export function frameOfBeat(music: Music, number: number): number {
  const { beats } = music;
  const first = beats.findIndex((b) => b >= -ON_IT);
  const place = (first < 0 ? beats.length : first) + number;
  const step = beatFrames(music);
  if (place < 0) return beats[0]! + place * step;
  if (place >= beats.length - 1) return beats[beats.length - 1]! + (place - beats.length + 1) * step;
  const i = Math.floor(place);
  return beats[i]! + (beats[i + 1]! - beats[i]!) * (place - i);
}

/**
 * The frame `beats` beats after frame 0: where a length in beats ends. Begun on a beat (to the frame), it ends
 * on one, so that pieces in a row stay on the grid; begun elsewhere, it ends at the same place of a beat.
 */
export function frameAfter(music: Music, beats: number): number {
  const next = frameOfBeat(music, 0);
  const before = frameOfBeat(music, -1);
  if (next < 1) return frameOfBeat(music, beats);
  // The share of a beat from frame 0 to the next one.
  return frameOfBeat(music, beats - next / (next - before));
}

/** Whether the song sounds at a position, but for a slip of the hand before it does. */
export const isHeard = (at: number, { sounds }: Pick<Music, 'sounds'>): boolean =>
  sounds === undefined || at >= sounds - 0.5;

/** Which beats something happens on. */
export type Which = 'every' | 'second' | 'fourth' | 'bar' | 'half';

/** The frames of the chosen beats from `from` up to `to`. `half` is also halfway between. */
export function chosenBeats(music: Music, which: Which, from: number, to: number): number[] {
  const { beats, firstBar, beatsPerBar } = music;
  const step = { every: 1, second: 2, fourth: 4, bar: beatsPerBar, half: 1 }[which];
  const chosen = beats.filter((_, i) => (((i - firstBar) % step) + step) % step === 0);
  const all =
    which === 'half'
      ? chosen.flatMap((b, i) => (i + 1 < chosen.length ? [b, (b + chosen[i + 1]!) / 2] : [b]))
      : chosen;
  return all.filter((b) => b >= from - 1e-6 && b < to && isHeard(b, music));
}
