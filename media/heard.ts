import { frame } from '@skipback/core/time/units';
import { z } from 'zod';

/** A value too large to be looked through at every message: that there is one is all that is asked. */
export const bulk = <T extends object>() =>
  z.custom<T>((value) => typeof value === 'object' && value !== null, 'something is missing');

/** A count of frames, bytes or pixels. */
export const count = z.int().min(0);

/** A frame of the result or of a clip, by its place: whole, as `Frame` says. */
export const place = count.transform(frame);

/**
 * A message between page and worker as it came, where it has the form agreed on. Throws `TypeError` where not: nothing
 * is done with it.
 */
export function heard<T>(schema: z.ZodType<T>, message: unknown): T {
  const read = schema.safeParse(message);
  if (!read.success)
    throw new TypeError(`a message of another form than agreed: ${z.prettifyError(read.error)}`);
  return message as T;
}
