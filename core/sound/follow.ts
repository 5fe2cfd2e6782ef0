import type { TimePath } from '../path/path';
import { toNumber } from '../time/rational';
import { addGrains } from './grains';
import { type PitchKeeper, addAtOwnPitch } from './own-pitch';
import { readAtPlace } from './resample';
import { type Run, motionIn, runsOf } from './runs';
import { type Stereo, silence } from './stereo';

/** Length of the fades that keep cuts from clicking, seconds. */
const FADE_S = 0.003;
/** Slower than this a clip's sound is a rumble: it fades out. */
const SLOWEST = 0.06;

/** How a clip's sound goes along. */
export interface Following {
  /** Clip seconds a second of the path's source time: other than 1 for a clip read at another rate. */
  readonly clipPace: number;
  /** What is heard while the picture holds: nothing, or the instant itself, drawn out. */
  readonly holds: 'silent' | 'grain';
  /** Keeps the pitch at every speed; undefined lets the pitch follow the speed. */
  readonly keeper: PitchKeeper | undefined;
}

/**
 * A clip's own sound along a time path, as long as the path: sped up, slowed, backward as the picture is, faded
 * for three milliseconds where it jumps.
 */
export function soundAlong(path: TimePath, clip: Stereo, rateHz: number, how: Following): Stereo {
  const runs = runsOf(path, rateHz);
  const out = silence(runs[runs.length - 1]?.end ?? 0, rateHz);
  for (const [i, run] of runs.entries())
    if (run.holds) {
      const at = run.stretches[0]!.segment.from * how.clipPace * clip.rateHz;
      if (how.holds === 'grain') addGrains(out, run.from, run.end, clip, at, i + 1);
    } else if (how.keeper && !isPlain(run, how.clipPace))
      addAtOwnPitch(out, run, path.rate, clip, how.clipPace, how.keeper);
    else addRead(out, run, path, clip, how.clipPace);
  for (const run of runs) fadeEnds(out, run.from, run.end);
  return out;
}

/** Whether a run is forward at the sound's own speed: then there is nothing to work out. */
const isPlain = (run: Run, clipPace: number): boolean =>
  run.stretches.every(
    ({ segment: { speedIn, speedOut } }) =>
      Math.abs(speedIn * clipPace - 1) < 1e-9 && Math.abs(speedOut * clipPace - 1) < 1e-9,
  );

/** Fades both ends of a stretch, in samples, so that a cut there does not click. */
export function fadeEnds(out: Stereo, from: number, end: number): void {
  const fade = Math.min(Math.round(FADE_S * out.rateHz), (end - from) >> 1);
  for (let i = 0; i < fade; i++)
    for (const channel of [out.left, out.right]) {
      channel[from + i]! *= i / fade;
      channel[end - 1 - i]! *= i / fade;
    }
}

/** Read faster or slower, so that the pitch follows. */
function addRead(out: Stereo, run: Run, path: TimePath, clip: Stereo, clipPace: number): void {
  const perFrame = out.rateHz / toNumber(path.rate);
  for (const stretch of run.stretches)
    for (let i = stretch.from; i < stretch.end; i++) {
      const motion = motionIn(stretch, i, perFrame, path.rate);
      const speed = motion.speed * clipPace;
      if (Math.abs(speed) < SLOWEST / 2) continue;
      const slow = Math.min(1, (Math.abs(speed) - SLOWEST / 2) / (SLOWEST / 2));
      const place = motion.source * clipPace * clip.rateHz - 0.5;
      const step = (speed * clip.rateHz) / out.rateHz;
      const whole = Math.round(place);
      // At normal speed and on a sample there is nothing to work out.
      if (Math.abs(step - 1) < 1e-9 && Math.abs(place - whole) < 1e-4) {
        out.left[i]! += slow * (clip.left[whole] ?? 0);
        out.right[i]! += slow * (clip.right[whole] ?? 0);
      } else {
        out.left[i]! += slow * readAtPlace(clip.left, place, step);
        out.right[i]! += slow * readAtPlace(clip.right, place, step);
      }
    }
}
