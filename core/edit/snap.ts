/** Something a dragged value is drawn to. */
export interface SnapTarget {
  readonly value: number;
  /** What it is, for the words at the pointer: "playhead", "mark strike", "every frame once". */
  readonly words: string;
}

/** A dragged value after snapping, and what it was drawn to, if anything. */
export interface Snapped {
  readonly value: number;
  readonly words: string | undefined;
}

/** The nearest target within `reach` of a value, else the value itself. The first of equals wins. */
export function snap(value: number, targets: readonly SnapTarget[], reach: number): Snapped {
  let best: SnapTarget | undefined;
  for (const target of targets) {
    const off = Math.abs(target.value - value);
    if (off <= reach && (!best || off < Math.abs(best.value - value))) best = target;
  }
  return best ? { value: best.value, words: best.words } : { value, words: undefined };
}

/** Speeds people think in, percent. */
const ROUND_PERCENTS = [10, 20, 25, 50, 75, 100, 150, 200, 300, 400, 500, 800, 1000];

/** Round speeds, and a clip's cleanest slow speed, as targets. */
export function speedTargets(everyFrameOncePercent: number | undefined): SnapTarget[] {
  const round = ROUND_PERCENTS.map((value) => ({ value, words: 'round speed' }));
  return everyFrameOncePercent === undefined
    ? round
    : [{ value: everyFrameOncePercent, words: 'every frame once' }, ...round];
}

/**
 * The length in whole frames that a stretch of `frames` at `percent` should take when dragged to `wanted`
 * frames: within `reach` frames of a snapping speed it is the length that makes that speed.
 */
export function snapLengthToSpeed(
  frames: number,
  percent: number,
  wanted: number,
  targets: readonly SnapTarget[],
  reach: number,
): Snapped {
  const lengths = targets.flatMap(({ value, words }) => {
    const length = Math.round((frames * percent) / value);
    return length >= 1 ? [{ value: length, words }] : [];
  });
  return snap(wanted, lengths, reach);
}
