import { evenBeats, steadyPeriod } from './steady';
import type { OnsetCurves } from './onsets';
import { FASTEST_BPM, type TempoPath, periodAt, tempoPath } from './tempo';
import { evened, median, trackBeats } from './track';

/** Simple ratios by which a tempo is commonly misheard, and places within a beat that beats are mistaken for. */
const RATIOS = [1, 2, 1 / 2, 3 / 2, 2 / 3, 3, 1 / 3];
const PHASES = [0, 1 / 4, 1 / 3, 1 / 2, 2 / 3, 3 / 4];
/** The slowest beats on offer: those of six eight are slower than a tempo that is heard by itself. */
const SLOWEST_WAY_BPM = 44;
/** Beats on either side that each is evened out with. */
const EVEN_REACH = 6;
/** So far from a beat a place still is on it, as a share of the beat. */
const ON_BEAT = 0.12;

/** One way to hear the beats of a song. */
export interface Way {
  /** Places in the curves, with fractions, ascending. */
  readonly beats: readonly number[];
  readonly bpm: number;
  /** Whether the song keeps this tempo from beginning to end. */
  readonly steady: boolean;
  /** At the tempo as heard: the share of its beats that tracking put there. */
  readonly asHeard: number;
  /** Whether it has the beats where most is struck, not moved on from there. */
  readonly unmoved: boolean;
}

/** The share of places that are on a beat; both ascending. */
export function shareOn(beats: readonly number[], places: readonly number[]): number {
  let next = 0;
  const on = places.filter((place) => {
    while (next + 1 < beats.length && Math.abs(beats[next + 1]! - place) <= Math.abs(beats[next]! - place))
      next++;
    return Math.abs(beats[next]! - place) < ON_BEAT * (beats[1]! - beats[0]!);
  });
  return on.length / Math.max(1, places.length);
}

/**
 * Beats for the tempo as heard, and for the simple ratios and places by which beats are mistaken. A song that keeps its
 * tempo gets even rows, so that they slip nowhere; else beats are evened out and carried on through silence to both ends.
 */
export function waysToHear({ rateHz, whole }: OnsetCurves, heard: TempoPath): Way[] {
  const steady = steadyPeriod(whole, median([...heard.periods]), rateHz);
  const followed = steady === undefined ? tempoPath(whole, rateHz, true) : heard;
  return RATIOS.flatMap((ratio) => {
    const tempo = { ...followed, periods: followed.periods.map((p) => p * ratio) };
    const bpm = (60 * rateHz) / median([...tempo.periods]);
    if (ratio !== 1 && (bpm < SLOWEST_WAY_BPM || bpm > FASTEST_BPM)) return [];
    const pace = (t: number) => periodAt(tempo, t, rateHz);
    const tracked =
      steady === undefined || ratio === 1
        ? carriedOn(evened(trackBeats(whole, tempo, rateHz), EVEN_REACH), whole.length, pace)
        : [];
    const placed = steady === undefined ? tracked : evenBeats(whole, steady * ratio);
    return PHASES.flatMap((phase): Way[] => {
      const beats = shifted(placed, phase).filter((b) => b < whole.length);
      if (beats.length === 0) return [];
      const asHeard = ratio === 1 && beats.length > 1 ? shareOn(beats, tracked) : 0;
      return [{ beats, bpm, steady: steady !== undefined, asHeard, unmoved: phase === 0 }];
    });
  });
}

/** Beats moved on by a share of the way to the next. */
function shifted(beats: readonly number[], share: number): number[] {
  if (share === 0 || beats.length < 2) return [...beats];
  const first = beats[0]! - (1 - share) * (beats[1]! - beats[0]!);
  const moved = beats.map((b, i) => {
    const step = i + 1 < beats.length ? beats[i + 1]! - b : b - beats[i - 1]!;
    return b + share * step;
  });
  return first >= 0 ? [first, ...moved] : moved;
}

/** Beats carried on to both ends of the song at the pace they have there. */
function carriedOn(beats: readonly number[], length: number, period: (t: number) => number): number[] {
  if (beats.length === 0) return [];
  const out = [...beats];
  const steps = (list: readonly number[]) => list.slice(1).map((b, i) => b - list[i]!);
  const first = beats.length > 4 ? median(steps(out.slice(0, 9))) : period(0);
  const last = beats.length > 4 ? median(steps(out.slice(-9))) : period(length - 1);
  while (out[0]! - first >= 0) out.unshift(out[0]! - first);
  while (out[out.length - 1]! + last < length) out.push(out[out.length - 1]! + last);
  return out;
}
