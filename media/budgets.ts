/** How much of a machine's memory and disk the program holds for what it could make anew. */

const MIB = 1024 * 1024;

/** Bytes a use may hold on a machine of 8 GiB; more machine, more of each. */
const AT_EIGHT = {
  /** Pictures the preview plays from. */
  preview: 512 * MIB,
  /** Pictures with their looks, of the preview's. */
  screenLooks: 240 * MIB,
  /** Pictures ready ahead of the clock. */
  ahead: 64 * MIB,
  /** Full-size pictures of a render. */
  render: 512 * MIB,
  /** What the threads of a render draw in, all of them. */
  drawing: 1024 * MIB,
  /** Treated pictures a render needs again. */
  treated: 128 * MIB,
  /** Motion between frames. */
  fields: 96 * MIB,
  /** Brightness of pictures a region is followed in: so many are decoded only once going backward. */
  follow: 256 * MIB,
  /** Coverage of mattes, in each thread that draws. */
  mattes: 48 * MIB,
};

export type Budgets = Readonly<typeof AT_EIGHT>;

/** What is assumed where the browser does not say how much memory there is, GiB. */
const UNSAID_GIB = 4;

/** Budgets in bytes for a machine of `memoryGib` (as `navigator.deviceMemory` tells it): a quarter to twice those of 8 GiB. */
export function budgetsFor(memoryGib: number): Budgets {
  const share = Math.min(2, Math.max(0.25, memoryGib / 8));
  return Object.fromEntries(
    Object.entries(AT_EIGHT).map(([use, bytes]) => [use, Math.round(bytes * share)]),
  ) as typeof AT_EIGHT;
}

/** Memory of this machine as the browser tells it, GiB (it rounds, and says 8 for more where it is an old one); undefined where it does not say. */
export const memoryGib: number | undefined = (
  globalThis.navigator as { readonly deviceMemory?: number } | undefined
)?.deviceMemory;

/** Budgets of this machine. */
export const budgets: Budgets = budgetsFor(memoryGib ?? UNSAID_GIB);

/** Pictures of a file's size that a render holds at once; besides, as many as the encoder and the decoders have in hand. */
export const heldWhileRendering = (
  { width, height }: { readonly width: number; readonly height: number },
  budgetBytes = budgets.render,
): number => Math.max(2, Math.floor(budgetBytes / (width * height * 1.5)) - 8);

/** Bytes a thread takes for each pixel of the pictures it draws: its surface, what is laid on, what it gives back. */
export const DRAWN_IN = 24;

/** Threads that may draw pictures of a size at once, whatever the cores: at least one. */
export const threadsWithin = (
  { width, height }: { readonly width: number; readonly height: number },
  budgetBytes = budgets.drawing,
): number => Math.max(1, Math.floor(budgetBytes / (width * height * DRAWN_IN)));

/** Bytes on disk that motion between frames may take, of what the browser allows this page: a fortieth, 64 MiB to 1 GiB. */
export const shelfBudget = (quotaBytes: number | undefined): number =>
  quotaBytes === undefined ? 256 * MIB : Math.min(1024 * MIB, Math.max(64 * MIB, quotaBytes / 40));
