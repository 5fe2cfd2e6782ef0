import type { TimePath } from '../path/path';
import { type Segment, sourceAt, speedAt } from '../path/segment';
import { toNumber } from '../time/rational';
import { readAtPlace } from './resample';
import type { Stereo } from './stereo';

/** Length of the fades that keep cuts from clicking, seconds. */
const FADE_S = 0.003;
/** Slower than this a clip's sound is a rumble: it fades out, and a hold is silent. */
const SLOWEST = 0.06;

/**
 * Adds a clip's own sound along a time path: sped up, slowed, backward as the picture is; silent where it
 * holds; faded for three milliseconds where it jumps. `startSample` is where the path begins in `out`;
 * `clipPace` is clip seconds a second of the path's source time (a clip read at another rate).
 */
export function addAlongPath(
  out: Stereo,
  startSample: number,
  path: TimePath,
  clip: Stereo,
  gain: number,
  clipPace: number,
): void {
  const hz = toNumber(path.rate);
  const perFrame = out.rateHz / hz;
  const fade = Math.round(FADE_S * out.rateHz);
  let frames = 0;
  for (const [n, segment] of path.segments.entries()) {
    const from = Math.round(frames * perFrame);
    frames += segment.frames;
    const end = Math.round(frames * perFrame);
    const before = path.segments[n - 1];
    const after = path.segments[n + 1];
    const fadesIn = !before || jumps(before, segment);
    const fadesOut = !after || jumps(segment, after);
    for (let i = from; i < end; i++) {
      const at = startSample + i;
      if (at < 0 || at >= out.left.length) continue;
      const position = (i + 0.5) / perFrame - (frames - segment.frames);
      const speed = speedAt(segment, position, path.rate) * clipPace;
      if (Math.abs(speed) < SLOWEST / 2) continue;
      const slow = Math.min(1, Math.max(0, (Math.abs(speed) - SLOWEST / 2) / (SLOWEST / 2)));
      const rise = fadesIn ? Math.min(1, (i - from) / fade) : 1;
      const fall = fadesOut ? Math.min(1, (end - 1 - i) / fade) : 1;
      const place = sourceAt(segment, position, path.rate) * clipPace * clip.rateHz - 0.5;
      const step = (speed * clip.rateHz) / out.rateHz;
      const level = gain * slow * rise * fall;
      const whole = Math.round(place);
      // At normal speed and on a sample there is nothing to work out.
      if (Math.abs(step - 1) < 1e-9 && Math.abs(place - whole) < 1e-4) {
        out.left[at]! += level * (clip.left[whole] ?? 0);
        out.right[at]! += level * (clip.right[whole] ?? 0);
      } else {
        out.left[at]! += level * readAtPlace(clip.left, place, step);
        out.right[at]! += level * readAtPlace(clip.right, place, step);
      }
    }
  }
}

/** Whether the source jumps, or turns between moving and standing still, from one segment to the next. */
function jumps(a: Segment, b: Segment): boolean {
  return Math.abs(a.to - b.from) > 0.002 || (a.speedOut === 0) !== (b.speedIn === 0);
}
