import type { Stereo } from '@skipback/core/sound/stereo';
import { bulk } from '@skipback/media/heard';
import { z } from 'zod';

/** What the page tells the audio thread of the hand. */
export type HandMessage =
  | { readonly kind: 'sound'; readonly sound: Stereo }
  /** Put down at, or moved to, an instant of the clip, seconds. */
  | { readonly kind: 'down' | 'move'; readonly atS: number };

export const HandMessageSchema: z.ZodType<HandMessage> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('sound'), sound: bulk<Stereo>() }),
  z.object({ kind: z.enum(['down', 'move']), atS: z.number() }),
]);
