import { accentsOf } from './accents';
import { beatsPerBarOf, firstBarOf } from './bars';
import { type Reading, likeliestBeats } from './choose';
import { type Accent, type BeatGrid, NO_GRID } from './grid';
import { onsetCurves } from './onsets';
import { FOLD_BEATS } from './pattern';
import { tempoPath } from './tempo';

/** Everything the sound of a song tells about its beats. */
export interface Analysis {
  readonly grid: BeatGrid;
  readonly accents: readonly Accent[];
  /** How likely these beats are the ones people would tap to, against the other ways to hear it, 0 to 1. */
  readonly likely: number;
  /** The same of where its bars begin, against the other beats of a bar. */
  readonly barsLikely: number;
  /** The next likely way to hear it, with its bars; none where there is nothing to hear. */
  readonly second: BeatGrid | undefined;
}

/**
 * What is taken off for the delay of the curves, seconds: found beats of made songs lie within a few milliseconds
 * then; the softer instruments begin, the later they are found, up to ten.
 */
const SHIFT_S = -0.002;

/**
 * Beats, bars and accents of a song from its sound alone. Onsets by spectral flux, tempo by autocorrelation,
 * beats by dynamic programming, the likeliest of several tempi, places and bars by the pattern each makes of the song (sources
 * in the modules); moved by the measured delay of the curves. `progress` hears from 0 to 1.
 */
export function analyse(
  mono: Float32Array,
  sampleRateHz: number,
  progress: (share: number) => void = () => undefined,
): Analysis {
  const curves = onsetCurves(mono, sampleRateHz, (share) => progress(share * 0.8));
  const { rateHz, whole } = curves;
  if (whole.every((v) => v === 0))
    return {
      ...{ grid: NO_GRID, accents: [] },
      ...{ likely: 0, barsLikely: 0, second: undefined },
    };
  const heard = tempoPath(whole, rateHz);
  progress(0.9);
  const [first, second] = likeliestBeats(curves, heard);
  const gridOf = ({ beats, firstOfFour, fourLikely }: Reading) => {
    const seconds = beats.map((t) => Number(Math.max(0, t / rateHz + SHIFT_S).toFixed(5)));
    const beatsPerBar = beatsPerBarOf(seconds, curves);
    // The pattern that told the beats told bars of four as well.
    const { firstBar, likely } =
      beatsPerBar === FOLD_BEATS
        ? { firstBar: firstOfFour, likely: fourLikely }
        : firstBarOf(seconds, curves, beatsPerBar);
    return { grid: { beats: seconds, firstBar, beatsPerBar }, barsLikely: likely };
  };
  const found = first ? gridOf(first) : { grid: NO_GRID, barsLikely: 0 };
  progress(1);
  return {
    ...{ ...found, accents: accentsOf(curves, SHIFT_S) },
    likely: first?.likely ?? 0,
    second: second && gridOf(second).grid,
  };
}
