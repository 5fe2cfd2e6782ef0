import type { z } from 'zod';
import type { Music } from '../beats/music';
import type { FrameTable } from '../clip/frame-table';
import type { Notice } from '../notice';
import type { TimePath } from '../path/path';
import type { Place, SourcePlace } from '../places/place';
import type { Reading } from '../places/read';
import type { PlaceMark } from '../places/resolve';
import type { Telling } from '../places/words';
import type { Random } from './random';

/** What a move may know besides the path: the clip it reads, its rates. */
export interface MoveContext {
  readonly table: FrameTable;
  /** The song's beats and accents, counted from the first frame of what comes in; absent without a song. */
  readonly music?: Music | undefined;
  /** Values that were given in beats, by their keys, for moves that follow the beats more finely than one length. */
  readonly inBeats?: Readonly<Record<string, number>> | undefined;
  /** The clip's marks. */
  readonly marks?: readonly PlaceMark[] | undefined;
  /** The instants of the clip that places among the values name, by their keys; seconds. */
  readonly instants?: Readonly<Record<string, number>> | undefined;
  /** Where what is new begins: a mark or a frame of the clip that is looked at. */
  readonly begins?: SourcePlace | undefined;
  /** Whether it works on a part of what comes in. */
  readonly limited?: boolean | undefined;
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
  /** Hidden unless this holds; `limited` where it works on a part only. */
  readonly when?: (values: V, limited: boolean) => boolean;
} & (
  | { readonly kind: 'count'; readonly min: number; readonly max: number }
  | { readonly kind: 'percent'; readonly min: number; readonly max: number }
  /** How long: frames, or beats from where what comes in begins. */
  | { readonly kind: 'length'; readonly min: number; readonly max: number }
  /**
   * Where: any place (`places/place.ts`); worked out it is a result position. Where it counts in the clip, a plain
   * number that is typed is a frame of the clip.
   */
  | { readonly kind: 'place'; readonly min: number; readonly max: number; readonly counts?: 'clip' }
  /** A frame of the clip, or a mark of it. */
  | { readonly kind: 'source'; readonly min: number; readonly max: number }
  /** A beat of the song: its number from where the piece begins, or a place in the music. */
  | { readonly kind: 'beat'; readonly min: number; readonly max: number }
  | { readonly kind: 'choice'; readonly options: readonly { value: string; label: string }[] }
  /**
   * A list: `summary` tells it in plain words. It can be typed (`read` gives undefined for what makes no sense),
   * and where there is a form of the lower half in which it is edited by hand, that is named.
   */
  | {
      readonly kind: 'text';
      read(typed: string, reading?: Reading): unknown;
      write(value: unknown, telling?: Telling): string;
      summary(value: unknown, telling?: Telling): string;
      readonly byHand?: 'curve' | 'speed' | 'grid';
    }
);

/** Whether a field is given in frames, and so also in beats. */
export const inFrames = <V>(
  field: Field<V>,
): field is Field<V> & { kind: 'length' | 'place'; min: number; max: number } =>
  field.kind === 'length' || field.kind === 'place';

/** What moves are for, in the order in which they are offered, and what that is called. */
export const MOVE_GROUPS = {
  there: 'There and back',
  stop: 'Stop, stutter',
  pace: 'Pace',
  music: 'On the music',
  hand: 'By hand',
} as const;
export type MoveGroup = keyof typeof MOVE_GROUPS;

/** What a check may find that a move can mend. */
export type Finding = 'loop' | 'doubled' | 'skip' | 'ran-out';

/** The value of a move that says how long one part of what it makes is. */
export interface PartLength<V> {
  readonly key: keyof V & string;
  /** What it is now, and what it may be. */
  readonly value: number;
  readonly min: number;
  readonly max: number;
  /** Whether only whole numbers will do. */
  readonly whole: boolean;
  /** Whether more of it makes the part longer. */
  readonly grows: boolean;
  set(value: number): Partial<V>;
}

/** A change of a move's values that mends a finding, or a move put before it that does; and its words. */
export interface Mending<V> {
  readonly words: string;
  readonly values?: Partial<V>;
  readonly before?: { readonly move: string; readonly values: Readonly<Record<string, unknown>> };
}

/** Where a link stands, for what it can mend. */
export interface Standing {
  /** Whether something comes before or after what it makes: a part it is limited to, or moves after it. */
  readonly inside: boolean;
  /** Result frames that come in. */
  readonly incoming: number;
}

/** Another span, or another clip, than values were made for. */
export interface Elsewhere {
  /** A frame of the clip they were made for, as a frame of this one. */
  source(frame: number): number;
  /** By how much distances are longer here: along what comes in, and along the clip in its frames. */
  readonly along: number;
  readonly clip: number;
}

/** What a path goes on with at either side of what is kept of it. */
export interface LeftOut {
  readonly before: TimePath;
  readonly after: TimePath;
}

/**
 * One move, whole: its words, its values with their limits, and its function. The card, the
 * fields, the help and the project file all come from this.
 */
export interface Move<V> {
  readonly id: string;
  readonly name: string;
  /** What it is for, among the cards. */
  readonly group: MoveGroup;
  /** What else it is called in the trade, for who looks for it by that. */
  readonly also?: string;
  /** One sentence for the card and the help. */
  readonly summary: string;
  readonly schema: z.ZodType<V>;
  readonly defaults: V;
  readonly fields: readonly Field<V>[];
  /** Whether the move itself listens to the song, with these values. */
  listens?(values: V): boolean;
  /** Set where it takes frames away and leaves all others as they are. */
  readonly onlyCuts?: true;
  /** Frames of what comes in that it leaves out at its beginning: under them the music lies earlier. */
  skips?(values: V): number;
  /** What it leaves out before and after, where looks still count it, as if the whole were there. */
  leavesOut?(path: TimePath, values: V): LeftOut | undefined;
  /** Set where its pictures jump on purpose, also against what comes before and after them. */
  readonly jumps?: true;
  /** The shape on the card: source time at evenly spaced result times, both 0 to 1. */
  readonly shape: readonly number[];
  /** Values that suit what the move is added to, over the defaults. */
  suggest?(path: TimePath, context: MoveContext): { readonly [K in keyof V]?: V[K] | Place };
  /** Other values for what is typed as a list, `wildness` (0 to 1) away from these: for the sheet of variations. */
  vary?(values: V, random: Random, wildness: number): Partial<V>;
  /**
   * Where two ways of setting are views of one value: what the others are, so that another way changes no picture.
   * `lasts` is how long what it works on lasts, and what it makes of it, frames.
   */
  views?(
    values: V,
    key: string,
    to: string,
    lasts: { readonly before: number; readonly after: number },
  ): Partial<V>;
  /** What a part of what it makes is called: its `way back`, its `stroke 3`. */
  partName?(part: number, values: V): string;
  /** The value that says how long a part lasts; undefined where none does. */
  lengthOf?(part: number, values: V): PartLength<V> | undefined;
  /** Set where places stand in lists among its values: those lists with every one worked out. */
  lists?(
    values: V,
    where: {
      /** The result position of a place. */
      place(place: unknown): number;
      /** The frame of the clip of one that names such. */
      source(place: unknown): number;
    },
  ): Partial<V>;
  /** How other values of it would mend a finding; undefined where they would not. */
  mends?(finding: Finding, values: V, standing: Standing): Mending<V> | undefined;
  /**
   * Set where values name frames of the clip, or are a list along what comes in: what they are on another span or clip.
   * Fields that are lengths and places are seen to without it.
   */
  elsewhere?(values: V, to: Elsewhere): Partial<V>;
  apply(path: TimePath, values: V, context: MoveContext): MoveResult;
}

/** A move whose values are only known to fit its own schema. */
export type AnyMove = Move<Record<string, unknown>>;
