import { accentsOf } from './accents';
import { beatsPerBarOf, firstBarOf } from './bars';
import { likeliestBeats } from './choose';
import type { Accent, BeatGrid } from './grid';
import { onsetCurves } from './onsets';
import { tempoPath } from './tempo';

/** Everything the sound of a song tells about its beats. */
export interface Analysis {
  readonly grid: BeatGrid;
  readonly accents: readonly Accent[];
  /** How sure the beats are, 0 to 1: the share of them that lie on an onset. */
  readonly sureness: number;
}

/**
 * What is taken off for the delay of the curves, seconds: found beats of made songs lie within a few milliseconds
 * then; the softer instruments begin, the later they are found, up to ten.
 */
const SHIFT_S = -0.002;

/**
 * Beats, bars and accents of a song from its sound alone. Onsets by spectral flux, tempo by autocorrelation,
 * beats by dynamic programming, the likeliest of several tempi and places by cues (sources in the modules); moved
 * by the measured delay of the curves. `progress` hears from 0 to 1.
 */
export function analyse(
  mono: Float32Array,
  sampleRateHz: number,
  progress: (share: number) => void = () => undefined,
): Analysis {
  const curves = onsetCurves(mono, sampleRateHz, (share) => progress(share * 0.8));
  const { rateHz, whole } = curves;
  if (whole.every((v) => v === 0))
    return { grid: { beats: [], firstBar: 0, beatsPerBar: 4 }, accents: [], sureness: 0 };
  const heard = tempoPath(whole, rateHz);
  progress(0.9);
  const beats = likeliestBeats(curves, heard);
  const seconds = beats.map((t) => Number(Math.max(0, t / rateHz + SHIFT_S).toFixed(5)));
  const on = beats.filter((t) => strongNear(whole, t)).length;
  const beatsPerBar = beatsPerBarOf(seconds, curves);
  progress(1);
  return {
    grid: { beats: seconds, firstBar: firstBarOf(seconds, curves, beatsPerBar), beatsPerBar },
    accents: accentsOf(curves, SHIFT_S),
    sureness: beats.length > 0 ? on / beats.length : 0,
  };
}

function strongNear(curve: Float32Array, t: number): boolean {
  for (let i = Math.round(t) - 4; i <= Math.round(t) + 4; i++) if ((curve[i] ?? 0) > 0.8) return true;
  return false;
}
