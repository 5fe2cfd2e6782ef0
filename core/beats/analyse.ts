import { accentsOf, firstBarOf } from './accents';
import type { Accent, BeatGrid } from './grid';
import { onsetCurves } from './onsets';
import { FASTEST_BPM, SLOWEST_BPM, type TempoPath, likingOf, periodAt, tempoPath } from './tempo';
import { evened, median, trackBeats } from './track';

/** Everything the sound of a song tells about its beats. */
export interface Analysis {
  readonly grid: BeatGrid;
  readonly accents: readonly Accent[];
  /** How sure the beats are, 0 to 1: the share of them that lie on an onset. */
  readonly sureness: number;
}

/**
 * What the curves are late or early, measured on made songs: the rise against the window two before and the
 * window's own reach nearly cancel.
 */
const SHIFT_S = 0.0005;
/** Beats on either side that each is evened out with. */
const EVEN_REACH = 6;

/**
 * Beats, bars and accents of a song from its sound alone. Onsets by spectral flux, tempo by autocorrelation,
 * beats by dynamic programming (sources in the three modules); then evened out, carried on through silence,
 * and moved by the measured delay of the curves. `progress` hears from 0 to 1.
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
  const { places, tempo } = likeliest(whole, heard, rateHz);
  const even = evened(places, EVEN_REACH);
  const beats = carriedOn(even, whole.length, (t) => periodAt(tempo, t, rateHz));
  const seconds = beats.map((t) => Number((t / rateHz + SHIFT_S).toFixed(5)));
  const on = beats.filter((t) => strongNear(whole, t)).length;
  progress(1);
  return {
    grid: { beats: seconds, firstBar: firstBarOf(seconds, curves), beatsPerBar: 4 },
    accents: accentsOf(curves, SHIFT_S),
    sureness: beats.length > 0 ? on / beats.length : 0,
  };
}

/** Simple ratios by which a tempo is commonly misheard. */
const RATIOS = [1, 2, 1 / 2, 3 / 2, 2 / 3];

/** The tempo as heard, or a simple ratio of it, whichever's beats lie on the strongest onsets and are liked best. */
function likeliest(
  curve: Float32Array,
  heard: TempoPath,
  rateHz: number,
): { places: number[]; tempo: TempoPath } {
  let best: { places: number[]; tempo: TempoPath; score: number } | undefined;
  for (const ratio of RATIOS) {
    const tempo = { ...heard, periods: heard.periods.map((p) => p * ratio) };
    const bpm = (60 * rateHz) / median([...tempo.periods]);
    if (bpm < SLOWEST_BPM || bpm > FASTEST_BPM) continue;
    const places = trackBeats(curve, tempo, rateHz);
    const score = onStrength(curve, places) * likingOf(bpm) ** 0.6 * (ratio === 1 ? 1.08 : 1);
    if (!best || score > best.score) best = { places, tempo, score };
  }
  return best ?? { places: trackBeats(curve, heard, rateHz), tempo: heard };
}

/** Mean strength of the curve at beats, strong hits counted no more than twice a usual one. */
function onStrength(curve: Float32Array, places: readonly number[]): number {
  let sum = 0;
  for (const p of places) {
    let most = 0;
    for (let i = Math.round(p) - 3; i <= Math.round(p) + 3; i++) most = Math.max(most, curve[i] ?? 0);
    sum += Math.min(2.5, most);
  }
  return sum / Math.max(1, places.length);
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

function strongNear(curve: Float32Array, t: number): boolean {
  for (let i = Math.round(t) - 4; i <= Math.round(t) + 4; i++) if ((curve[i] ?? 0) > 0.8) return true;
  return false;
}
