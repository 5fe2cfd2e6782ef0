import type { ClipSource } from '../frames/clip-row';

/** What the picture can be told. Positions are result frames; `clip` is a place in the last `clips` list. */
export type PreviewRequest =
  | { readonly kind: 'attach'; readonly canvas: OffscreenCanvas; readonly budgetBytes: number }
  /** Picture size in device pixels, and the width of the project's picture that it stands for. */
  | {
      readonly kind: 'resize';
      readonly width: number;
      readonly height: number;
      readonly projectWidth: number;
    }
  | { readonly kind: 'clips'; readonly clips: readonly ClipSource[] }
  /** What the result shows: a place in the clip list and a frame of it, for each result frame. */
  | {
      readonly kind: 'result';
      readonly clipPlaces: Int32Array;
      readonly clipFrames: Int32Array;
      readonly rateHz: number;
    }
  /** Plays in `order`-ed result frames: from `from`, `step` frames at a time (negative: backward), within [first, end). */
  | {
      readonly kind: 'play';
      readonly from: number;
      readonly step: number;
      readonly first: number;
      readonly end: number;
      readonly loops: boolean;
      /** 1 at the project's rate, 0.5 at half of it. */
      readonly pace: number;
    }
  /** The sound is ahead by so many milliseconds: the picture's clock is moved on. */
  | { readonly kind: 'clock'; readonly byMs: number }
  | { readonly kind: 'still-result'; readonly position: number }
  | { readonly kind: 'still-source'; readonly clipPlace: number; readonly frame: number }
  /** Asks for what is on the screen as a small picture file. */
  | { readonly kind: 'poster' };

/** Counts since the last `play`, and what is held. */
export interface PreviewStats {
  readonly playing: boolean;
  readonly shown: number;
  /** Result frames that were due but never reached the screen. */
  readonly late: number;
  /** Source frames decoded since the worker began. */
  readonly decoded: number;
  readonly heldBytes: number;
  readonly budgetBytes: number;
}

export type PreviewReply =
  | { readonly kind: 'shown-result'; readonly position: number }
  /** Playing began: the frame at `position` was due at `atMs`, milliseconds since 1970. */
  | { readonly kind: 'began'; readonly atMs: number; readonly position: number }
  | { readonly kind: 'ended' }
  | { readonly kind: 'poster'; readonly poster: Blob }
  | { readonly kind: 'stats'; readonly stats: PreviewStats }
  | { readonly kind: 'trouble'; readonly sentence: string };
