import type { Accent, Band, BeatGrid } from './grid';
import { BANDS, type OnsetCurves } from './onsets';

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
      const at = i / curves.rateHz + shiftS;
      if (at - last < APART_S) continue;
      last = at;
      found.push({ at: Number(at.toFixed(4)), band, strength: Number(Math.min(10, v).toFixed(3)) });
    }
  }
  return found.sort((a, b) => a.at - b.at);
}

/** Strength of a band's curve around an instant. */
const near = (curve: Float32Array, place: number): number => {
  let most = 0;
  for (let i = Math.round(place) - 4; i <= Math.round(place) + 4; i++) most = Math.max(most, curve[i] ?? 0);
  return most;
};

/** What sounds from each beat to the next: the mean of each band, between the hits at both ends. */
function soundOf(beats: readonly number[], curves: OnsetCurves): Float64Array[] {
  return beats.slice(0, -1).map((from, i) => {
    const first = Math.max(0, Math.round((from + 0.06) * curves.rateHz));
    const end = Math.min(curves.whole.length, Math.round((beats[i + 1]! - 0.02) * curves.rateHz));
    const out = new Float64Array(BANDS);
    for (let t = first; t < end; t++)
      for (let b = 0; b < BANDS; b++) out[b]! += curves.bands[t * BANDS + b]! / Math.max(1, end - first);
    return out;
  });
}

/**
 * How much harmony changes at a beat: it and the next one against those two earlier, so that drums, which
 * alternate, fall out.
 */
function changeAt(sounds: readonly Float64Array[], i: number): number {
  let sum = 0;
  for (const k of [i, i + 1]) {
    const [a, b] = [sounds[k - 2], sounds[k]];
    if (!a || !b) return 0;
    sum += a.reduce((s, v, n) => s + Math.abs(v - b[n]!), 0) / (a.reduce((s, v) => s + v, 0) + 1e-6);
  }
  return sum;
}

/** What speaks for each of four beats to begin the bars, each cue as its mean over the song. */
export function barCues(
  beats: readonly number[],
  curves: OnsetCurves,
): { low: number[]; answer: number[]; harmony: number[] } {
  const sounds = soundOf(beats, curves);
  const cues = { low: [0, 0, 0, 0], answer: [0, 0, 0, 0], harmony: [0, 0, 0, 0] };
  const share = 4 / Math.max(4, beats.length);
  beats.forEach((b, i) => {
    const place = b * curves.rateHz;
    const low = near(curves.low, place);
    cues.low[i % 4]! += low * share;
    // A snare is high and middle without the low: it stands on the second and fourth beat.
    const snare = Math.max(0, near(curves.mid, place) - 0.8 * low);
    cues.answer[(i + 3) % 4]! += snare * share;
    cues.answer[(i + 1) % 4]! += snare * share;
    cues.harmony[i % 4]! += changeAt(sounds, i) * share;
  });
  return cues;
}

/** What the song's first struck beat is worth, in deviations of the other cues. */
const FIRST_WEIGHT = 2.2;

/** Values as deviations from their mean. */
function deviations(values: readonly number[]): number[] {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const spread = Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / values.length);
  return values.map((v) => (spread > 0.02 * Math.abs(mean) ? (v - mean) / spread : 0));
}

/**
 * Which beat begins the bars of four: the one with the most weight in the low band, a snare-like answer on the
 * beats after it, the most change of harmony, and the first that is struck at all (music mostly begins with a
 * bar).
 */
export function firstBarOf(beats: readonly number[], curves: OnsetCurves): number {
  const { low, answer, harmony } = barCues(beats, curves);
  const [l, a, h] = [deviations(low), deviations(answer), deviations(harmony)];
  const struck = beats.findIndex((b) => near(curves.whole, b * curves.rateHz) > 1);
  const score = l.map((v, i) => v + a[i]! + h[i]! + (i === struck % 4 ? FIRST_WEIGHT : 0));
  return score.reduce((best, s, i) => (s > score[best]! ? i : best), 0);
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
