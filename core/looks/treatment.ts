import type { z } from 'zod';
import type { Layer, Surface } from '../pixels/surface';
import type { Framing } from '../project/schema';
import type { MadeKind } from '../sound/made/kinds';
import type { Similar } from '../steady/similar';
import type { Brought } from './brought';
import type { Facts } from './facts';
import type { Condition, Stretch } from './scope';

/** How one value of a treatment is shown and typed. Every number can be driven. */
export type LookField = {
  readonly key: string;
  readonly label: string;
  readonly help: string;
  /** Hidden unless this holds. */
  readonly when?: (values: Record<string, unknown>) => boolean;
} & (
  | {
      readonly kind: 'number';
      readonly min: number;
      readonly max: number;
      /** What it counts: percent, pixels of the project's picture, degrees, frames, times, stops, pictures a second, decibels. */
      readonly unit: '%' | 'px' | '°' | 'f' | '×' | 'st' | '/s' | 'dB';
      /** Set where it is a frame by its number, not how many. */
      readonly numbered?: true;
    }
  | { readonly kind: 'choice'; readonly options: readonly { value: string; label: string }[] }
  | { readonly kind: 'colour' }
  | { readonly kind: 'table' }
  /** A clip of the project, by its id; with `own`, '' is the one that is treated. */
  | { readonly kind: 'clip'; readonly own: boolean }
);

/** The moment a treatment is asked for. */
export interface Moment {
  readonly frame: number;
  readonly stretch: Stretch;
  readonly facts: Facts;
  /** How strongly it applies, above 0 up to 1. */
  readonly strength: number;
  /** What lies around the frame, where that is known. */
  readonly around?: Around | undefined;
  /** The project's clips, for treatments that bring their pictures in. */
  readonly brought: Brought;
  /** What a number of it came to on the frames of its stretch before this one, summed. */
  before(key: string): number;
}

/** What a treatment lets be heard at a frame: a stretch of a clip's sound, or a made sound that goes with the speed. */
export type Heard = { readonly gain: number } & (
  | {
      readonly clip: string;
      /** Seconds of the clip at the frame's beginning and end; beyond its length it begins anew, if it repeats. */
      readonly fromS: number;
      readonly toS: number;
      readonly repeats: boolean;
    }
  | { readonly made: MadeKind }
);

/** Source frames of a clip and how much each has of a picture; together one. */
export type Shares = ReadonlyMap<number, number>;

/** What lies around a frame, for treatments that look at neighbours in time. Result frames count as in the facts. */
export interface Around {
  /** The clip, and how many frames it has. */
  readonly clipId: string;
  readonly framing: Framing;
  readonly clipFrames: number;
  /** Frames [first, end) of the clip that are of the same shot as one of them. */
  shotOf(frame: number): { readonly first: number; readonly end: number };
  /** How the picture at a result frame is moved against where the clip's framing alone puts it; undefined where it is not. */
  held(frame: number): Similar | undefined;
  /** Result frames [first, end) of the same piece: the neighbours there are. */
  readonly first: number;
  readonly end: number;
  /** The source frame shown at a result frame. */
  shown(frame: number): number;
  /** What a result frame is made of before this look. */
  madeOf(frame: number): Shares;
}

/** Keys of the values that say where something lies: pixels right and down, percent, degrees clockwise. */
export interface Placed {
  readonly x: string;
  readonly y: string;
  readonly size?: string;
  readonly turn?: string;
}

/** The bytes of a colour table by its key, as recipes carry them. */
export type Tables = (key: string) => Uint8Array | undefined;

/** What a treatment costs, beside a plain copy of the picture. */
export type Cost = 'light' | 'middle' | 'heavy';

/**
 * One treatment, whole: its words, its values with their limits, and its arithmetic. Card, fields, help and
 * project file come from this.
 *
 * Two steps: `drawing` turns values into what is drawn at one frame, as plain data (equal data, equal pixels);
 * `draw` carries that out. Undefined where nothing is to be drawn: the picture then stays as it is.
 */
export interface Treatment<V, D> {
  readonly id: string;
  readonly name: string;
  /** What else it is called in the trade, for who looks for it by that. */
  readonly also?: string;
  readonly summary: string;
  readonly schema: z.ZodType<V>;
  readonly defaults: V;
  readonly fields: readonly LookField[];
  readonly cost: Cost;
  /** `values` are numbers by then, whatever drives them. Without `scales`, strength mixes treated and untreated. */
  drawing(values: V, moment: Moment): D | undefined;
  /** Values in which its card shows it best, over the defaults. */
  readonly shownWith?: Partial<V>;
  /** Values that suit dark things before something lighter, over the defaults. */
  readonly onLight?: Partial<V>;
  /** Ways in which it is used, over the values it has now: offered first among its variations. */
  readonly uses?: readonly { readonly words: string; readonly values: Partial<V> }[];
  /** Set where `drawing` takes the strength into its own numbers. */
  readonly scales?: true;
  /**
   * `unit` is how many of the surface's pixels one of the project's is; `tables` finds a colour table's bytes;
   * `layers` are the pictures that the drawing names as its `layers`, each a `Gather`.
   */
  draw(surface: Surface, drawing: D, unit: number, tables: Tables, layers: readonly Layer[]): void;
  /**
   * Set where it makes the picture of other source frames instead of drawing on it: what goes into it, in shares that
   * come to one, at full strength; undefined where it stays what it is. Such looks come before those that draw;
   * `drawing` gives nothing then.
   */
  gather?(values: V, moment: Moment, around: Around): Shares | undefined;
  /** Whether with these values it mixes frames of a clip; missing where it always does, if it gathers. */
  mixes?(values: V): boolean;
  /** Set where its region is where it does nothing: all outside is treated. */
  readonly outside?: true;
  /** Set where it is put through a region, and begins with one. */
  readonly through?: true;
  /** How far its region is moved, pixels of the project's picture, for what is drawn beside it. */
  moves?(drawing: D): readonly [x: number, y: number];
  /** Which of its values say where it lies, about the picture's middle, for the hands on the picture. */
  readonly placed?: Placed;
  /** Clips whose pictures it brings in, by their ids, '' being the one that is treated; for what is said of those that are not there. */
  brings?(values: V): readonly string[];
  /** What is heard while it applies. */
  heard?(values: V, moment: Moment): Heard | undefined;
  /** Where it applies when it is added: the first of these that holds in some frames and not in all (`starts.ts`). */
  readonly startsWhere?: readonly Condition[];
  /** Whether it flashes the whole picture, for the warning. */
  readonly flashes?: true;
  /** Set where it moves, blurs or repeats the picture, so that what is transparent of it goes along. */
  readonly shapes?: true;
}

export type AnyTreatment = Treatment<Record<string, unknown>, Record<string, unknown>>;
