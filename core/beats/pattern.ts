import { bandSums, changeAt, harmonyChange, soundsBetween } from './harmony';
import { BANDS, type OnsetCurves } from './onsets';
import { smoothed } from './track';
import { type Way, shareOn } from './ways';

/** Beats of the bar that a song is folded onto, and places within each beat that are listened to. */
export const FOLD_BEATS = 4;
const PLACES = [0, 1 / 6, 1 / 4, 1 / 3, 1 / 2, 2 / 3, 3 / 4, 5 / 6];
/** Strengths over this many times a curve's mean count as this many: in the curve, then for a single hit. */
const MOST = 12;
const MOST_OF_HIT = 4;
/** Time on either side that harmony is compared over, seconds, its lowest band, and the most of a bar. */
const HARMONY_S = 0.22;
const HARMONY_FROM = 4;
const LONGEST_BAR_S = 4;
/** Tempi that bells stand on, so that any liking of tempi can be told apart, and their width in octaves. */
const BELLS_BPM = [50, 65, 80, 98, 120, 145, 175, 205];
const BELL_OCTAVES = 0.25;
const MIDDLE_BPM = 110;
/** What sounds first is over this many means; a song that begins softly, with less than a hit, says nothing. */
const SOUNDS = 2.5;
const HIT = 8;
/** At most this share of what sounds with it sounds before. */
const SILENCE = 0.05;
/** A beat is struck with more than this many means. */
const STRUCK = 1.2;
/** A song that was cut sounds at once: so much of it, against what it sounds like on the whole, in its first moments. */
const SOUNDS_AT_ONCE = 0.5;
const MOMENTS_S = [0.03, 0.13] as const;

/** What is heard of a song, whatever its beats are. */
export interface Evidence {
  readonly curves: OnsetCurves;
  /** As multiples of their means, so that songs can be compared: all, low, middle, high, change of harmony. */
  readonly over: readonly Float32Array[];
  /** How much harmony changes from bar to bar, by the tempo that such a bar has. */
  readonly barChange: (bpm: number) => Float32Array;
  /** What `soundsBetween` needs. */
  readonly sums: Float64Array;
  /** The song's first hit, where it comes out of silence. */
  readonly beginning: number | undefined;
  readonly wasCut: boolean;
}

function overMean(curve: Float32Array): Float32Array {
  const mean = curve.reduce((sum, v) => sum + v, 0) / curve.length;
  return mean > 0 ? curve.map((v) => Math.min(MOST, v / mean)) : curve;
}

function levelOf({ bands }: OnsetCurves, from: number, to: number): number {
  let sum = 0;
  for (let i = from * BANDS; i < to * BANDS; i++) sum += bands[i] ?? 0;
  return sum / Math.max(1, to - from);
}

/** The place of a hit that a song begins with, out of silence: one that was cut in the middle begins nowhere. */
function beginningOf(curves: OnsetCurves, whole: Float32Array): number | undefined {
  const first = whole.findIndex((v, t) => v > SOUNDS && v >= (whole[t - 1] ?? 0) && v >= (whole[t + 1] ?? 0));
  if (first < 5 || first + 3 >= whole.length || whole[first]! < HIT) return undefined;
  const before = levelOf(curves, Math.max(0, first - 6), Math.max(0, first - 6) + 1);
  return before <= SILENCE * levelOf(curves, first + 3, first + 4) ? first : undefined;
}

export function evidenceOf(curves: OnsetCurves): Evidence {
  const { whole, low, mid, high, rateHz } = curves;
  const over = [...[whole, low, mid, high].map(smoothed), harmonyChange(curves, HARMONY_S, HARMONY_FROM)];
  const [first, end] = MOMENTS_S.map((s) => Math.round(s * rateHz)) as [number, number];
  const all = over.map(overMean);
  const changes = new Map<number, Float32Array>();
  const barChange = (bpm: number) => {
    const known = changes.get(bpm);
    if (known) return known;
    const barS = Math.min(LONGEST_BAR_S, (60 * FOLD_BEATS) / bpm);
    const found = overMean(harmonyChange(curves, barS, HARMONY_FROM));
    changes.set(bpm, found);
    return found;
  };
  return {
    ...{ curves, over: all, barChange, sums: bandSums(curves) },
    beginning: beginningOf(curves, all[0]!),
    wasCut: levelOf(curves, first, end) > SOUNDS_AT_ONCE * levelOf(curves, 0, whole.length),
  };
}

/** Strength of a curve around a place. */
function strengthAt(curve: Float32Array, place: number): number {
  const i = Math.round(place);
  let most = 0;
  for (let k = i - 2; k <= i + 2; k++) if ((curve[k] ?? 0) > most) most = curve[k]!;
  return most < MOST_OF_HIT ? most : MOST_OF_HIT;
}

/** The mean strength of a curve at each place of each beat of a bar of four. */
function folded(curve: Float32Array, beats: readonly number[]): number[] {
  const sums = Array.from({ length: FOLD_BEATS * PLACES.length }, () => 0);
  const last = beats.length - 1;
  for (let i = 0; i < last; i++)
    PLACES.forEach((share, k) => {
      const place = beats[i]! + share * (beats[i + 1]! - beats[i]!);
      sums[(i % FOLD_BEATS) * PLACES.length + k]! += strengthAt(curve, place);
    });
  const countOf = (beat: number) => Math.max(1, Math.ceil((last - beat) / FOLD_BEATS));
  return sums.map((s, c) => s / countOf(Math.floor(c / PLACES.length)));
}

/** The list begun `by` places later, those before put at its end. */
const turned = (list: readonly number[], by: number): number[] => [...list.slice(by), ...list.slice(0, by)];

/**
 * What a way to hear a song says of itself, once for each beat that could begin its bars of four: the song folded onto such
 * a bar (strength of all, low, middle, high, and change of harmony at eight places of each beat), the same of any beat,
 * tempo, and how it begins. Rows of equal length, without unit: what the weights were fitted to (`fitted.ts`).
 */
export function patternsOf(evidence: Evidence, way: Way): number[][] {
  const { over, beginning, wasCut } = evidence;
  const { beats, bpm } = way;
  const folds = [...over, evidence.barChange(bpm)].map((c) => folded(c, beats));
  const anyBeat = folds.flatMap((fold) =>
    PLACES.map((_, k) => {
      let sum = 0;
      for (let b = 0; b < FOLD_BEATS; b++) sum += fold[b * PLACES.length + k]!;
      return Math.log1p(sum / FOLD_BEATS);
    }),
  );
  const octaves = Math.log2(bpm / MIDDLE_BPM);
  const of = [
    octaves,
    octaves ** 2,
    ...BELLS_BPM.map((top) => Math.exp(-0.5 * (Math.log2(bpm / top) / BELL_OCTAVES) ** 2)),
    way.asHeard,
    beginning === undefined ? 0 : 1,
    beginning === undefined || beats.length < 2 ? 0 : shareOn(beats, [beginning]),
    way.steady ? 1 : 0,
    way.unmoved ? 1 : 0,
  ];
  const turns = turnsOf(beats, evidence);
  const struck = beats.findIndex((b) => strengthAt(over[0]!, b) > STRUCK) % FOLD_BEATS;
  return Array.from({ length: FOLD_BEATS }, (_, first) => {
    const begins = struck === first ? 1 : 0;
    return [
      ...folds.flatMap((fold) => turned(fold, first * PLACES.length).map(Math.log1p)),
      ...anyBeat,
      ...turned(turns, first),
      ...of,
      ...(wasCut ? [0, begins] : [begins, 0]),
    ];
  });
}

/** How much harmony changes at each beat of a bar, more or less than at the others. */
function turnsOf(beats: readonly number[], { curves: { rateHz }, sums }: Evidence): number[] {
  const inSeconds = beats.map((b) => b / rateHz);
  const sounds = soundsBetween(inSeconds, sums, rateHz);
  const totals = Array.from({ length: FOLD_BEATS }, () => 0);
  beats.forEach((_, i) => (totals[i % FOLD_BEATS]! += changeAt(sounds, i)));
  const means = totals.map((s) => (s * FOLD_BEATS) / Math.max(FOLD_BEATS, beats.length));
  const mean = means.reduce((a, b) => a + b, 0) / FOLD_BEATS;
  return means.map((m) => m - mean);
}
