import { create } from 'zustand';

export type WeaveMode = 'threads' | 'curve' | 'speed' | 'grid';

/** What of the bench is open. */
export interface Open {
  /** What the lower half shows. */
  readonly mode: WeaveMode;
  /** Whether the strips move along with the playhead. */
  readonly follows: boolean;
  /** What the left column offers. */
  readonly offered: 'moves' | 'looks' | 'recipes';
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

export const AT_FIRST: Open = {
  mode: 'threads',
  follows: true,
  offered: 'moves',
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
