import type { LoopProposal } from '@skipback/core/checks/likeness';
import { z } from 'zod';
import type { ClipSource } from '../frames/clip-row';
import { bulk, count } from '../heard';
import type { Inspection } from './inspect';
import type { SeamLooks } from './seam';

/** Thumbnails of a clip: one picture with equal cells, row by row, at evenly spaced frames. */
export interface ThumbnailSheet {
  readonly sheet: Blob;
  readonly frames: readonly number[];
  readonly cellWidth: number;
  readonly cellHeight: number;
  readonly columns: number;
  /** Frames that could not be decoded, ascending. Only looked for where every frame was read. */
  readonly damaged: readonly number[];
  /** Frames that begin another shot, ascending; null where not every frame was read, missing in sheets of before. */
  readonly cuts?: readonly number[] | null;
}

/** `slow` while something plays; `rests` while the first picture is awaited, but not for ever. */
export type Pace = 'free' | 'slow' | 'rests';

export type ImportRequest =
  | { readonly id: number; readonly kind: 'inspect'; readonly file: Blob; readonly name: string }
  /** `urgent`: somebody waits for them. */
  | { readonly id: number; readonly kind: 'thumbnails'; readonly clip: ClipSource; readonly urgent: boolean }
  /** How what nobody waits for goes on from now. Has no answer. */
  | { readonly id: number; readonly kind: 'give-way'; readonly pace: Pace }
  /** Loops of at least `least` frames within [first, end), the `most` best. */
  | {
      readonly id: number;
      readonly kind: 'loops';
      readonly clip: ClipSource;
      readonly first: number;
      readonly end: number;
      readonly least: number;
      readonly most: number;
    }
  /** The picture's change from one frame to another, in usual steps. */
  | {
      readonly id: number;
      readonly kind: 'seam';
      readonly clip: ClipSource;
      readonly before: number;
      readonly after: number;
      readonly looks: SeamLooks | undefined;
    }
  /** Every `step`-th of frames [first, end), small. */
  | {
      readonly id: number;
      readonly kind: 'small';
      readonly clip: ClipSource;
      readonly first: number;
      readonly end: number;
      readonly step: number;
      readonly width: number;
    }
  /** Frames of [first, end) that begin another shot; `urgent`: somebody waits for them. */
  | {
      readonly id: number;
      readonly kind: 'cuts';
      readonly clip: ClipSource;
      readonly first: number;
      readonly end: number;
      readonly urgent: boolean;
    }
  /** The place without what moves through it. */
  | { readonly id: number; readonly kind: 'clean-plate'; readonly clip: ClipSource }
  /** One frame at full size. */
  | { readonly id: number; readonly kind: 'still'; readonly clip: ClipSource; readonly frame: number };

export type ImportReply =
  /** How far it is, 0 to 1, where that is known. */
  | { readonly id: number; readonly kind: 'progress'; readonly share: number }
  | { readonly id: number; readonly kind: 'inspected'; readonly inspection: Inspection }
  | { readonly id: number; readonly kind: 'thumbnails'; readonly sheet: ThumbnailSheet }
  | { readonly id: number; readonly kind: 'loops'; readonly loops: readonly LoopProposal[] }
  | { readonly id: number; readonly kind: 'cuts'; readonly cuts: readonly number[] }
  | {
      readonly id: number;
      readonly kind: 'seam';
      readonly plain: number;
      readonly treated: number | undefined;
    }
  | { readonly id: number; readonly kind: 'small'; readonly pictures: readonly ImageBitmap[] }
  | { readonly id: number; readonly kind: 'still'; readonly png: Blob }
  | { readonly id: number; readonly kind: 'failed'; readonly sentence: string };

const asked = { id: count, clip: bulk<ClipSource>() };
const range = { first: count, end: count };

export const ImportRequestSchema: z.ZodType<ImportRequest> = z.discriminatedUnion('kind', [
  z.object({ id: count, kind: z.literal('inspect'), file: bulk<Blob>(), name: z.string() }),
  z.object({ ...asked, kind: z.literal('thumbnails'), urgent: z.boolean() }),
  z.object({ id: count, kind: z.literal('give-way'), pace: z.enum(['free', 'slow', 'rests']) }),
  z.object({ ...asked, ...range, kind: z.literal('loops'), least: count, most: count }),
  z.object({
    ...asked,
    kind: z.literal('seam'),
    before: count,
    after: count,
    looks: bulk<SeamLooks>().or(z.undefined()),
  }),
  z.object({ ...asked, ...range, kind: z.literal('small'), step: count, width: z.number().positive() }),
  z.object({ ...asked, ...range, kind: z.literal('cuts'), urgent: z.boolean() }),
  z.object({ ...asked, kind: z.literal('clean-plate') }),
  z.object({ ...asked, kind: z.literal('still'), frame: count }),
]);

export const ImportReplySchema: z.ZodType<ImportReply> = z.discriminatedUnion('kind', [
  z.object({ id: count, kind: z.literal('progress'), share: z.number() }),
  z.object({ id: count, kind: z.literal('inspected'), inspection: bulk<Inspection>() }),
  z.object({ id: count, kind: z.literal('thumbnails'), sheet: bulk<ThumbnailSheet>() }),
  z.object({ id: count, kind: z.literal('loops'), loops: z.array(bulk<LoopProposal>()) }),
  z.object({ id: count, kind: z.literal('cuts'), cuts: z.array(count) }),
  z.object({
    id: count,
    kind: z.literal('seam'),
    plain: z.number(),
    treated: z.number().or(z.undefined()),
  }),
  z.object({ id: count, kind: z.literal('small'), pictures: z.array(bulk<ImageBitmap>()) }),
  z.object({ id: count, kind: z.literal('still'), png: bulk<Blob>() }),
  z.object({ id: count, kind: z.literal('failed'), sentence: z.string() }),
]);
