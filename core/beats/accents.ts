import type { Accent, Band, BeatGrid } from './grid';
import type { OnsetCurves } from './onsets';

/** The least strength that counts, and the least time between two of a band. */
const LEAST = 0.22;
const APART_S = 0.06;

/** Onsets of each band as accents: peaks that stand out from what is around them. */
export function accentsOf(curves: OnsetCurves, shiftS: number): Accent[] {
  const found: Accent[] = [];
  for (const band of ['low', 'mid', 'high'] as const) {
    const curve = curves[band];
    const reach = Math.round(0.12 * curves.rateHz);
    let last = -Infinity;
    for (let i = 1; i + 1 < curve.length; i++) {
      const v = curve[i]!;
      if (v < LEAST || v < curve[i - 1]! || v < curve[i + 1]!) continue;
      let around = 0;
      let top = 0;
      for (let k = -reach; k <= reach; k++) {
        around += curve[i + k] ?? 0;
        if (Math.abs(k) <= 3) top = Math.max(top, curve[i + k] ?? 0);
      }
      if (v < top || v < (2.2 * around) / (2 * reach + 1)) continue;
      const at = Math.max(0, i / curves.rateHz + shiftS);
      if (at - last < APART_S) continue;
      last = at;
      found.push({ at: Number(at.toFixed(4)), band, strength: Number(Math.min(10, v).toFixed(3)) });
    }
  }
  return found.sort((a, b) => a.at - b.at);
}

/** Bars that are crowded with onsets, for frantic patterns: those clearly over the song's usual, densest first. */
export interface DenseBar {
  readonly fromS: number;
  readonly toS: number;
  /** Accents a beat. */
  readonly perBeat: number;
}

export function denseBars(grid: BeatGrid, accents: readonly Accent[], most: number): DenseBar[] {
  const { beats, firstBar, beatsPerBar } = grid;
  const bars: DenseBar[] = [];
  for (let i = firstBar; i + beatsPerBar < beats.length; i += beatsPerBar) {
    const fromS = beats[i]!;
    const toS = beats[i + beatsPerBar]!;
    const inside = accents.filter((a) => a.at >= fromS - 0.02 && a.at < toS - 0.02);
    bars.push({ fromS, toS, perBeat: inside.length / beatsPerBar });
  }
  if (bars.length === 0) return [];
  const usual = bars.map((b) => b.perBeat).sort((a, b) => a - b)[bars.length >> 1]!;
  return bars
    .filter((b) => b.perBeat >= usual * 1.35 && b.perBeat >= usual + 1)
    .sort((a, b) => b.perBeat - a.perBeat)
    .slice(0, most);
}

/** Accents of a band, or of all, at least so strong. */
export const accentsIn = (accents: readonly Accent[], band: Band | 'all', least: number): Accent[] =>
  accents.filter((a) => (band === 'all' || a.band === band) && a.strength >= least);
