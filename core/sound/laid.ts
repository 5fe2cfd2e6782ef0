import type { LaidSound, SpeedSound } from '../looks/heard';
import type { Rational } from '../time/rational';
import { addVoice } from './made/add-made';
import { fadeEnds } from './follow';
import { readAtPlace } from './resample';
import { type Stereo, silence } from './stereo';

/** Fade where a sound begins again, seconds. */
const SEAM_S = 0.003;

/** Samples of a number of result frames at a rate of samples, to the sample. */
const samplesAt = (frames: number, rate: Rational, rateHz: number): number =>
  Math.round((frames * rateHz * rate.den) / rate.num);

/** Values of frames, as they run through the middles of these. */
function glide(values: Float32Array, place: number): number {
  const at = Math.min(values.length - 1, Math.max(0, place - 0.5));
  const n = Math.floor(at);
  const next = values[Math.min(values.length - 1, n + 1)]!;
  return values[n]! + (next - values[n]!) * (at - n);
}

/** Adds a stretch of a sound that a look brings in: read as fast as its instants go, backward too. */
export function addLaid(out: Stereo, laid: LaidSound, sound: Stereo, rate: Rational): void {
  const { atFrame, instants, gains, repeatsS } = laid;
  const start = samplesAt(atFrame, rate, out.rateHz);
  const end = samplesAt(atFrame + gains.length, rate, out.rateHz);
  const own = silence(end - start, out.rateHz);
  for (let f = 0; f < gains.length; f++) {
    const first = samplesAt(atFrame + f, rate, out.rateHz);
    const length = samplesAt(atFrame + f + 1, rate, out.rateHz) - first;
    const way = instants[f + 1]! - instants[f]!;
    const step = (way / length) * sound.rateHz;
    for (let i = 0; i < length; i++) {
      const share = (i + 0.5) / length;
      let t = instants[f]! + way * share;
      let gain = glide(gains, f + share);
      if (repeatsS !== undefined) {
        t -= repeatsS * Math.floor(t / repeatsS);
        gain *= Math.min(1, t / SEAM_S, (repeatsS - t) / SEAM_S);
      }
      const place = t * sound.rateHz - 0.5;
      const whole = Math.round(place);
      const at = first - start + i;
      // At its own speed and on a sample there is nothing to work out.
      const exact = Math.abs(step - 1) < 1e-6 && Math.abs(place - whole) < 1e-3;
      own.left[at] = gain * (exact ? (sound.left[whole] ?? 0) : readAtPlace(sound.left, place, step));
      own.right[at] = gain * (exact ? (sound.right[whole] ?? 0) : readAtPlace(sound.right, place, step));
    }
  }
  fadeEnds(own, 0, own.left.length);
  for (let i = Math.max(0, -start); i < Math.min(own.left.length, out.left.length - start); i++) {
    out.left[start + i]! += own.left[i]!;
    out.right[start + i]! += own.right[i]!;
  }
}

/** Adds a made sound that goes along with the speed of a row of frames. */
export function addAlong(
  out: Stereo,
  { kind, atFrame, speeds, gains }: SpeedSound,
  rate: Rational,
  seed: number,
): void {
  const at = samplesAt(atFrame, rate, out.rateHz);
  const samples = samplesAt(atFrame + speeds.length, rate, out.rateHz) - at;
  const frames = (sample: number) => ((sample + 0.5) * speeds.length) / samples;
  addVoice(
    out,
    at,
    samples,
    kind,
    (i) => glide(speeds, frames(i)),
    (i) => glide(gains, frames(i)),
    seed,
  );
}
