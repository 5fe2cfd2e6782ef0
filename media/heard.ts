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

/** What is said where something was asked that could not be read. */
const UNHEARD = 'This part of the program was asked for something it does not know; nothing was done.';

/**
 * Hears what a worker is told. A message of another form than agreed on is not carried out: the console says what is
 * wrong with it, `unheard` answers whoever asked (by the message's number, 0 where it has none), and the worker lives.
 */
export function hearing<T>(
  schema: z.ZodType<T>,
  take: (message: T) => void,
  unheard: (id: number, sentence: string) => void,
  scope: Pick<EventTarget, 'addEventListener'> = self,
): void {
  scope.addEventListener('message', (event) => {
    const { data } = event as MessageEvent<unknown>;
    let message: T;
    try {
      message = heard(schema, data);
    } catch (error) {
      console.error(error);
      const { id } = (data ?? {}) as { readonly id?: unknown };
      return unheard(typeof id === 'number' ? id : 0, UNHEARD);
    }
    take(message);
  });
}
