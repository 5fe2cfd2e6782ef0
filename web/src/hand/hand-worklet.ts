/** The clip's sound under the hand, in the audio thread: hears where the hand is, plays what lies there. */
import { SoundUnderHand } from '@skipback/core/sound/under-hand';
import { hearing } from '@skipback/media/heard';
import { type HandMessage, HandMessageSchema } from './messages';

// The scope of an audio worklet is not in the page's types.
declare const sampleRate: number;
declare class AudioWorkletProcessor {
  readonly port: MessagePort;
}
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void;

class HandProcessor extends AudioWorkletProcessor {
  private hand: SoundUnderHand | undefined;

  constructor() {
    super();
    const take = (message: HandMessage) => {
      if (message.kind === 'sound') this.hand = new SoundUnderHand(message.sound, sampleRate);
      else if (message.kind === 'down') this.hand?.putDown(message.atS);
      else this.hand?.moveTo(message.atS);
    };
    hearing(HandMessageSchema, take, () => undefined, this.port);
    this.port.start();
  }

  process(_: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0]!;
    if (left && right) this.hand?.read(left, right);
    return true;
  }
}

registerProcessor('hand', HandProcessor);
