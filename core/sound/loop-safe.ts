import type { Music } from '../beats/music';
import type { Stereo } from './stereo';

/** How long a sound takes to come in and to go, seconds: too short to be heard, long enough not to click. */
const IN_S = 0.002;
const OUT_S = 0.006;

/**
 * A sound that can be looped without a click: it ends at `endS`, silent from there on, and comes in and goes within
 * milliseconds (raised cosines). As long as it was.
 */
export function loopSafe({ left, right, rateHz }: Stereo, endS: number): Stereo {
  const end = Math.min(left.length, Math.round(endS * rateHz));
  const [rise, fall] = [Math.round(IN_S * rateHz), Math.round(OUT_S * rateHz)];
  const gain = (i: number): number => {
    if (i >= end) return 0;
    const share = Math.min(1, (i + 0.5) / rise, (end - i - 0.5) / fall);
    return share >= 1 ? 1 : 0.5 - 0.5 * Math.cos(Math.PI * share);
  };
  const shaped = (channel: Float32Array): Float32Array =>
    channel.map((v, i) => (i < rise || i >= end - fall ? v * gain(i) : v));
  return { left: shaped(left), right: shaped(right), rateHz };
}

/** The whole beats in a result of `frames`, from its first frame on, and where the last of them ends; undefined without beats. */
export function wholeBeats(
  music: Music | undefined,
  frames: number,
): { readonly beats: number; readonly endFrame: number } | undefined {
  const all = music?.beats ?? [];
  if (all.length < 2) return undefined;
  // Where the result begins within a beat, its beats are as long as that one.
  const first = Math.max(
    0,
    all.findLastIndex((b) => b <= 1e-6),
  );
  const length = all[first + 1] === undefined ? all[1]! - all[0]! : all[first + 1]! - all[first]!;
  let [beats, endFrame] = [0, 0];
  for (let at = first; ; at++) {
    const next = all[at + 1];
    const lasts = next === undefined ? length : next - all[at]!;
    if (endFrame + lasts > frames + 1e-6) break;
    endFrame += lasts;
    beats++;
  }
  return { beats, endFrame };
}
