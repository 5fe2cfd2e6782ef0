import type { ClipSource } from '../frames/clip-row';
import type { Inspection } from './inspect';

/** Thumbnails of a clip: one picture with equal cells, row by row, at evenly spaced frames. */
export interface ThumbnailSheet {
  readonly sheet: Blob;
  readonly frames: readonly number[];
  readonly cellWidth: number;
  readonly cellHeight: number;
  readonly columns: number;
  /** Frames that could not be decoded, ascending. Only looked for where every frame was read. */
  readonly damaged: readonly number[];
}

export type ImportRequest =
  | { readonly id: number; readonly kind: 'inspect'; readonly file: Blob; readonly name: string }
  | { readonly id: number; readonly kind: 'thumbnails'; readonly clip: ClipSource };

export type ImportReply =
  | { readonly id: number; readonly kind: 'inspected'; readonly inspection: Inspection }
  | { readonly id: number; readonly kind: 'thumbnails'; readonly sheet: ThumbnailSheet }
  | { readonly id: number; readonly kind: 'failed'; readonly sentence: string };
