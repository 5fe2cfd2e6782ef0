/** Counts over the source frames that a path shows. */
export interface Totals {
  readonly resultFrames: number;
  readonly distinctFrames: number;
  /** Longest run of one and the same frame. */
  readonly longestRun: { readonly frame: number; readonly count: number; readonly atFrame: number };
}

/** Totals of a row of shown frames; an empty row has none. */
export function totalsOf(shown: Int32Array): Totals {
  let best = { frame: shown[0] ?? 0, count: 0, atFrame: 0 };
  let start = 0;
  for (let i = 1; i <= shown.length; i++) {
    if (i < shown.length && shown[i] === shown[start]) continue;
    if (i - start > best.count) best = { frame: shown[start]!, count: i - start, atFrame: start };
    start = i;
  }
  return { resultFrames: shown.length, distinctFrames: new Set(shown).size, longestRun: best };
}

/** How often each source frame in [from, to) is shown. */
export function usesOf(shown: Int32Array, from: number, to: number): Uint32Array {
  const uses = new Uint32Array(Math.max(0, to - from));
  for (const f of shown) if (f >= from && f < to) uses[f - from]!++;
  return uses;
}
