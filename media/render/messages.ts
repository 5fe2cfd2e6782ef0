import { z } from 'zod';
import type { Recipes } from '@skipback/core/looks/recipes';
import type { Stereo } from '@skipback/core/sound/stereo';
import type { ClipSource } from '../frames/clip-row';
import { bulk, count } from '../heard';

export const FILM_FORMATS = ['mp4-h264', 'webm-vp9', 'webm-av1'] as const;
export type FilmFormat = (typeof FILM_FORMATS)[number];
/** Files of pictures without an encoder for films, and without sound. */
export const PICTURE_FORMATS = ['gif', 'apng', 'png-frames', 'jpeg-frames'] as const;
export type PictureFormat = (typeof PICTURE_FORMATS)[number];

export const RenderSettingsSchema = z.object({
  format: z.enum([...FILM_FORMATS, ...PICTURE_FORMATS]),
  /** Of films. */
  quality: z.enum(['draft', 'good', 'high', 'finest']),
  /** Picture height as a part of the project's. */
  scale: z.number().min(0.05).max(1),
  /** How often the result is played in the file; what loops by itself has it once. */
  loops: z.int().min(1).max(1000),
  /** Of pictures: every so-manieth frame. */
  every: z.int().min(1).max(10).default(1),
  /** Of GIF: how many colours its palette has, and what stands for those it has not. */
  colours: z
    .union([z.literal(256), z.literal(128), z.literal(64), z.literal(32), z.literal(16)])
    .default(256),
  dither: z.enum(['none', 'pattern', 'diffused']).default('pattern'),
  /** Of films: whether the sound ends with a whole beat, and begins and ends without a click. */
  loopSafe: z.boolean().default(false),
  /** Of files that can hold it: whether what is transparent of a clip is so in the file. */
  transparent: z.boolean().default(true),
  /** Seconds that the file is meant to last at most; nothing is cut, only said. Null for any length. */
  mostS: z.number().min(1).max(36_000).nullable().default(null),
});
export type RenderSettings = z.infer<typeof RenderSettingsSchema>;

export const DEFAULT_RENDER: RenderSettings = {
  ...{ format: 'mp4-h264', quality: 'high', scale: 1, loops: 1 },
  ...{ every: 1, colours: 256, dither: 'pattern', loopSafe: false },
  ...{ transparent: true, mostS: null },
};

export const isFilm = (format: RenderSettings['format']): format is FilmFormat =>
  FILM_FORMATS.some((f) => f === format);

/** Files that hold how much of each point is there. */
export const holdsTransparency = (format: RenderSettings['format']): boolean =>
  format === 'webm-vp9' || format === 'apng' || format === 'png-frames';

/** The pictures of a result, and the file they are for. */
export interface PictureJob {
  readonly clips: readonly ClipSource[];
  /** For each result frame a place in `clips` and a frame of it. */
  readonly clipPlaces: Int32Array;
  readonly clipFrames: Int32Array;
  /** What is drawn on them. */
  readonly recipes: Recipes;
  readonly rate: { readonly num: number; readonly den: number };
  readonly width: number;
  readonly height: number;
  readonly settings: RenderSettings;
  /** Whether the file gets what is transparent of the clips. */
  readonly transparent: boolean;
  /** Threads that may draw at once. */
  readonly threads: number;
}

/** How an encoder is told: a fixed quantizer for every frame, or bits a second. */
export type Setting = { readonly quantizer: number } | { readonly bitrate: number };

/** One file to make. */
export interface RenderJob extends PictureJob {
  /** What pictures of a sequence are called. */
  readonly name: string;
  /** Result frames that begin with a hard cut: the file gets a key frame there. */
  readonly cuts: readonly number[];
  /** The sound of the whole result once, at the mix rate, exactly as long as the picture; none for picture only. */
  readonly sound: Stereo | undefined;
  /** What is lacking of what the project has, in sentences. */
  readonly lacks: readonly string[];
  /** What becomes of periods that repeat: encoded once and their packets repeated, or encoded each time, to be measured against. */
  readonly repeats?: 'packets' | 'encoded';
  /** What was right for the sample of a file like it a moment ago: it is tried first. */
  readonly guess?: Setting | undefined;
  /** Where the file goes: chosen by the user, or in the origin's private file system. */
  readonly target: FileSystemFileHandle;
}

/** What the reopened file was found to be. */
export interface RenderProof {
  readonly frames: number;
  readonly durationS: number;
  readonly bytes: number;
  readonly codec: string;
  /** Codec of its sound; empty without one. */
  readonly soundCodec: string;
  readonly soundDurationS: number;
  /** Pictures of the file that were decoded again and compared with what went in, and how many were another. */
  readonly compared: number;
  readonly differing: number;
  /** How near those of a film came to what went in, over the file. Missing in proofs of before, and of pictures. */
  readonly along?: readonly { readonly atFrame: number; readonly db: number }[];
  /** Whether frame count, length, sound and the compared pictures are what was ordered, and nothing of it was lacking. */
  readonly asOrdered: boolean;
  /** What was lacking when it was made, in sentences: pieces, clips, sounds. */
  readonly lacks: readonly string[];
  /** What is to be said of it, though it is as ordered: a quality that the encoder does not reach. */
  readonly notes: readonly string[];
  /** Source frames that were damaged; the nearest good ones stand in for them. */
  readonly damaged: number;
}

export interface RenderCounts {
  readonly decoded: number;
  readonly distinct: number;
  readonly peakBytes: number;
  readonly elapsedMs: number;
  /** Different pictures that went to the encoder as they were decoded, and those that were made anew. */
  readonly untouched: number;
  readonly made: number;
  /** Pictures that looks were drawn on, and those given again that were the same. */
  readonly treated: number;
  readonly treatedAgain: number;
  /** Source pictures that were copied to be drawn with. */
  readonly copied: number;
  /** Pictures that went through the encoder; the others of the file repeat them. */
  readonly encoded: number;
  /** Pictures never closed; 0 unless there is a fault. */
  readonly leftOpen: number;
}

/** How a film can be made: its kind and its quality. */
export interface Way {
  readonly format: FilmFormat;
  readonly quality: RenderSettings['quality'];
}

/** What a way comes to: decibels against what goes in, and size. */
export interface WaySize extends Way {
  readonly db: number;
  readonly bytesPerFrame: number;
}

export type RenderRequest =
  | { readonly kind: 'render'; readonly job: RenderJob }
  | { readonly kind: 'compare'; readonly job: PictureJob; readonly ways: readonly Way[] }
  /** One result frame as the file would have it. */
  | { readonly kind: 'still'; readonly job: PictureJob; readonly position: number }
  | { readonly kind: 'cancel' };

export type RenderReply =
  /** The quality is being looked for on a sample. */
  | { readonly kind: 'sampling' }
  | {
      readonly kind: 'progress';
      readonly done: number;
      readonly total: number;
      readonly framesPerS: number;
      /** The frame being written, small, now and then. */
      readonly picture: ImageBitmap | undefined;
    }
  | {
      readonly kind: 'done';
      /** What the sample was encoded with; none of a file of pictures. */
      readonly setting: Setting | undefined;
      readonly proof: RenderProof;
      readonly counts: RenderCounts;
      readonly damaged: number;
    }
  /** One way measured; `compared` follows when all are. */
  | { readonly kind: 'size'; readonly size: WaySize }
  | { readonly kind: 'compared' }
  | { readonly kind: 'still'; readonly png: Blob }
  | { readonly kind: 'cancelled' }
  | { readonly kind: 'failed'; readonly sentence: string };

export const RenderRequestSchema: z.ZodType<RenderRequest> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('render'), job: bulk<RenderJob>() }),
  z.object({ kind: z.literal('compare'), job: bulk<PictureJob>(), ways: bulk<readonly Way[]>() }),
  z.object({ kind: z.literal('still'), job: bulk<PictureJob>(), position: count }),
  z.object({ kind: z.literal('cancel') }),
]);

export const RenderReplySchema: z.ZodType<RenderReply> = z.discriminatedUnion('kind', [
  z.object({ kind: z.enum(['sampling', 'compared', 'cancelled']) }),
  z.object({
    kind: z.literal('progress'),
    done: count,
    total: count,
    framesPerS: z.number(),
    picture: bulk<ImageBitmap>().or(z.undefined()),
  }),
  z.object({
    kind: z.literal('done'),
    setting: bulk<Setting>().or(z.undefined()),
    proof: bulk<RenderProof>(),
    counts: bulk<RenderCounts>(),
    damaged: count,
  }),
  z.object({ kind: z.literal('size'), size: bulk<WaySize>() }),
  z.object({ kind: z.literal('still'), png: bulk<Blob>() }),
  z.object({ kind: z.literal('failed'), sentence: z.string() }),
]);
