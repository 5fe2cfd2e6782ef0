import {
  type EncodedPacket,
  EncodedVideoPacketSource,
  NullTarget,
  Output,
  VideoSample,
  type VideoSampleSource,
} from 'mediabunny';
import { Said } from '../worker-client';
import type { FileKind } from './encoders';
import type { EncodePlan } from './encode-plan';
import type { Setting } from './messages';
import { encoderAt } from './quality';

/**
 * Encodes pictures and writes their packets into a file's track as a plan says: once, or as often as they repeat, with times
 * that go on. A run that repeats begins with a key frame that nothing before it is needed for, so its packets may stand
 * anywhere.
 */
export class PacketWriter {
  private readonly encoder: VideoSampleSource;
  private readonly everyFrame: VideoEncoderEncodeOptions;
  /** Where the encoder's own file would go. */
  private readonly nowhere: Output;
  private readonly track: EncodedVideoPacketSource;
  private readonly heard: [EncodedPacket, EncodedVideoChunkMetadata | undefined][] = [];
  private given = 0;
  /** When the last packet that was heard is shown, in the encoder's own file, seconds. */
  private lastS = -1;
  /** Packets written of the run that is being encoded. */
  private run: EncodedPacket[] = [];
  private runPlace = 0;
  private inRun = 0;
  /** All packets of the result, kept where it is written again. */
  private readonly whole: EncodedPacket[] = [];
  private frames = 0;

  /** Adds a track to an output that has not started. `written` hears, after each packet, how many frames the file has. */
  constructor(
    output: Output,
    kind: FileKind,
    setting: Setting,
    private readonly plan: EncodePlan,
    private readonly frameS: number,
    transparent: boolean,
    private readonly written: (frames: number) => Promise<void> | void,
  ) {
    const hear = (packet: EncodedPacket, meta?: EncodedVideoChunkMetadata) => {
      this.heard.push([packet, meta]);
    };
    const { source, everyFrame } = encoderAt(kind, setting, hear, transparent ? 'keep' : 'discard');
    this.encoder = source;
    this.everyFrame = everyFrame;
    this.nowhere = new Output({ format: kind.container(), target: new NullTarget() });
    this.nowhere.addVideoTrack(source, { frameRate: 1 / frameS });
    this.track = new EncodedVideoPacketSource(kind.codec);
    output.addVideoTrack(this.track, { frameRate: 1 / frameS });
  }

  async start(): Promise<void> {
    await this.nowhere.start();
  }

  /** Takes the next picture of the plan, and closes it. */
  async add(frame: VideoFrame): Promise<void> {
    const sample = new VideoSample(frame, { timestamp: this.given * this.frameS, duration: this.frameS });
    const keyFrame = this.plan.keys.has(this.given++);
    try {
      await this.encoder.add(sample, keyFrame ? { ...this.everyFrame, keyFrame } : this.everyFrame);
    } finally {
      sample.close();
    }
    await this.drain();
  }

  /** Writes what is still to come. Throws where the encoder gave other than one packet a picture. */
  async finish(): Promise<void> {
    await this.nowhere.finalize();
    await this.drain();
    if (this.runPlace !== this.plan.runs.length) throw new Error('the encoder lost pictures');
    for (let loop = 1; loop < this.plan.loops; loop++)
      for (const packet of this.whole) await this.write(packet);
    this.track.close();
  }

  async cancel(): Promise<void> {
    await this.nowhere.cancel().catch(() => undefined);
  }

  private async drain(): Promise<void> {
    for (let next = this.heard.shift(); next; next = this.heard.shift()) {
      const [packet, meta] = next;
      // Packets get their times in the order they come: it must be that of the pictures.
      if (packet.timestamp <= this.lastS)
        throw new Said(
          'This browser’s encoder writes pictures in another order than they are shown. Choose another kind of file.',
        );
      this.lastS = packet.timestamp;
      const run = this.plan.runs[this.runPlace];
      if (!run) throw new Error('the encoder gave more than its pictures');
      if (this.inRun === 0 && this.plan.keeps && packet.type !== 'key')
        throw new Error('a repeated stretch does not begin with a key frame');
      await this.write(packet, meta);
      this.keep(packet, run.times > 1);
      if (++this.inRun < run.period) continue;
      for (let time = 1; time < run.times; time++)
        for (const again of this.run) {
          await this.write(again);
          if (this.plan.loops > 1) this.whole.push(again);
        }
      this.run = [];
      this.inRun = 0;
      this.runPlace++;
    }
  }

  private keep(packet: EncodedPacket, repeats: boolean): void {
    if (repeats) this.run.push(packet);
    if (this.plan.loops > 1) this.whole.push(packet);
  }

  private async write(packet: EncodedPacket, meta?: EncodedVideoChunkMetadata): Promise<void> {
    const placed = packet.clone({ timestamp: this.frames * this.frameS, duration: this.frameS });
    await this.track.add(placed, meta);
    await this.written(++this.frames);
  }
}
