import { analyse } from '@skipback/core/beats/analyse';
import type { Example } from '@skipback/core/beats/fitting';
import { fMeasure } from '@skipback/core/beats/score';

/** A song whose beats are known. */
export interface KnownSong {
  /** What it belongs to: songs of a set are counted together. */
  readonly set: string;
  /** Its kind; songs of one kind are fitted to together or not at all. */
  readonly name: string;
  readonly mono: Float32Array;
  readonly rateHz: number;
  /** Instants, seconds, and those that begin a bar: none where bars change. */
  readonly beats: readonly number[];
  readonly downbeats: readonly number[];
  readonly beatsPerBar: number;
}

/** What there is to learn from a song of a kind. */
export interface KindExample extends Example {
  readonly name: string;
}

/** A song without its first seconds, and of that only so many. */
export function cutOut(song: KnownSong, fromS: number, lengthS = Infinity): KnownSong {
  const { rateHz } = song;
  const mono = song.mono.slice(Math.round(fromS * rateHz), Math.round((fromS + lengthS) * rateHz));
  const inside = (places: readonly number[]) =>
    places.map((b) => b - fromS).filter((b) => b >= 0 && b < mono.length / rateHz);
  return { ...song, mono, beats: inside(song.beats), downbeats: inside(song.downbeats) };
}

/** F of beats after *Half* or *Double*, if one of these helps. */
export function afterOnePress(beats: readonly number[], truth: readonly number[]): number {
  const doubled = beats.flatMap((b, i) => (i + 1 < beats.length ? [b, (b + beats[i + 1]!) / 2] : [b]));
  const halved = [0, 1].map((odd) => beats.filter((_, i) => i % 2 === odd));
  return Math.max(...[beats, doubled, ...halved].map((found) => fMeasure(found, truth)));
}

/** How a song was heard. */
export interface Heard {
  readonly set: string;
  readonly name: string;
  readonly f: number;
  readonly onePress: number;
  /** With the second reading, where that is better. */
  readonly second: number;
  /** How sure the beats were said to be. */
  readonly likely: number;
  /** Whether its bars begin where they do; nothing where its beats are wrong or its bars change. */
  readonly bars: boolean | undefined;
  readonly barsLikely: number;
}

/** Beats count as right from this F on, bars from this F of their beginnings. */
export const RIGHT = 0.8;
const BARS_RIGHT = 0.7;

export function hear(song: KnownSong): Heard {
  const { grid, second, likely, barsLikely } = analyse(song.mono, song.rateHz);
  const f = fMeasure(grid.beats, song.beats);
  const begin = grid.beats.filter((_, i) => i % grid.beatsPerBar === grid.firstBar % grid.beatsPerBar);
  // Bars of two, as six eight is counted, are as right as those of four that begin with every other.
  const told = f > RIGHT && song.downbeats.length > 2 && song.beatsPerBar > 2;
  return {
    ...{ set: song.set, name: song.name, f, likely, barsLikely },
    onePress: afterOnePress(grid.beats, song.beats),
    second: Math.max(f, second ? fMeasure(second.beats, song.beats) : 0),
    bars: told ? fMeasure(begin, song.downbeats) > BARS_RIGHT : undefined,
  };
}
