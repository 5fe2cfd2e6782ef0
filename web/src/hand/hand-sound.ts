import { recordGroove } from '@skipback/core/sound/made/synths';
import { MIX_RATE_HZ, type Stereo, gainOf } from '@skipback/core/sound/stereo';
import { soundClient } from '@skipback/media/sound/sound-client';
import { loadClipSound } from '../state/clip-sound';
import type { LoadedClip } from '../state/library';
import workletUrl from './hand-worklet.ts?worker&url';
import type { HandMessage } from './messages';

/** The sound of a clip that a hand moves; where the clip has none, that of a record. */
export class HandSound {
  private context: AudioContext | undefined;
  private node: AudioWorkletNode | undefined;
  private gain: GainNode | undefined;

  /** Gets a clip's sound ready. Gives whether it is the clip's own. Throws where the browser plays no sound. */
  async open(clip: LoadedClip, gainDb: number): Promise<boolean> {
    const context = (this.context = new AudioContext({
      latencyHint: 'interactive',
      sampleRate: MIX_RATE_HZ,
    }));
    await context.audioWorklet.addModule(workletUrl);
    // It may have been closed in the meantime.
    if (context.state === 'closed') return false;
    this.node = new AudioWorkletNode(context, 'hand', { numberOfInputs: 0, outputChannelCount: [2] });
    this.gain = new GainNode(context, { gain: gainOf(gainDb) });
    this.node.connect(this.gain).connect(context.destination);
    const own = await clipSound(clip);
    const groove = recordGroove(MIX_RATE_HZ);
    const sound = own ?? { left: groove, right: groove, rateHz: MIX_RATE_HZ };
    this.tell({ kind: 'sound', sound });
    return own !== undefined;
  }

  setHeard(heard: boolean, gainDb: number): void {
    if (this.gain) this.gain.gain.value = heard ? gainOf(gainDb) : 0;
  }

  /** The hand is put down at, or moved to, an instant of the clip, seconds. */
  tellHand(kind: 'down' | 'move', atS: number): void {
    if (kind === 'down') void this.context?.resume();
    this.tell({ kind, atS });
  }

  close(): void {
    void this.context?.close();
    this.context = undefined;
    this.node = undefined;
  }

  private tell(message: HandMessage): void {
    this.node?.port.postMessage(message);
  }
}

async function clipSound(clip: LoadedClip): Promise<Stereo | undefined> {
  try {
    return await soundClient.copyOf(await loadClipSound(clip));
  } catch {
    return undefined;
  }
}
