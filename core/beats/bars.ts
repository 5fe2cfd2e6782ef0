import { harmonyChange } from './harmony';
import { BANDS, type OnsetCurves } from './onsets';

/**
 * The lowest band of what sounds over a bar, compared with the bar before: patterns of drums are the same in any
 * two bars, wherever they are cut, so only harmony is left. And what that weighs.
 */
const CHANGE_FROM_BAND = 4;
const CHANGE_WEIGHT = 0.9;

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

/** What speaks for each beat of a bar to begin it, each cue as its mean over the song. */
function barCues(
  beats: readonly number[],
  curves: OnsetCurves,
  perBar: number,
): { low: number[]; answer: number[]; harmony: number[]; change: number[] } {
  const sounds = soundOf(beats, curves);
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

/** What the song's first struck beat is worth, in deviations of the other cues. */
const FIRST_WEIGHT = 2.2;

/** Values as deviations from their mean. */
function deviations(values: readonly number[]): number[] {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const spread = Math.sqrt(values.reduce((a, v) => a + (v - mean) ** 2, 0) / values.length);
  return values.map((v) => (spread > 0.02 * Math.abs(mean) ? (v - mean) / spread : 0));
}

/**
 * Which beat begins the bars: the one with the most weight in the low band, a snare-like answer on the beats
 * beside it, the most change of harmony, and the first that is struck at all (music mostly begins with a bar).
 */
export function firstBarOf(beats: readonly number[], curves: OnsetCurves, perBar: number): number {
  const cues = barCues(beats, curves, perBar);
  const { low, answer, harmony, change } = cues;
  const [l, a, h, c] = [low, answer, harmony, change].map(deviations) as [
    number[],
    number[],
    number[],
    number[],
  ];
  const struck = beats.findIndex((b) => near(curves.whole, b * curves.rateHz) > 1);
  const score = l.map(
    (v, i) => v + a[i]! + h[i]! + CHANGE_WEIGHT * c[i]! + (i === struck % perBar ? FIRST_WEIGHT : 0),
  );
  return score.reduce((best, s, i) => (s > score[best]! ? i : best), 0);
}

/** So much less than after four beats must what is struck differ after three, for bars of three. */
const THREE_SHARE = 0.93;

/**
 * Beats a bar, three or four: what is struck on a beat and after it comes again a bar later, so it differs the
 * least over that many beats (self-similarity after Foote 2000).
 */
export function beatsPerBarOf(beats: readonly number[], curves: OnsetCurves): 3 | 4 {
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
  const over = (...lags: number[]) => lags.reduce((sum, lag) => sum + differsAfter(lag), 0);
  return over(3, 6, 9) < THREE_SHARE * over(4, 8, 12) ? 3 : 4;
}
