import { bandSums, changeAt, harmonyChange, soundsBetween } from './harmony';
import { BANDS, type OnsetCurves } from './onsets';

/**
 * The lowest band of what sounds over a bar, compared with the bar before: patterns of drums are the same in any
 * two bars, wherever they are cut, so only harmony is left.
 */
const CHANGE_FROM_BAND = 4;

/** Strength of a band's curve around an instant. */
const near = (curve: Float32Array, place: number): number => {
  let most = 0;
  for (let i = Math.round(place) - 4; i <= Math.round(place) + 4; i++) most = Math.max(most, curve[i] ?? 0);
  return most;
};

/** What speaks for each beat of a bar to begin it, each cue as its mean over the song. */
function barCues(
  beats: readonly number[],
  curves: OnsetCurves,
  perBar: number,
): { low: number[]; answer: number[]; harmony: number[]; change: number[] } {
  const sounds = soundsBetween(beats, bandSums(curves), curves.rateHz);
  const barS = (perBar * (beats[beats.length - 1]! - beats[0]!)) / Math.max(1, beats.length - 1);
  const changes = harmonyChange(curves, barS, CHANGE_FROM_BAND);
  const none = Array.from({ length: perBar }, () => 0);
  const cues = { low: [...none], answer: [...none], harmony: [...none], change: [...none] };
  const share = perBar / Math.max(perBar, beats.length);
  beats.forEach((b, i) => {
    const place = b * curves.rateHz;
    const low = near(curves.low, place);
    cues.low[i % perBar]! += low * share;
    // A snare is high and middle without the low: it stands on the beats beside the one that begins the bar.
    const snare = Math.max(0, near(curves.mid, place) - 0.8 * low);
    cues.answer[(i + perBar - 1) % perBar]! += snare * share;
    cues.answer[(i + 1) % perBar]! += snare * share;
    cues.change[i % perBar]! += near(changes, place) * share;
    cues.harmony[i % perBar]! += changeAt(sounds, i) * share;
  });
  return cues;
}

/** What each cue weighs: fitted by maximum likelihood on made songs of 44 kinds whose first seconds were cut off (docs/music.md). */
const WEIGHTS = { low: 1.4, answer: 0.7, harmony: 0.7, change: 0.85 } as const;

/**
 * What the song's first struck beat is worth, in deviations of the other cues: music begins with a bar mostly. What begins
 * in the middle of what sounds was cut there, and says next to nothing.
 */
const FIRST_WEIGHT = 2.7;
const FIRST_OF_CUT = 0.3;
/** A song that was cut sounds at once: so much of it, against what it sounds like on the whole, in its first moments. */
const SOUNDS_AT_ONCE = 0.5;
const MOMENTS_S = 0.1;

/** The cues lean on each other: what they say together is worth so much of their sum, as songs of other seeds show. */
const CAUTION = 0.75;

/** Whether a song sounds from its first moment on, before anything is struck. */
function wasCut({ bands, rateHz, whole: { length } }: OnsetCurves, struckAt: number): boolean {
  const levelOf = (from: number, to: number) => {
    let sum = 0;
    for (let i = from * BANDS; i < to * BANDS; i++) sum += bands[i]!;
    return sum / Math.max(1, to - from);
  };
  const first = Math.round(0.03 * rateHz);
  const end = Math.min(length, first + Math.round(MOMENTS_S * rateHz));
  // What is struck first thing is a beginning, and no cut.
  if (struckAt < end) return false;
  return levelOf(first, end) > SOUNDS_AT_ONCE * levelOf(0, length);
}

/** Values as deviations from their mean. */
function deviations(values: readonly number[]): number[] {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const spread = Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / values.length);
  return values.map((v) => (spread > 0.02 * Math.abs(mean) ? (v - mean) / spread : 0));
}

/**
 * Which beat begins the bars of three or five (`choose.ts` tells those of four): the one with the most weight in the low band, a snare-like answer on the beats
 * beside it, the most change of harmony, and the first that is struck at all (music mostly begins with a bar). And how
 * likely it is, 0 to 1, against the other beats of a bar.
 */
export function firstBarOf(
  beats: readonly number[],
  curves: OnsetCurves,
  perBar: number,
): { readonly firstBar: number; readonly likely: number } {
  const cues = barCues(beats, curves, perBar);
  const struck = beats.findIndex((b) => near(curves.whole, b * curves.rateHz) > 1);
  const first = wasCut(curves, (beats[struck] ?? 0) * curves.rateHz) ? FIRST_OF_CUT : FIRST_WEIGHT;
  const scores = Array.from({ length: perBar }, (_, i): number => (i === struck % perBar ? first : 0));
  for (const [cue, weight] of Object.entries(WEIGHTS))
    deviations(cues[cue as keyof typeof WEIGHTS]).forEach((d, i) => (scores[i]! += weight * d));
  const best = scores.indexOf(Math.max(...scores));
  const odds = scores.map((s) => Math.exp(CAUTION * (s - scores[best]!)));
  return { firstBar: best, likely: 1 / odds.reduce((a, b) => a + b, 0) };
}

/** What is struck differs from bar to bar by less than this where all beats are alike: then nothing speaks against four. */
const ALIKE = 0.6;
/** So much less than after four beats must what is struck differ after three or five, for bars of those. */
const OTHER_SHARE = 0.93;

/**
 * Beats a bar, three, four or five: what is struck on a beat and after it comes again a bar later, so it differs the
 * least over that many beats (self-similarity after Foote 2000).
 */
export function beatsPerBarOf(beats: readonly number[], curves: OnsetCurves): 3 | 4 | 5 {
  const { rateHz } = curves;
  const struck = beats.slice(0, -1).map((b, i) => {
    const place = b * rateHz;
    const half = place + ((beats[i + 1]! - b) * rateHz) / 2;
    return [
      near(curves.low, place),
      near(curves.mid, place),
      near(curves.high, place),
      near(curves.low, half),
      near(curves.mid, half),
    ];
  });
  const differsAfter = (lag: number): number => {
    let sum = 0;
    for (let i = 0; i + lag < struck.length; i++)
      struck[i]!.forEach((v, k) => (sum += Math.min(1, Math.abs(v - struck[i + lag]![k]!))));
    return sum / Math.max(1, struck.length - lag);
  };
  if (struck.length < 24) return 4;
  const over = (bar: number) => differsAfter(bar) + differsAfter(2 * bar) + differsAfter(3 * bar);
  const four = OTHER_SHARE * over(4);
  const [three, five] = [over(3), over(5)];
  if (four < ALIKE) return 4;
  return Math.min(three, five) >= four ? 4 : three <= five ? 3 : 5;
}
