import { bandPeaks } from '@skipback/core/beats/band-peaks';
import { analyse } from '@skipback/core/beats/analyse';
import { soundAlong } from '@skipback/core/sound/follow';
import { mixSound } from '@skipback/core/sound/mix';
import type { PitchKeeper } from '@skipback/core/sound/own-pitch';
import { MIX_RATE_HZ, type Stereo, halfRateMono, peaksOf } from '@skipback/core/sound/stereo';
import { decodeSound } from './decode-sound';
import { KeptSounds } from './kept-sounds';
import { hearing } from '../heard';
import {
  type MixRequest,
  PEAK_SAMPLES,
  type SoundReply,
  type SoundRequest,
  SoundRequestSchema,
} from './messages';
import { Said, sentenceOf } from '../worker-client';
import { openPitchKeeper } from './pitch-keeper';

/** Sounds decoded so far; they stay here, mixes and analyses are made where they are. */
const sounds = new Map<string, Stereo>();

/** Pieces' sounds along their paths: a mix anew works out only those that changed. */
const along = new KeptSounds(5 * 60 * MIX_RATE_HZ);

const reply = (message: SoundReply) =>
  self.postMessage(message, {
    transfer:
      message.kind === 'mixed' || message.kind === 'copied'
        ? [message.sound.left.buffer, message.sound.right.buffer]
        : [],
  });

const known = (soundId: string): Stereo => {
  const sound = sounds.get(soundId);
  if (!sound) throw new Said('a sound is not there any more. Reload the page.');
  return sound;
};

let keeper: PitchKeeper | undefined;

async function mix(request: MixRequest): Promise<Stereo> {
  const { song, holds, keepsPitch, rate } = request;
  if (keepsPitch) keeper ??= await openPitchKeeper(MIX_RATE_HZ);
  return mixSound({
    ...request,
    song: song && { ...song, sound: known(song.soundId) },
    placed: request.placed.map((p) => (p.kind === 'own' ? { ...p, sound: known(p.soundId) } : p)),
    laid: request.laid.map(({ laid, soundId }) => ({ laid, sound: known(soundId) })),
    pieces: request.pieces.map(({ startFrame, path, soundId, clipPace }) => {
      const clip = soundId === undefined ? undefined : sounds.get(soundId);
      const own =
        clip &&
        along.get(JSON.stringify([soundId, clipPace, holds, keepsPitch, rate, path.segments]), () =>
          soundAlong(path, clip, MIX_RATE_HZ, { clipPace, holds, keeper: keepsPitch ? keeper : undefined }),
        );
      return { startFrame, path, own };
    }),
  });
}

async function answer(request: SoundRequest): Promise<SoundReply> {
  const { id } = request;
  let told = 0;
  // A song has ninety thousand packets: who watches is told of every hundredth.
  const progress = (share: number) => {
    if (Math.abs(share - told) < 0.01) return;
    told = share;
    reply({ id, kind: 'progress', share });
  };
  if (request.kind === 'load') {
    const sound =
      sounds.get(request.soundId) ?? (await decodeSound(request.file, request.name, progress, request.range));
    sounds.set(request.soundId, sound);
    const facts = {
      lengthS: sound.left.length / sound.rateHz,
      peaks: peaksOf(sound, PEAK_SAMPLES),
      bands: bandPeaks(sound, PEAK_SAMPLES),
    };
    return { id, kind: 'loaded', facts };
  }
  if (request.kind === 'analyse') {
    const sound = known(request.soundId);
    return { id, kind: 'analysed', analysis: analyse(halfRateMono(sound), sound.rateHz / 2, progress) };
  }
  if (request.kind === 'copy') {
    const { left, right, rateHz } = known(request.soundId);
    return { id, kind: 'copied', sound: { left: left.slice(), right: right.slice(), rateHz } };
  }
  return { id, kind: 'mixed', sound: await mix(request.mix) };
}

hearing(
  SoundRequestSchema,
  (data) => {
    answer(data)
      .catch((error: unknown): SoundReply => ({
        id: data.id,
        kind: 'failed',
        sentence: sentenceOf(error, 'the sound worker gave it up. Reload the page and try again.'),
      }))
      .then(reply);
  },
  (id, sentence) => reply({ id, kind: 'failed', sentence }),
);
