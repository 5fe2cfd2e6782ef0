import { create } from 'zustand';

export type WeaveMode = 'threads' | 'curve' | 'speed' | 'grid';

/** What of the bench is open. */
export interface Open {
  /** What the lower half shows. */
  readonly mode: WeaveMode;
  /** Whether the strips move along with the playhead. */
  readonly follows: boolean;
  /** What is offered. */
  readonly offered: 'moves' | 'looks' | 'recipes';
  /** Whether what is offered is open; null where it was neither opened nor folded. */
  readonly offerOpen: boolean | null;
  /** Whether how the clip is read is open. */
  readonly reading: boolean;
  /** Whether the column about the piece is there. */
  readonly column: boolean;
  /** The picture's share of what it and the weave have; null is the usual one. */
  readonly split: number | null;
  /** The selected card where it was folded. */
  readonly shut: string | null;
  /** What is open inside a card: where a look applies, or what moves one of its values. */
  readonly inside: Inside | null;
  /** The look that was added last: what it needs is made by itself. */
  readonly fresh: string | null;
  /** The song that came in, while what can listen to it is offered. */
  readonly listens: string | null;
  /** Whether looks that are offered go on the whole result, or on the piece. */
  readonly onWhole: boolean;
  /** Whether lines around what is safe to be seen lie over the picture. */
  readonly safeAreas: boolean;
  readonly showStats: boolean;
  /** The look whose region and matte are seen themselves, as grey. */
  readonly greyLook: string | null;
  /** Whether a hand plays the source. */
  readonly byHand: boolean;
  /** Of what the sheet of variations is open. */
  readonly varies: 'move' | 'look' | null;
  /** Whether the sheet that saves a recipe is open. */
  readonly savingRecipe: boolean;
}

/** A look, or the piece itself, and what of it is open in its card. */
export interface Inside {
  readonly card: string;
  /** `scope`, or the key of a value. */
  readonly what: string;
}

export const AT_FIRST: Open = {
  mode: 'threads',
  follows: true,
  offered: 'moves',
  offerOpen: null,
  reading: false,
  column: true,
  split: null,
  shut: null,
  inside: null,
  fresh: null,
  listens: null,
  onWhole: false,
  safeAreas: false,
  showStats: false,
  greyLook: null,
  byHand: false,
  varies: null,
  savingRecipe: false,
};

export const useOpen = create<Open>(() => AT_FIRST);
export const setOpen = (change: Partial<Open>): void => useOpen.setState(change);
