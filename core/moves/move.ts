import type { z } from 'zod';
import type { Music } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import type { Notice } from '../notice';
import type { TimePath } from '../path/path';
import type { Random } from './random';

/** What a move may know besides the path: the clip it reads, its rates. */
export interface MoveContext {
  readonly table: FrameTable;
  /** The song's beats and accents, counted from the first frame of what comes in; absent without a song. */
  readonly music?: Music | undefined;
  /** Values that were given in beats, by their keys, for moves that follow the beats more finely than one length. */
  readonly inBeats?: Readonly<Record<string, number>> | undefined;
}

export interface MoveResult {
  readonly path: TimePath;
  readonly notices: readonly Notice[];
}

/** How one value of a move is shown and typed. */
export type Field<V> = {
  readonly key: keyof V & string;
  readonly label: string;
  readonly help: string;
  /** Hidden unless this holds. */
  readonly when?: (values: V) => boolean;
} & (
  | { readonly kind: 'count'; readonly min: number; readonly max: number }
  | { readonly kind: 'percent'; readonly min: number; readonly max: number }
  | { readonly kind: 'frames'; readonly min: number; readonly max: number }
  | { readonly kind: 'choice'; readonly options: readonly { value: string; label: string }[] }
  /** A list typed as one line; `read` gives undefined for what makes no sense. */
  | { readonly kind: 'text'; read(typed: string): unknown; write(value: unknown): string }
);

/**
 * One move, whole: its words, its values with their limits, and its function. The card, the
 * fields, the help and the project file all come from this.
 */
export interface Move<V> {
  readonly id: string;
  readonly name: string;
  /** One sentence for the card and the help. */
  readonly summary: string;
  readonly schema: z.ZodType<V>;
  readonly defaults: V;
  readonly fields: readonly Field<V>[];
  /** Set where the move itself listens to the song. */
  readonly onMusic?: true;
  /** The shape on the card: source time at evenly spaced result times, both 0 to 1. */
  readonly shape: readonly number[];
  /** Values that suit what the move is added to, over the defaults. */
  suggest?(path: TimePath, context: MoveContext): Partial<V>;
  /** Other values for what is typed as a list, `wildness` (0 to 1) away from these: for the sheet of variations. */
  vary?(values: V, random: Random, wildness: number): Partial<V>;
  apply(path: TimePath, values: V, context: MoveContext): MoveResult;
}
