import { z } from 'zod';
import { create } from 'zustand';

const KEPT = 'skip-back-counting';
const FirstSchema = z.union([z.literal(0), z.literal(1)]);
export type First = z.infer<typeof FirstSchema>;

function read(): First {
  try {
    return FirstSchema.catch(0).parse(JSON.parse(localStorage.getItem(KEPT) ?? '0'));
  } catch {
    return 0;
  }
}

/** What the first frame is called, 0 or 1, wherever a frame is read or typed: of the result and of clips alike. */
export const useCounting = create<{ readonly first: First }>(() => ({ first: read() }));

export const useFirst = (): First => useCounting((s) => s.first);

/** The same outside of what is drawn. */
export const firstNow = (): First => useCounting.getState().first;

export function setFirst(first: First): void {
  useCounting.setState({ first });
  try {
    localStorage.setItem(KEPT, String(first));
  } catch {
    // It holds until the page closes.
  }
}

/**
 * A sentence whose frames are counted from 0, as the core says them, told to who counts from `first`: `frame 12`,
 * `frames 3 to 8`, `frame 3 to 8`.
 */
export const inCount = (sentence: string, first: First): string =>
  first === 0
    ? sentence
    : sentence.replace(
        /\b(frames?) (\d+)(?: (to|and) (\d+))?/gi,
        (_, word: string, a: string, and: string | undefined, b: string | undefined) =>
          `${word} ${Number(a) + first}${b === undefined ? '' : ` ${and} ${Number(b) + first}`}`,
      );
