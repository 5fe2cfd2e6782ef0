import type { Rational } from '../time/rational';
import { type Run, motionAt } from './runs';
import type { Stereo } from './stereo';

/**
 * Plays sound at another speed at its own pitch, block by block: each block is told what surrounds the instant
 * it stands on, so any path can be followed.
 */
export interface PitchKeeper {
  /** Samples to be handed over around each instant; the last `ahead` of them lie after it. */
  readonly window: number;
  readonly ahead: number;
  /** Samples by which what comes out lies before the instant that was handed over. */
  readonly late: number;
  /** Forgets what was played. */
  reset(): void;
  /** The next `samples` of output; `speed` is 0 and up. The arrays that come back are reused. */
  play(
    left: Float32Array,
    right: Float32Array,
    speed: number,
    samples: number,
  ): { readonly left: Float32Array; readonly right: Float32Array };
}

/** Output made at once, seconds: so finely a changing speed is followed. */
const BLOCK_S = 0.01;
/** Fade between the two ways at a turn, seconds. */
const TURN_FADE_S = 0.004;
/** At most so slow: slower would be one drawn-out instant. */
const SLOWEST = 0.06;

/** Adds a run of a clip's sound at the clip's own pitch, whatever the speed; backward it is the sound reversed. */
export function addAtOwnPitch(
  out: Stereo,
  run: Run,
  rate: Rational,
  clip: Stereo,
  clipPace: number,
  keeper: PitchKeeper,
): void {
  const block = Math.round(BLOCK_S * out.rateHz);
  const way = (at: number) => (motionAt(run, at, out.rateHz, rate).speed < 0 ? -1 : 1);
  // The run in stretches of one way.
  let from = run.from;
  while (from < run.end) {
    const here = way(from);
    let end = from;
    while (end < run.end && way(end) === here) end += block;
    end = Math.min(run.end, end);
    addOneWay(out, run, from, end, here, rate, clip, clipPace, keeper, block);
    from = end;
  }
}

function addOneWay(
  out: Stereo,
  run: Run,
  from: number,
  end: number,
  way: 1 | -1,
  rate: Rational,
  clip: Stereo,
  clipPace: number,
  keeper: PitchKeeper,
  block: number,
): void {
  const { window, ahead, late } = keeper;
  const left = new Float32Array(window);
  const right = new Float32Array(window);
  const fade = Math.max(1, Math.min(Math.round(TURN_FADE_S * out.rateHz), (end - from) >> 1));
  keeper.reset();
  for (let at = from; at - late < end; at += block) {
    const inside = Math.min(end - 1, Math.max(from, at));
    const motion = motionAt(run, inside, out.rateHz, rate);
    const speed = motion.speed * clipPace;
    const place = Math.round((motion.source * clipPace + ((at - inside) / out.rateHz) * speed) * clip.rateHz);
    for (let i = 0; i < window; i++) {
      const n = place + way * (i - (window - ahead));
      left[i] = clip.left[n] ?? 0;
      right[i] = clip.right[n] ?? 0;
    }
    const made = keeper.play(left, right, (Math.abs(speed) * clip.rateHz) / out.rateHz, block);
    const level = Math.min(1, Math.abs(speed) / SLOWEST);
    for (let i = 0; i < block; i++) {
      const n = at - late + i;
      if (n < from || n >= end) continue;
      const edge = level * Math.min(1, (n - from) / fade, (end - 1 - n) / fade);
      out.left[n]! += edge * made.left[i]!;
      out.right[n]! += edge * made.right[i]!;
    }
  }
}
