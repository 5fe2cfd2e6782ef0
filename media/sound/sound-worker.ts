import { analyse } from '@skipback/core/beats/analyse';
import { mixSound } from '@skipback/core/sound/mix';
import { type Stereo, monoOf, peaksOf } from '@skipback/core/sound/stereo';
import { decodeSound } from './decode-sound';
import { type MixRequest, PEAK_SAMPLES, type SoundReply, type SoundRequest } from './messages';

/** Sounds decoded so far; they stay here, mixes and analyses are made where they are. */
const sounds = new Map<string, Stereo>();

const reply = (message: SoundReply) =>
  self.postMessage(message, {
    transfer: message.kind === 'mixed' ? [message.sound.left.buffer, message.sound.right.buffer] : [],
  });

const known = (soundId: string): Stereo => {
  const sound = sounds.get(soundId);
  if (!sound) throw new Error('The sound is not loaded.');
  return sound;
};

function mix(request: MixRequest): Stereo {
  const { song } = request;
  return mixSound({
    ...request,
    song: song && { ...song, sound: known(song.soundId) },
    pieces: request.pieces.map((p) => ({
      ...p,
      sound: p.soundId === undefined ? undefined : sounds.get(p.soundId),
    })),
  });
}

/** Half the rate, for analysis: beats need nothing above twelve kilohertz. */
function halved(mono: Float32Array): Float32Array {
  const out = new Float32Array(mono.length >> 1);
  for (let i = 0; i < out.length; i++) out[i] = (mono[2 * i]! + mono[2 * i + 1]!) / 2;
  return out;
}

async function answer(request: SoundRequest): Promise<SoundReply> {
  const { id } = request;
  const progress = (share: number) => reply({ id, kind: 'progress', share });
  if (request.kind === 'load') {
    const sound = sounds.get(request.soundId) ?? (await decodeSound(request.file, request.name, progress));
    sounds.set(request.soundId, sound);
    const facts = { lengthS: sound.left.length / sound.rateHz, peaks: peaksOf(sound, PEAK_SAMPLES) };
    return { id, kind: 'loaded', facts };
  }
  if (request.kind === 'analyse') {
    const sound = known(request.soundId);
    return { id, kind: 'analysed', analysis: analyse(halved(monoOf(sound)), sound.rateHz / 2, progress) };
  }
  return { id, kind: 'mixed', sound: mix(request.mix) };
}

self.addEventListener('message', ({ data }: MessageEvent<SoundRequest>) => {
  answer(data)
    .catch((error: unknown): SoundReply => ({
      id: data.id,
      kind: 'failed',
      sentence: error instanceof Error ? error.message : String(error),
    }))
    .then(reply);
});
