import { seeded } from '../moves/random';
import type { TimePath } from '../path/path';
import { speedAt } from '../path/segment';
import { toNumber } from '../time/rational';
import type { Stereo } from './stereo';

/** Speed from which on a whoosh is heard, and the one at which it is loudest. */
const FROM_SPEED = 1.3;
const FULL_SPEED = 5;

/**
 * Adds sounds made from the path itself: a whoosh of filtered noise that swells and brightens with the speed,
 * and on backward passes the rasp of a record under a hand. The same seed makes the same noise.
 */
export function addMadeSounds(
  out: Stereo,
  startSample: number,
  path: TimePath,
  gain: number,
  seed: number,
): void {
  const random = seeded(seed);
  const perFrame = out.rateHz / toNumber(path.rate);
  let loud = 0;
  let rasp = 0;
  let low = 0;
  let band = 0;
  let phase = 0;
  let frames = 0;
  for (const segment of path.segments) {
    const from = Math.round(frames * perFrame);
    frames += segment.frames;
    const end = Math.round(frames * perFrame);
    for (let i = from; i < end; i++) {
      const at = startSample + i;
      const speed = speedAt(segment, (i + 0.5) / perFrame - (frames - segment.frames), path.rate);
      const pace = Math.abs(speed);
      const swell = Math.min(1, Math.max(0, (pace - FROM_SPEED) / (FULL_SPEED - FROM_SPEED)));
      // Levels move within ten milliseconds, so that nothing clicks.
      loud += (swell - loud) / (0.01 * out.rateHz);
      rasp += ((speed < -0.05 ? Math.min(1, 0.35 + pace / 6) : 0) - rasp) / (0.004 * out.rateHz);
      const noise = random() * 2 - 1;
      // State-variable band-pass (Chamberlin 1985) around a pitch that rises with the speed.
      const f = 2 * Math.sin((Math.PI * Math.min(6000, 300 + 900 * pace)) / out.rateHz);
      low += f * band;
      band += f * (noise - low - 0.6 * band);
      phase += (pace * 140) / out.rateHz;
      const grain = (phase - Math.floor(phase)) * 2 - 1;
      if (at < 0 || at >= out.left.length) continue;
      const value = gain * (0.5 * loud * band + 0.16 * rasp * (0.55 * grain + 0.45 * noise));
      out.left[at]! += value;
      out.right[at]! += value;
    }
  }
}
