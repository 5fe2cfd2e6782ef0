import { type FrameTable, frameCount } from '../clip/frame-table';
import type { Framing } from '../project/schema';
import type { Size } from '../steady/framing';

/** A clip as looks that bring in its pictures know it. */
export interface BroughtClip {
  readonly name: string;
  readonly table: FrameTable;
  /** Of its picture, upright. */
  readonly size: Size;
  readonly framing: Framing;
  /** Whether some of its picture is transparent. */
  readonly clear: boolean;
  readonly hasSound: boolean;
}

/** Clips of the project by their ids; undefined for one that is not there, or whose file is not. */
export type Brought = (clipId: string) => BroughtClip | undefined;

/** Frames of a clip; none of one that is not there. */
export const framesIn = (clip: BroughtClip | undefined): number => (clip ? frameCount(clip.table) : 0);

export const NOTHING_BROUGHT: Brought = () => undefined;

/** What a clip's pictures are read by where a look brings them in; `clear` for how much of each point is there. */
export const broughtId = (clipId: string, framing: Framing, clear = false): string =>
  `${clipId} as ${framing}${clear ? ' clear' : ''}`;
