import { z } from 'zod';
import type { ClipSource } from '../frames/clip-row';
import { bulk, count } from '../heard';

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

export const CopyRequestSchema: z.ZodType<CopyRequest> = z.object({
  id: count,
  kind: z.literal('copy'),
  clip: bulk<ClipSource>(),
  first: count,
  end: count,
});

export const CopyReplySchema: z.ZodType<CopyReply> = z.discriminatedUnion('kind', [
  z.object({ id: count, kind: z.literal('progress'), share: z.number() }),
  z.object({ id: count, kind: z.literal('copied'), film: bulk<Blob>() }),
  z.object({ id: count, kind: z.literal('failed'), sentence: z.string() }),
]);
