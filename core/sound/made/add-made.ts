import { seeded } from '../../moves/random';
import type { TimePath } from '../../path/path';
import type { Stereo } from '../stereo';
import type { MadeKind } from './kinds';
import { SPEED_HZ, madeSpans, speedCurve } from './spans';
import { SYNTHS } from './synths';

/** Levels of the kinds that are on, as factors. */
export type MadeGains = Partial<Record<MadeKind, number>>;

/** Adds a made sound of so many samples; `speed` and a `gain` that changes are asked for by its own samples. */
export function addVoice(
  out: Stereo,
  at: number,
  samples: number,
  kind: MadeKind,
  speed: (sample: number) => number,
  gain: number | ((sample: number) => number),
  seed: number,
): void {
  if (samples < 2) return;
  const left = new Float32Array(samples);
  const right = new Float32Array(samples);
  SYNTHS[kind]({ samples, rateHz: out.rateHz, speed, random: seeded(seed) }, left, right);
  const end = Math.min(samples, out.left.length - at);
  for (let i = Math.max(0, -at); i < end; i++) {
    const by = typeof gain === 'number' ? gain : gain(i);
    out.left[at + i]! += by * left[i]!;
    out.right[at + i]! += by * right[i]!;
  }
}

/**
 * Adds the sounds a path calls for, of the kinds that have a level. `startSample` is where the path begins in
 * `out`. The same seed makes the same sounds.
 */
export function addMadeSounds(
  out: Stereo,
  startSample: number,
  path: TimePath,
  gains: MadeGains,
  seed: number,
): void {
  if (Object.keys(gains).length === 0) return;
  const curve = speedCurve(path);
  for (const [i, { kind, fromS, toS, strength }] of madeSpans(path).entries()) {
    const gain = gains[kind];
    if (gain === undefined) continue;
    const from = Math.round(fromS * out.rateHz);
    const samples = Math.round(toS * out.rateHz) - from;
    const speed = (sample: number): number => {
      const place = ((from + sample) / out.rateHz) * SPEED_HZ;
      const n = Math.min(curve.length - 1, Math.max(0, Math.floor(place)));
      const next = curve[Math.min(curve.length - 1, n + 1)]!;
      return curve[n]! + (next - curve[n]!) * (place - n);
    };
    const level = kind === 'whoosh' ? 1 : strength;
    addVoice(out, startSample + from, samples, kind, speed, gain * level, seed * 1000 + i);
  }
}

/** A sound placed by hand: samples of the result. */
export interface PlacedVoice {
  readonly kind: MadeKind;
  readonly at: number;
  readonly samples: number;
  readonly gain: number;
  readonly seed: number;
}

/** Strokes a second of a scratch that is placed by hand. */
const STROKES_HZ = 4;

/** The speed that a sound placed by hand goes along with, at a share of its length. */
function handSpeed(kind: MadeKind, share: number, lengthS: number): number {
  if (kind === 'whoosh') return 1.2 + 4 * Math.sin(Math.PI * share) ** 2;
  if (kind === 'spool') return 9 * Math.min(1, share * 5, (1 - share) * 7);
  if (kind !== 'scratch') return 1;
  const pairs = Math.max(1, Math.round((lengthS * STROKES_HZ) / 2));
  return 2.4 * Math.cos(2 * Math.PI * pairs * share);
}

/** Adds a sound that was placed by hand. */
export function addPlaced(out: Stereo, { kind, at, samples, gain, seed }: PlacedVoice): void {
  const lengthS = samples / out.rateHz;
  addVoice(out, at, samples, kind, (i) => handSpeed(kind, i / samples, lengthS), gain, seed);
}
