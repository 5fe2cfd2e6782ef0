import { z } from 'zod';
import { bulk, count, place } from '../heard';
import type { Frame } from '@skipback/core/time/units';
import type { Recipes } from '@skipback/core/looks/recipes';
import type { ClipSource } from '../frames/clip-row';

/** What the picture can be told. Positions are result frames; `clip` is a place in the last `clips` list. */
export type PreviewRequest =
  | {
      readonly kind: 'attach';
      readonly canvas: OffscreenCanvas;
      readonly budgetBytes: number;
      /** Threads that may draw at once. */
      readonly threads: number;
    }
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
      readonly recipes: Recipes;
      readonly rateHz: number;
    }
  /** Plays in `order`-ed result frames: from `from`, `step` frames at a time (negative: backward), within [first, end). */
  | {
      readonly kind: 'play';
      readonly from: Frame;
      readonly step: number;
      readonly first: Frame;
      readonly end: Frame;
      readonly loops: boolean;
      /** 1 at the project's rate, 0.5 at half of it. */
      readonly pace: number;
    }
  /** The sound is ahead by so many milliseconds: the picture's clock is moved on. */
  | { readonly kind: 'clock'; readonly byMs: number }
  /** Makes pictures along the motion from now on, or mixes them; `position` is the result frame on the screen. */
  | { readonly kind: 'motion'; readonly moves: boolean; readonly position: Frame }
  | { readonly kind: 'still-result'; readonly position: Frame }
  | { readonly kind: 'still-source'; readonly clipPlace: number; readonly frame: Frame }
  /** Asks for what is on the screen as a small picture file. */
  | { readonly kind: 'poster' }
  /** Asks for the source picture on the screen, small, as each treatment would show it by itself. */
  | { readonly kind: 'try-looks'; readonly width: number };

/** Counts since the last `play`, and what is held. */
export interface PreviewStats {
  readonly playing: boolean;
  readonly shown: number;
  /** Result frames that were due but never reached the screen. */
  readonly late: number;
  /** Source frames decoded since the worker began. */
  readonly decoded: number;
  /** Decoded pictures that nobody has closed yet: none at rest. */
  readonly open: number;
  readonly heldBytes: number;
  readonly budgetBytes: number;
  /** 1 where looks are drawn at the screen's own size, 2 and 3 where they are drawn at a half or a third of it. */
  readonly coarseness: number;
  /** Milliseconds a picture with looks takes on the mean, and each treatment by its id. */
  readonly looksMs: number;
  readonly costs: Readonly<Record<string, number>>;
}

/** Result frames [first, end) in a row, one pair after the other. */
export type Spans = readonly (readonly [number, number])[];

/** How far a result's pictures along the motion are. */
export interface MotionReady {
  /** Pictures made so far, of how many. */
  readonly made: number;
  readonly of: number;
  /** Whether more are being made; where not and some are missing, there is no room for more. */
  readonly working: boolean;
  /** False where they are mixed because that was asked for. */
  readonly goesOn: boolean;
  /** Result frames where motion was needed and not trusted, and of which part of what moves, 0 to 1. */
  readonly lost: readonly (readonly [position: number, share: number])[];
}

export type PreviewReply =
  | { readonly kind: 'shown-result'; readonly position: Frame }
  /** Whether another frame is on the screen for longer than a moment, until the still that was asked for has come. */
  | { readonly kind: 'stands-in'; readonly now: boolean }
  /** Playing began: the frame at `position` was due at `atMs`, milliseconds since 1970. */
  | { readonly kind: 'began'; readonly atMs: number; readonly position: Frame }
  | { readonly kind: 'ended' }
  | { readonly kind: 'poster'; readonly poster: Blob }
  /** Result frames whose looks are drawn already, or that have none. */
  | { readonly kind: 'ready'; readonly spans: Spans; readonly motion: MotionReady | undefined }
  | { readonly kind: 'tried'; readonly pictures: Readonly<Record<string, ImageBitmap>> }
  | { readonly kind: 'stats'; readonly stats: PreviewStats }
  | { readonly kind: 'trouble'; readonly sentence: string };

export const PreviewRequestSchema: z.ZodType<PreviewRequest> = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('attach'),
    canvas: bulk<OffscreenCanvas>(),
    budgetBytes: z.number().positive(),
    threads: z.int().min(1),
  }),
  z.object({ kind: z.literal('resize'), width: count, height: count, projectWidth: count }),
  z.object({ kind: z.literal('clips'), clips: z.array(bulk<ClipSource>()) }),
  z.object({
    kind: z.literal('result'),
    clipPlaces: bulk<Int32Array>(),
    clipFrames: bulk<Int32Array>(),
    recipes: bulk<Recipes>(),
    rateHz: z.number().positive(),
  }),
  z.object({
    kind: z.literal('play'),
    from: place,
    step: z.int(),
    first: place,
    end: place,
    loops: z.boolean(),
    pace: z.number().positive(),
  }),
  z.object({ kind: z.literal('clock'), byMs: z.number() }),
  z.object({ kind: z.literal('motion'), moves: z.boolean(), position: place }),
  z.object({ kind: z.literal('still-result'), position: place }),
  z.object({ kind: z.literal('still-source'), clipPlace: count, frame: place }),
  z.object({ kind: z.literal('poster') }),
  z.object({ kind: z.literal('try-looks'), width: z.number().positive() }),
]);

export const PreviewReplySchema: z.ZodType<PreviewReply> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('shown-result'), position: place }),
  z.object({ kind: z.literal('stands-in'), now: z.boolean() }),
  z.object({ kind: z.literal('began'), atMs: z.number(), position: place }),
  z.object({ kind: z.literal('ended') }),
  z.object({ kind: z.literal('poster'), poster: bulk<Blob>() }),
  z.object({
    kind: z.literal('ready'),
    spans: z.array(z.tuple([count, count])),
    motion: bulk<MotionReady>().or(z.undefined()),
  }),
  z.object({ kind: z.literal('tried'), pictures: z.record(z.string(), bulk<ImageBitmap>()) }),
  z.object({ kind: z.literal('stats'), stats: bulk<PreviewStats>() }),
  z.object({ kind: z.literal('trouble'), sentence: z.string() }),
]);
