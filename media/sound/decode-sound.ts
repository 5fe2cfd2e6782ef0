import { atRate } from '@skipback/core/sound/resample';
import { MIX_RATE_HZ, type Stereo } from '@skipback/core/sound/stereo';
import { Said } from '../worker-client';
import { ALL_FORMATS, AudioSampleSink, BlobSource, Input } from 'mediabunny';

/** A file whose sound cannot be had, with a sentence for people. */
export class NoSound extends Said {}

/** A stretch of a file, seconds. */
export interface SoundRange {
  readonly fromS: number;
  readonly toS: number;
}

/** Longest sound that is held at once, seconds: an hour of stereo takes 1.4 GB. */
export const LONGEST_SOUND_S = 3600;

/**
 * The sound of a file (of a video too) as stereo at the mix rate, from the instant 0 of the file, or of a stretch
 * of it. Throws `NoSound` with a sentence where there is none, it is too long, or the browser cannot decode it.
 */
export async function decodeSound(
  file: Blob,
  name: string,
  progress: (share: number) => void = () => undefined,
  range?: SoundRange,
): Promise<Stereo> {
  const input = new Input({ formats: ALL_FORMATS, source: new BlobSource(file) });
  try {
    if (!(await input.canRead()))
      throw new NoSound(
        `${name} is not a sound file this browser knows. WAV, MP3, FLAC, Ogg and M4A usually are.`,
      );
    const track = await input.getPrimaryAudioTrack();
    if (!track) throw new NoSound(`${name} has no sound.`);
    if (!(await track.canDecode()))
      throw new NoSound(
        `${name} has sound this browser cannot decode (${(await track.getCodec()) ?? 'unknown'}). Save it as WAV or FLAC and try again.`,
      );
    const wholeS = await track.computeDuration();
    const beginS = range?.fromS ?? 0;
    const lengthS = Math.min(wholeS, range?.toS ?? Infinity) - beginS;
    if (lengthS > LONGEST_SOUND_S)
      throw new NoSound(
        `${name} is longer than an hour: so much sound cannot be held at once. Use a part of it.`,
      );
    const left: Float32Array[] = [];
    const right: Float32Array[] = [];
    let rateHz = MIX_RATE_HZ;
    let at = 0;
    for await (const sample of new AudioSampleSink(track).samples(range?.fromS, range?.toS))
      try {
        rateHz = sample.sampleRate;
        const begins = sample.timestamp - beginS;
        const skipped = Math.round(begins * rateHz) - at;
        // A file that begins late, or has a gap, is silent there; what lies before 0 is left out.
        if (skipped > 1) {
          left.push(new Float32Array(skipped));
          right.push(new Float32Array(skipped));
          at += skipped;
        }
        const before = begins < 0 ? Math.min(sample.numberOfFrames, Math.round(-begins * rateHz)) : 0;
        const plane = (index: number) => {
          const out = new Float32Array(sample.numberOfFrames);
          sample.copyTo(out, { planeIndex: index, format: 'f32-planar' });
          return before > 0 ? out.subarray(before) : out;
        };
        left.push(plane(0));
        right.push(sample.numberOfChannels > 1 ? plane(1) : left[left.length - 1]!);
        at += sample.numberOfFrames - before;
        progress(Math.min(1, at / rateHz / Math.max(0.1, lengthS)));
      } finally {
        sample.close();
      }
    if (at === 0) throw new NoSound(`${name} has no sound.`);
    return {
      left: atRate(joined(left, at), rateHz, MIX_RATE_HZ),
      right: atRate(joined(right, at), rateHz, MIX_RATE_HZ),
      rateHz: MIX_RATE_HZ,
    };
  } catch (error) {
    if (error instanceof NoSound) throw error;
    throw new NoSound(
      `${name} could not be decoded: it may be damaged. Save it again from where it came from.`,
    );
  } finally {
    input.dispose();
  }
}

function joined(parts: readonly Float32Array[], length: number): Float32Array {
  const out = new Float32Array(length);
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}
