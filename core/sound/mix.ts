import type { SongPlace } from '../beats/music';
import type { TimePath } from '../path/path';
import { type Rational, toNumber } from '../time/rational';
import { addAlongPath } from './follow';
import { addMadeSounds } from './made';
import { MIX_RATE_HZ, type Stereo, gainOf, silence } from './stereo';

/** One piece in the mix: its path, and its clip's sound where it is heard. */
export interface MixPiece {
  readonly startFrame: number;
  readonly path: TimePath;
  readonly sound: Stereo | undefined;
  readonly clipPace: number;
}

/** Everything that is heard. */
export interface MixJob {
  readonly totalFrames: number;
  readonly rate: Rational;
  readonly song: { readonly sound: Stereo; readonly place: SongPlace; readonly gainDb: number } | undefined;
  readonly pieces: readonly MixPiece[];
  readonly clipGainDb: number;
  /** Undefined when no sounds are made. */
  readonly madeGainDb: number | undefined;
}

/** Fade at the song's beginning and end in the mix, seconds. */
const EDGE_S = 0.004;

/** Samples of a number of result frames, to the sample: loops of them never drift. */
export const samplesOf = (frames: number, rate: Rational): number =>
  Math.round((frames * MIX_RATE_HZ * rate.den) / rate.num);

/** The whole result's sound, exactly as long as its picture. */
export function mixSound(job: MixJob): Stereo {
  const out = silence(samplesOf(job.totalFrames, job.rate));
  if (job.song) addSong(out, job.song.sound, job.song.place, gainOf(job.song.gainDb), job.rate);
  for (const [i, piece] of job.pieces.entries()) {
    const start = samplesOf(piece.startFrame, job.rate);
    if (piece.sound)
      addAlongPath(out, start, piece.path, piece.sound, gainOf(job.clipGainDb), piece.clipPace);
    if (job.madeGainDb !== undefined) addMadeSounds(out, start, piece.path, gainOf(job.madeGainDb), i + 1);
  }
  limit(out.left);
  limit(out.right);
  return out;
}

function addSong(out: Stereo, song: Stereo, place: SongPlace, gain: number, rate: Rational): void {
  const fade = Math.round(EDGE_S * MIX_RATE_HZ);
  const shift = Math.round((place.fromS - place.startFrame / toNumber(rate)) * MIX_RATE_HZ);
  const first = Math.max(0, Math.round(place.fromS * MIX_RATE_HZ));
  const end = Math.min(out.left.length, song.left.length - shift);
  for (let i = Math.max(0, first - shift); i < end; i++) {
    const at = i + shift;
    const edge = Math.min(1, (at - first) / fade, (song.left.length - 1 - at) / fade);
    out.left[i]! += gain * edge * song.left[at]!;
    out.right[i]! += gain * edge * song.right[at]!;
  }
}

/** Loud peaks are bent, not cut: straight up to 0.8, then towards 1. */
function limit(channel: Float32Array): void {
  for (let i = 0; i < channel.length; i++) {
    const v = channel[i]!;
    const over = Math.abs(v) - 0.8;
    if (over > 0) channel[i] = Math.sign(v) * (0.8 + 0.2 * Math.tanh(over / 0.2));
  }
}
