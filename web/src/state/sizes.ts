import { create } from 'zustand';
import { z } from 'zod';

const KEY = 'skip-back-sizes';

/** How wide the column may be, and usually is, pixels. */
export const COLUMN = { least: 280, usual: 318, most: 460 } as const;

const SizesSchema = z.object({ column: z.number().min(COLUMN.least).max(COLUMN.most) });
type Sizes = z.infer<typeof SizesSchema>;

function kept(): Sizes {
  try {
    return SizesSchema.parse(JSON.parse(localStorage.getItem(KEY) ?? ''));
  } catch {
    return { column: COLUMN.usual };
  }
}

/** Sizes of the bench's parts that go for all projects; kept in this browser. */
export const useSizes = create<Sizes>(kept);

/** Sets how wide the column is, pixels, within what it may be. */
export function setColumnWidth(width: number): void {
  const column = Math.round(Math.min(COLUMN.most, Math.max(COLUMN.least, width)));
  useSizes.setState({ column });
  try {
    localStorage.setItem(KEY, JSON.stringify({ column }));
  } catch {
    // No room: it is as usual the next time.
  }
}
