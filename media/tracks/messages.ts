import type { Place, Side, TrackKind } from '@skipback/core/tracks/track';
import { z } from 'zod';
import type { ClipSource } from '../frames/clip-row';
import { bulk, count } from '../heard';

/** What is to be followed through a clip. */
export interface FollowJob {
  readonly clip: ClipSource;
  readonly kind: TrackKind;
  /** Of what is looked at, pixels of the clip's picture. */
  readonly width: number;
  readonly height: number;
  readonly sides: readonly Side[];
}

/** Places from a frame on; those that could not be found are missing. */
export interface FollowedStretch {
  readonly from: number;
  readonly places: readonly Place[];
}

export type FollowRequest =
  | { readonly kind: 'follow'; readonly job: FollowJob }
  | { readonly kind: 'cancel' };

export type FollowReply =
  /** Frames looked at of all, and where it was found in them since the last such reply. */
  | {
      readonly kind: 'progress';
      readonly done: number;
      readonly total: number;
      readonly found: readonly { readonly frame: number; readonly place: Place }[];
    }
  /** All there is; `cut` where it was told to stop on the way. */
  | {
      readonly kind: 'followed';
      readonly stretches: readonly FollowedStretch[];
      readonly cut: boolean;
      readonly elapsedMs: number;
      readonly frames: number;
    }
  /** Nothing there to hold on to. */
  | { readonly kind: 'nothing' }
  | { readonly kind: 'failed'; readonly sentence: string };

export const FollowRequestSchema: z.ZodType<FollowRequest> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('follow'), job: bulk<FollowJob>() }),
  z.object({ kind: z.literal('cancel') }),
]);

export const FollowReplySchema: z.ZodType<FollowReply> = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('progress'),
    done: count,
    total: count,
    found: z.array(bulk<{ readonly frame: number; readonly place: Place }>()),
  }),
  z.object({
    kind: z.literal('followed'),
    stretches: z.array(bulk<FollowedStretch>()),
    cut: z.boolean(),
    elapsedMs: z.number(),
    frames: count,
  }),
  z.object({ kind: z.literal('nothing') }),
  z.object({ kind: z.literal('failed'), sentence: z.string() }),
]);
