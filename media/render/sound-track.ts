import type { Stereo } from '@skipback/core/sound/stereo';
import {
  type AudioCodec,
  AudioSample,
  AudioSampleSource,
  EncodedAudioPacketSource,
  type EncodedPacket,
  NullTarget,
  Output,
  QUALITY_HIGH,
} from 'mediabunny';
import { Said } from '../worker-client';
import { ownAac } from './own-aac';
import { type FileKind, soundCodecOf } from './encoders';

/** Samples handed to the encoder at once. */
const CHUNK = 9_600;

/**
 * The sound of a file being made: the result's sound, as often as it plays, handed over as the picture grows. Its packets are
 * put where they are heard, and the last one ends where the sound does, whatever the encoder filled it up with.
 */
export class SoundTrack {
  private at = 0;
  private readonly encoder: AudioSampleSource;
  private readonly nowhere: Output;
  private readonly heard: [EncodedPacket, EncodedAudioChunkMetadata | undefined][] = [];

  private constructor(
    private readonly track: EncodedAudioPacketSource,
    codec: AudioCodec,
    kind: FileKind,
    private readonly sound: Stereo,
    private readonly total: number,
    /** Seconds of nothing that the encoder puts before the sound. */
    private readonly leadS: number,
  ) {
    this.encoder = new AudioSampleSource({
      codec,
      quality: QUALITY_HIGH,
      onEncodedPacket: (packet, meta) => {
        this.heard.push([packet, meta]);
      },
    });
    this.nowhere = new Output({ format: kind.container(), target: new NullTarget() });
    this.nowhere.addAudioTrack(this.encoder);
  }

  /** Adds a sound track to an output that has not started. Throws a sentence when the browser cannot encode one. */
  static async on(output: Output, sound: Stereo, kind: FileKind, loops: number): Promise<SoundTrack> {
    const codec = await soundCodecOf(kind);
    if (!codec) throw new Said(`This browser cannot encode sound for ${kind.label}. Render without it.`);
    const leadS = codec === 'aac' ? await ownAac() : 0;
    const source = new EncodedAudioPacketSource(codec);
    output.addAudioTrack(source);
    const track = new SoundTrack(source, codec, kind, sound, sound.left.length * loops, leadS);
    await track.nowhere.start();
    return track;
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
        await this.encoder.add(sample);
      } finally {
        sample.close();
      }
      this.at += count;
    }
    await this.drain();
  }

  /** Hands over what is left. */
  async finish(): Promise<void> {
    await this.addUpTo(Infinity);
    await this.nowhere.finalize();
    await this.drain();
    this.track.close();
  }

  async cancel(): Promise<void> {
    await this.nowhere.cancel().catch(() => undefined);
  }

  private async drain(): Promise<void> {
    const endS = this.total / this.sound.rateHz;
    for (let next = this.heard.shift(); next; next = this.heard.shift()) {
      const [packet, meta] = next;
      const timestamp = packet.timestamp - this.leadS;
      // Only what it is filled up with.
      if (timestamp >= endS - 1e-6) continue;
      const duration = Math.min(packet.duration, endS - timestamp);
      await this.track.add(packet.clone({ timestamp, duration }), meta);
    }
  }
}
