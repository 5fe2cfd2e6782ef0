import type { ClipSource } from '../frames/clip-row';

/** Asks for frames [first, end) of a clip as a small film. */
export interface CopyRequest {
  readonly id: number;
  readonly kind: 'copy';
  readonly clip: ClipSource;
  readonly first: number;
  readonly end: number;
}

export type CopyReply =
  | { readonly id: number; readonly kind: 'progress'; readonly share: number }
  | { readonly id: number; readonly kind: 'copied'; readonly film: Blob }
  | { readonly id: number; readonly kind: 'failed'; readonly sentence: string };
