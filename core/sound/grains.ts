import { seeded } from '../moves/random';
import type { Stereo } from './stereo';

/** Length of a grain, and how far around the instant grains begin, seconds. */
const GRAIN_S = 0.09;
const SPREAD_S = 0.02;

/**
 * Adds an instant of a sound drawn out over [from, end) samples: short overlapping grains from around it, each
 * under a raised cosine, so that their sum stays level (Roads 1988). `at` is a place in the clip's samples.
 */
export function addGrains(
  out: Stereo,
  from: number,
  end: number,
  clip: Stereo,
  at: number,
  seed: number,
): void {
  const random = seeded(seed);
  const length = Math.round(GRAIN_S * clip.rateHz);
  const hop = length >> 1;
  for (let start = from - hop; start < end; start += hop) {
    const origin = Math.round(at - length / 2 + (random() * 2 - 1) * SPREAD_S * clip.rateHz);
    for (let i = Math.max(0, from - start); i < length && start + i < end; i++) {
      const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length);
      out.left[start + i]! += window * (clip.left[origin + i] ?? 0);
      out.right[start + i]! += window * (clip.right[origin + i] ?? 0);
    }
  }
}
