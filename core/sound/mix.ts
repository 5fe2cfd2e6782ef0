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

/** A sound at a place of the result, in frames: made, or a file's. */
export type PlacedSound<Own = OwnVoice> = {
  readonly atFrame: number;
  readonly frames: number;
  readonly gainDb: number;
} & ({ readonly kind: MadeKind; readonly seed: number } | ({ readonly kind: 'own' } & Own));

/** A file's sound, from a second of it on, counted in the way it plays. */
export interface OwnVoice {
  readonly sound: Stereo;
  readonly fromS: number;
  readonly backward: boolean;
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
  for (const placed of job.placed) {
    const at = samplesOf(placed.atFrame, job.rate);
    const samples = samplesOf(placed.atFrame + placed.frames, job.rate) - at;
    const gain = gainOf(placed.gainDb);
    if (placed.kind === 'own') addOwn(out, placed, at, samples, gain);
    else addPlaced(out, { kind: placed.kind, at, samples, gain, seed: placed.seed });
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

function addOwn(
  out: Stereo,
  { sound, fromS, backward }: OwnVoice,
  at: number,
  samples: number,
  gain: number,
): void {
  const fade = Math.round(EDGE_S * MIX_RATE_HZ);
  const all = sound.left.length;
  const first = Math.round(fromS * MIX_RATE_HZ);
  const length = Math.min(samples, all - first);
  const end = Math.min(length, out.left.length - at);
  for (let i = Math.max(0, -at); i < end; i++) {
    // A file that begins or ends in silence is not faded twice: its own edges are kept.
    const begins = first === 0 ? 1 : Math.min(1, i / fade);
    const ends = length === all - first ? 1 : Math.min(1, (length - 1 - i) / fade);
    const from = backward ? all - 1 - first - i : first + i;
    const level = gain * Math.min(begins, ends);
    out.left[at + i]! += level * sound.left[from]!;
    out.right[at + i]! += level * sound.right[from]!;
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
