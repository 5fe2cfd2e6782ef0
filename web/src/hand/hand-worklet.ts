/** The clip's sound under the hand, in the audio thread: hears where the hand is, plays what lies there. */
import type { Stereo } from '@skipback/core/sound/stereo';
import { SoundUnderHand } from '@skipback/core/sound/under-hand';

/** What the page tells. */
export type HandMessage =
  | { readonly kind: 'sound'; readonly sound: Stereo }
  | { readonly kind: 'down' | 'move'; readonly atS: number };

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
    this.port.onmessage = ({ data }: MessageEvent<HandMessage>) => {
      if (data.kind === 'sound') this.hand = new SoundUnderHand(data.sound, sampleRate);
      else if (data.kind === 'down') this.hand?.putDown(data.atS);
      else this.hand?.moveTo(data.atS);
    };
  }

  process(_: Float32Array[][], outputs: Float32Array[][]): boolean {
    const [left, right] = outputs[0]!;
    if (left && right) this.hand?.read(left, right);
    return true;
  }
}

registerProcessor('hand', HandProcessor);
