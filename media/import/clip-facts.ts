import { type FrameTable, frameCount } from '@skipback/core/clip/frame-table';
import { type Notice, failure, warning } from '@skipback/core/notice';
import type { PacketIndex } from '../reader/packet-index';

/** What import learns of a file once and keeps. */
export interface ClipFacts {
  /** Missing in what was learned before versions were counted. */
  readonly version?: number;
  readonly table: FrameTable;
  readonly index: PacketIndex;
  /** Size as seen: turned upright, square pixels. */
  readonly width: number;
  readonly height: number;
  readonly rotation: number;
  /** As people know it: `H.264`. */
  readonly codec: string;
  readonly container: string;
  readonly hasSound: boolean;
  /** Set where some of its picture is transparent. */
  readonly clear?: true;
  readonly notices: readonly Notice[];
}

/** Clips up to this many frames are read whole for their thumbnails, and so checked for damage and cuts; of longer ones key frames. */
export const READ_WHOLE = 3000;

/** Raised when what is learned of a file changes; clips imported before are looked at again. */
export const FACTS_VERSION = 3;

/** The sentence for frames that cannot be decoded, [first, last] ranges. */
export function damageNotice(damaged: readonly number[], table: FrameTable): Notice | undefined {
  const first = damaged[0];
  if (first === undefined) return undefined;
  const last = damaged[damaged.length - 1]!;
  const where =
    damaged.length === 1 ? `Frame ${first} is` : `${damaged.length} frames between ${first} and ${last} are`;
  if (damaged.length === frameCount(table))
    return failure(
      'all-damaged',
      'No frame of this file can be decoded.',
      'Export it again as H.264 in MP4 or VP9 in WebM.',
    );
  return warning('damaged', `${where} damaged.`, 'The good frame before is shown in their place.');
}
