import { type Cell, MOST_STEPS, type Way } from './pattern';
import { seeded, shuffled } from './random';

/** Changes of a pattern's steps as a whole. Each gives a new row, at least a step and at most `MOST_STEPS` long. */

/** The row twice over, as far as it may grow. */
export const repeated = (steps: readonly Cell[]): Cell[] => [...steps, ...steps].slice(0, MOST_STEPS);

/** Every step `by` places later; what leaves one end comes in at the other. */
export function shifted(steps: readonly Cell[], by: number): Cell[] {
  const n = steps.length;
  return steps.map((_, i) => steps[(((i - by) % n) + n) % n]!);
}

const OTHER: Record<Way, Way> = { forward: 'backward', backward: 'forward', hold: 'hold', off: 'off' };

/** The row from its end, every step played the other way. */
export const mirrored = (steps: readonly Cell[]): Cell[] =>
  steps.toReversed().map((s) => ({ ...s, way: OTHER[s.way] }));

/** Every second of the steps that play is off. */
export function thinned(steps: readonly Cell[]): Cell[] {
  let playing = 0;
  return steps.map((s) => (s.way !== 'off' && playing++ % 2 === 1 ? { ...s, way: 'off' } : s));
}

/** The steps in another order; the same seed gives the same one. */
export const mixed = (steps: readonly Cell[], seed: number): Cell[] => shuffled(steps, seeded(seed));

/** The row made `length` steps long: cut, or filled with steps that are off. */
export function lengthened(steps: readonly Cell[], length: number): Cell[] {
  const size = Math.min(MOST_STEPS, Math.max(1, length));
  return Array.from({ length: size }, (_, i) => steps[i] ?? { slice: 1, way: 'off' as const });
}

/** The row with one step set. */
export const painted = (steps: readonly Cell[], at: number, cell: Cell): Cell[] => steps.with(at, cell);
