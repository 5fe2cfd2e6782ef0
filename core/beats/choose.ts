import { harmonyChange } from './harmony';
import { BANDS, type OnsetCurves } from './onsets';
import { FASTEST_BPM, SLOWEST_BPM, type TempoPath, distanceFromLiked, periodAt, tempoPath } from './tempo';
import { evenBeats, steadyPeriod } from './steady';
import { evened, median, smoothed, trackBeats } from './track';

/** Simple ratios by which a tempo is commonly misheard, and places within a beat that beats are mistaken for. */
const RATIOS = [1, 2, 1 / 2, 3 / 2, 2 / 3];
const PHASES = [0, 1 / 2, 1 / 4, 3 / 4];
/** Beats on either side that each is evened out with. */
const EVEN_REACH = 6;

/**
 * What each cue weighs. Fitted by maximum likelihood on made songs of 31 kinds and on 86 compositions played by a
 * synthesiser, but for `begins`, which is set: those compositions all begin on a beat (docs/music.md).
 */
const WEIGHTS = {
  disliked: -1.97,
  struck: 0.6,
  low: 0.76,
  midContrast: 3.2,
  harmonyContrast: 3.5,
  thirds: -2.67,
  quarters: -2.63,
  lowAlternates: 1.22,
  asHeard: 0.93,
  begins: 1.5,
} as const;

/** Curves as multiples of their mean, so that songs can be compared. */
interface Evidence {
  readonly whole: Float32Array;
  readonly low: Float32Array;
  readonly mid: Float32Array;
  readonly harmony: Float32Array;
  /** The song's first hit, where it comes out of silence. */
  readonly beginning: number | undefined;
}

/** More than this many times the mean counts as this many. */
const MOST = 12;

function overMean(curve: Float32Array): Float32Array {
  const mean = curve.reduce((sum, v) => sum + v, 0) / curve.length;
  return mean > 0 ? curve.map((v) => Math.min(MOST, v / mean)) : curve;
}

/** Time on either side that harmony is compared over, seconds, and its lowest band. */
const HARMONY_S = 0.22;
const HARMONY_FROM = 4;

/** What sounds first is over this many means; a song that begins softly, with less than a hit, says nothing. */
const SOUNDS = 2.5;
const HIT = 8;
/** At most this share of what sounds with it sounds before. */
const SILENCE = 0.05;
/** So far from a beat a place still is on it, as a share of the beat. */
const ON_BEAT = 0.12;

/** The place of a hit that a song begins with, out of silence: one that was cut in the middle begins nowhere. */
function beginningOf({ bands, whole: { length } }: OnsetCurves, whole: Float32Array): number | undefined {
  const levelAt = (t: number) => bands.subarray(t * BANDS, (t + 1) * BANDS).reduce((sum, v) => sum + v, 0);
  const first = whole.findIndex((v, t) => v > SOUNDS && v >= (whole[t - 1] ?? 0) && v >= (whole[t + 1] ?? 0));
  if (first < 5 || first + 3 >= length || whole[first]! < HIT) return undefined;
  return levelAt(Math.max(0, first - 6)) <= SILENCE * levelAt(first + 3) ? first : undefined;
}

/** The share of places that are on a beat; both ascending. */
function shareOn(beats: readonly number[], places: readonly number[]): number {
  let next = 0;
  const on = places.filter((place) => {
    while (next + 1 < beats.length && Math.abs(beats[next + 1]! - place) <= Math.abs(beats[next]! - place))
      next++;
    return Math.abs(beats[next]! - place) < ON_BEAT * (beats[1]! - beats[0]!);
  });
  return on.length / Math.max(1, places.length);
}

/** Strength of a curve around a place, strong ones counted as no more than four times the mean. */
function strengthAt(curve: Float32Array, place: number): number {
  const i = Math.round(place);
  let most = 0;
  for (let k = i - 2; k <= i + 2; k++) if ((curve[k] ?? 0) > most) most = curve[k]!;
  return most < 4 ? most : 4;
}

const contrast = (a: number, b: number): number => (a - b) / (a + b + 0.1);

/** Mean strength at a share of the way from each beat to the next; of each of `kinds` beats in turn. */
function meansAt(curve: Float32Array, beats: readonly number[], share: number, kinds: number): number[] {
  const sums = Array.from({ length: kinds }, () => 0);
  const last = beats.length - 1;
  for (let i = 0; i < last; i++)
    sums[i % kinds]! += strengthAt(curve, beats[i]! + share * (beats[i + 1]! - beats[i]!));
  return sums.map((s, k) => s / Math.max(1, Math.ceil((last - k) / kinds)));
}

/** How likely a row of beats is the one people would tap to. */
function likelihood(evidence: Evidence, beats: readonly number[], bpm: number, asHeard: number): number {
  const { whole, low, mid, harmony, beginning } = evidence;
  const mean = (curve: Float32Array, share: number) => meansAt(curve, beats, share, 1)[0]!;
  const struck = mean(whole, 0);
  const half = mean(whole, 1 / 2);
  const thirds = (mean(whole, 1 / 3) + mean(whole, 2 / 3)) / 2;
  const quarters = (mean(whole, 1 / 4) + mean(whole, 3 / 4)) / 2;
  const barChange = (share: number) => Math.max(...meansAt(harmony, beats, share, 4));
  const [even, odd] = meansAt(low, beats, 0, 2) as [number, number];
  const cues = {
    disliked: distanceFromLiked(bpm) ** 2,
    struck: Math.min(3, struck),
    low: Math.min(3, mean(low, 0)),
    midContrast: contrast(mean(mid, 0), mean(mid, 1 / 2)),
    harmonyContrast: contrast(barChange(0), Math.max(barChange(1 / 4), barChange(1 / 2), barChange(3 / 4))),
    thirds: contrast(thirds, half),
    quarters: contrast(quarters, struck),
    lowAlternates: Math.abs(even - odd) / (even + odd + 0.2),
    asHeard,
    begins: beginning === undefined ? 0 : shareOn(beats, [beginning]),
  };
  return Object.entries(WEIGHTS).reduce((sum, [cue, w]) => sum + w * cues[cue as keyof typeof cues], 0);
}

/** One way to hear the beats of a song, and how likely it is the one people would tap to, 0 to 1. */
export interface Reading {
  readonly beats: readonly number[];
  readonly likely: number;
}

/**
 * Beats for the tempo as heard, and for the simple ratios and places by which beats are mistaken; those that cues
 * make likeliest: strong and low onsets on beats, snares and changes of harmony on beats rather than between
 * them, halves rather than thirds or quarters between, kick and snare in turn, a tempo people like, the song's
 * beginning on a beat; the likeliest first. A song that keeps its tempo gets one even row, so that it slips nowhere; else the beats are evened
 * out and carried on through silence to both ends. Places in the curves, with fractions.
 */
export function likeliestBeats(curves: OnsetCurves, heard: TempoPath): readonly Reading[] {
  const { rateHz, whole } = curves;
  const wholeOver = overMean(smoothed(whole));
  const evidence: Evidence = {
    whole: wholeOver,
    low: overMean(smoothed(curves.low)),
    mid: overMean(smoothed(curves.mid)),
    harmony: overMean(harmonyChange(curves, HARMONY_S, HARMONY_FROM)),
    beginning: beginningOf(curves, wholeOver),
  };
  const steady = steadyPeriod(whole, median([...heard.periods]), rateHz);
  const followed = steady === undefined ? tempoPath(whole, rateHz, true) : heard;
  const readings: { beats: readonly number[]; score: number }[] = [];
  for (const ratio of RATIOS) {
    const tempo = { ...followed, periods: followed.periods.map((p) => p * ratio) };
    const bpm = (60 * rateHz) / median([...tempo.periods]);
    if (ratio !== 1 && (bpm < SLOWEST_BPM || bpm > FASTEST_BPM)) continue;
    const pace = (t: number) => periodAt(tempo, t, rateHz);
    const tracked =
      steady === undefined || ratio === 1
        ? carriedOn(evened(trackBeats(whole, tempo, rateHz), EVEN_REACH), whole.length, pace)
        : [];
    const placed = steady === undefined ? tracked : evenBeats(whole, steady * ratio);
    for (const phase of PHASES) {
      const beats = shifted(placed, phase).filter((b) => b < whole.length);
      const asHeard = ratio === 1 ? shareOn(beats, tracked) : 0;
      if (beats.length > 0) readings.push({ beats, score: likelihood(evidence, beats, bpm, asHeard) });
    }
  }
  readings.sort((a, b) => b.score - a.score);
  // The cues' weights make odds of them: what they were fitted to.
  const odds = readings.map(({ score }) => Math.exp(score - readings[0]!.score));
  const all = odds.reduce((a, b) => a + b, 0);
  return readings.map(({ beats }, i) => ({ beats, likely: odds[i]! / all }));
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
