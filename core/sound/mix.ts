import type { SongPlace } from '../beats/music';
import type { TimePath } from '../path/path';
import { type Rational, toNumber } from '../time/rational';
import type { LaidSound, SpeedSound } from '../looks/heard';
import { addAlong, addLaid } from './laid';
import { addMadeSounds, type MadeGains, addPlaced } from './made/add-made';
import type { MadeKind } from './made/kinds';
import { MIX_RATE_HZ, type Stereo, gainOf, silence } from './stereo';

/** One piece in the mix: its path, and its clip's sound along it where that is heard. */
export interface MixPiece {
  readonly startFrame: number;
  readonly path: TimePath;
  readonly own: Stereo | undefined;
}

/** A made sound at a place of the result, in frames. */
export interface PlacedSound {
  readonly kind: MadeKind;
  readonly atFrame: number;
  readonly frames: number;
  readonly gainDb: number;
  readonly seed: number;
}

/** Levels in decibels of the kinds of sound that the path makes by itself. */
export type MadeLevels = Partial<Record<MadeKind, number>>;

/** Everything that is heard. */
export interface MixJob {
  readonly totalFrames: number;
  readonly rate: Rational;
  readonly song: { readonly sound: Stereo; readonly place: SongPlace; readonly gainDb: number } | undefined;
  readonly pieces: readonly MixPiece[];
  readonly clipGainDb: number;
  readonly made: MadeLevels;
  readonly placed: readonly PlacedSound[];
  /** What looks bring in, each with its clip's sound, and what goes along with the speed. */
  readonly laid: readonly { readonly laid: LaidSound; readonly sound: Stereo }[];
  readonly along: readonly SpeedSound[];
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
  const gains: MadeGains = Object.fromEntries(
    Object.entries(job.made).map(([kind, db]) => [kind, gainOf(db)]),
  );
  const clipGain = gainOf(job.clipGainDb);
  for (const [i, piece] of job.pieces.entries()) {
    const start = samplesOf(piece.startFrame, job.rate);
    if (piece.own) addSound(out, start, piece.own, clipGain);
    addMadeSounds(out, start, piece.path, gains, i + 1);
  }
  for (const { kind, atFrame, frames, gainDb, seed } of job.placed) {
    const at = samplesOf(atFrame, job.rate);
    const samples = samplesOf(atFrame + frames, job.rate) - at;
    addPlaced(out, { kind, at, samples, gain: gainOf(gainDb), seed });
  }
  for (const { laid, sound } of job.laid) addLaid(out, laid, sound, job.rate);
  for (const [i, along] of job.along.entries()) addAlong(out, along, job.rate, 7001 + i);
  limit(out.left);
  limit(out.right);
  return out;
}

function addSound(out: Stereo, start: number, sound: Stereo, gain: number): void {
  const end = Math.min(sound.left.length, out.left.length - start);
  for (let i = Math.max(0, -start); i < end; i++) {
    out.left[start + i]! += gain * sound.left[i]!;
    out.right[start + i]! += gain * sound.right[i]!;
  }
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
