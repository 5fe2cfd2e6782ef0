import type { Framing } from '@skipback/core/project/schema';
import type { Placing } from '@skipback/core/steady/steady';
import { keyBefore } from '@skipback/core/plan/decode-plan';
import type { PacketIndex } from '../reader/packet-index';
import { type SmallCopy, keysWith } from './small-copy';

/** One clip as workers get it. */
export interface ClipSource {
  readonly clipId: string;
  readonly file: Blob;
  readonly index: PacketIndex;
  readonly framing: Framing;
  /** Set where not its colours are read but how much of each point is there. */
  readonly clear?: boolean;
  /** Small films that are read in its place as far as they go, in their order. None where its own pixels matter. */
  readonly copies?: readonly SmallCopy[] | undefined;
  /** Where each of its frames is put, if something holds it. */
  readonly placing?: Pick<Placing, 'maps' | 'edges' | 'key'> | undefined;
}

/**
 * Several clips numbered through as one row of frames, so that one plan and one cache serve them all.
 * No run crosses from one into the next.
 */
export class ClipRow {
  readonly keys: number[] = [];
  /** The first number of each clip: no run of decoding crosses one. */
  readonly starts: number[] = [];
  private readonly byId = new Map<string, number>();

  constructor(readonly clips: readonly ClipSource[]) {
    let start = 0;
    for (const [i, clip] of clips.entries()) {
      this.starts.push(start);
      this.byId.set(clip.clipId, i);
      for (const key of keysWith(clip.index.keys, clip.copies)) this.keys.push(start + key);
      start += clip.index.times.length;
    }
  }

  /** The row's number of a clip's frame; undefined for a clip that is not in the row. */
  numberOf(clipId: string, frame: number): number | undefined {
    const i = this.byId.get(clipId);
    return i === undefined ? undefined : this.starts[i]! + frame;
  }

  /** The clip and its frame behind a number of the row. */
  locate(number: number): { clip: ClipSource; place: number; frame: number } {
    const start = keyBefore(this.starts, number);
    const place = this.starts.lastIndexOf(start);
    return { clip: this.clips[place]!, place, frame: number - start };
  }
}
