import { z } from 'zod';
import { bulk, count } from '../heard';
import type { DrawJob, DrawnPicture } from './draw-job';

/** What a pixel worker is told. `bytes` goes there and comes back with the picture in it. */
export type PixelRequest =
  | { readonly kind: 'tables'; readonly tables: Readonly<Record<string, string>> }
  | { readonly kind: 'forget' }
  | {
      readonly kind: 'draw';
      readonly id: number;
      readonly job: DrawJob;
      readonly bytes: Uint8Array<ArrayBuffer>;
    }
  /** The motion from one picture to another, into `field`, which all threads can read. */
  | {
      readonly kind: 'motion';
      readonly id: number;
      readonly first: Uint8Array;
      readonly second: Uint8Array;
      readonly width: number;
      readonly height: number;
      readonly field: Uint8Array;
    };

export type PixelReply =
  | { readonly id: number; readonly drawn: DrawnPicture }
  | { readonly id: number; readonly found: true }
  | { readonly id: number; readonly problem: string };

export const PixelRequestSchema: z.ZodType<PixelRequest> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('tables'), tables: z.record(z.string(), z.string()) }),
  z.object({ kind: z.literal('forget') }),
  z.object({
    kind: z.literal('draw'),
    id: count,
    job: bulk<DrawJob>(),
    bytes: bulk<Uint8Array<ArrayBuffer>>(),
  }),
  z.object({
    kind: z.literal('motion'),
    id: count,
    first: bulk<Uint8Array>(),
    second: bulk<Uint8Array>(),
    width: count,
    height: count,
    field: bulk<Uint8Array>(),
  }),
]);

export const PixelReplySchema: z.ZodType<PixelReply> = z.union([
  z.object({ id: count, drawn: bulk<DrawnPicture>() }),
  z.object({ id: count, found: z.literal(true) }),
  z.object({ id: count, problem: z.string() }),
]);
