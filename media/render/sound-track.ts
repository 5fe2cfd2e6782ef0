import type { Stereo } from '@skipback/core/sound/stereo';
import { AudioSample, AudioSampleSource, type Output, QUALITY_HIGH } from 'mediabunny';
import { Said } from '../worker-client';
import { type FileKind, soundCodecOf } from './encoders';

/** Samples handed to the encoder at once. */
const CHUNK = 9_600;

/** The sound of a file being made: the result's sound, as often as it plays, handed over as the picture grows. */
export class SoundTrack {
  private at = 0;

  private constructor(
    private readonly source: AudioSampleSource,
    private readonly sound: Stereo,
    private readonly total: number,
  ) {}

  /** Adds a sound track to an output that has not started. Throws a sentence when the browser cannot encode one. */
  static async on(output: Output, sound: Stereo, kind: FileKind, loops: number): Promise<SoundTrack> {
    const codec = await soundCodecOf(kind);
    if (!codec) throw new Said(`This browser cannot encode sound for ${kind.label}. Render without it.`);
    const source = new AudioSampleSource({ codec, quality: QUALITY_HIGH });
    output.addAudioTrack(source);
    return new SoundTrack(source, sound, sound.left.length * loops);
  }

  /** Hands over everything up to an instant of the file, in seconds. */
  async addUpTo(endS: number): Promise<void> {
    const { left, right, rateHz } = this.sound;
    const end = Math.min(this.total, Math.round(endS * rateHz));
    while (this.at < end) {
      const from = this.at % left.length;
      const count = Math.min(CHUNK, end - this.at, left.length - from);
      const data = new Float32Array(2 * count);
      data.set(left.subarray(from, from + count), 0);
      data.set(right.subarray(from, from + count), count);
      const sample = new AudioSample({
        data,
        format: 'f32-planar',
        numberOfChannels: 2,
        sampleRate: rateHz,
        timestamp: this.at / rateHz,
      });
      try {
        await this.source.add(sample);
      } finally {
        sample.close();
      }
      this.at += count;
    }
  }
}
