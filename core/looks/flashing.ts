import { type Frame, frame } from '../time/units';
import type { Drawn } from './resolve';
import type { Recipes } from './recipes';
import { treatmentById } from './registry';

/** Flashes in a second above which large ones can harm (WCAG 2.2, 2.3.1). */
const MOST_FLASHES = 3;

/** Where a result flashes more than three times within a second. */
export interface Flashing {
  /** The first frame of the worst second, and how many flashes it has. */
  readonly atFrame: Frame;
  readonly flashes: number;
}

/**
 * The worst second of full-picture flashing, where it has more than three flashes; undefined where none has. A flash
 * is counted where a flashing treatment begins, or where it shows something else than on the frame before.
 */
export function flashingIn(recipes: Recipes, rateHz: number): Flashing | undefined {
  const { stacks, others, otherOf } = recipes;
  const shown = stacks.map((stack) => flashKey(stack));
  // At a dissolve what is drawn on both together counts.
  const stackOf = recipes.stackOf.map((own, i) => (otherOf[i] ? others[otherOf[i]]!.over || own : own));
  const starts: Frame[] = [];
  for (let i = 0; i < stackOf.length; i++) {
    const now = shown[stackOf[i]!]!;
    if (now !== '' && now !== (i > 0 ? shown[stackOf[i - 1]!] : '')) starts.push(frame(i));
  }
  let worst: Flashing | undefined;
  for (let a = 0, b = 0; a < starts.length; a++) {
    while (b < starts.length && starts[b]! < starts[a]! + rateHz) b++;
    if (b - a > MOST_FLASHES && b - a > (worst?.flashes ?? 0))
      worst = { atFrame: starts[a]!, flashes: b - a };
  }
  return worst;
}

/** What of a stack flashes: which treatments, and what they show; a fading one is the same all along. */
function flashKey(stack: readonly Drawn[]): string {
  return stack
    .filter(({ look, drawing, share }) => {
      const amount = typeof drawing['share'] === 'number' ? drawing['share'] : share;
      return treatmentById(look)?.flashes === true && amount >= VISIBLE;
    })
    .map(({ look, drawing }) => `${look} ${String(drawing['colour'] ?? '')}`)
    .join();
}

/** A share of the picture's brightness range that counts as a flash: a tenth. */
const VISIBLE = 0.1;
