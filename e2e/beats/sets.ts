import { bandSongs, perform } from '@skipback/core/beats/fixtures/bands';
import { grooveOf } from '@skipback/core/beats/fixtures/kinds';
import { type MadeSong, madeSongs, movingSongs } from '@skipback/core/beats/fixtures/songs';
import { type KnownSong, cutOut } from './heard';
import { hasStyles, styleFiles, styleSong } from './styles';

const known = (set: string, { name, mono, rateHz, beats, beatsPerBar }: MadeSong): KnownSong => ({
  ...{ set, name, mono, rateHz, beats, beatsPerBar },
  downbeats: beats.filter((_, i) => i % beatsPerBar === 0),
});

/** A number from 0 to 1 that goes with a song: where it is cut, how long it is. */
const shareOf = (seed: number): number => {
  const x = Math.sin(seed * 12.9898 + 4.1) * 43_758.5453;
  return x - Math.floor(x);
};

/** Every other song without its first seconds. */
const halfCut = (song: KnownSong, n: number): KnownSong =>
  n % 2 === 0 ? song : cutOut(song, 0.5 + 7.5 * shareOf(n));

/** Songs by their seeds, of all sets; those of others only where their packages are installed. */
export function* songsOf(seeds: readonly number[]): Generator<KnownSong> {
  let n = 0;
  const styles = hasStyles() ? styleFiles() : [];
  for (const seed of seeds) {
    for (const song of madeSongs(seed, 40))
      if (song.beats.length > 10) yield halfCut(known('first set', song), n++);
    for (const song of bandSongs(seed, 40)) yield halfCut(known('hard set', song), n++);
    for (const song of movingSongs(seed, 60)) yield halfCut(known('moving', song), n++);
    for (let i = 0; i < GROOVES_A_SEED; i++) {
      const at = seed * GROOVES_A_SEED + i;
      const song = perform(grooveOf(at), at, 34 + 12 * shareOf(at));
      yield halfCut(known('thirty kinds', song), n++);
    }
    for (const file of styles) {
      const song = styleSong(file, seed);
      if (song) yield halfCut(song, n++);
    }
  }
}
/** Grooves that are drawn for a seed: each kind some times. */
const GROOVES_A_SEED = 240;
