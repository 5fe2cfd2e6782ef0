import { atRate } from '@skipback/core/sound/resample';
import { SampleRow } from '@skipback/core/sound/sample-row';
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

/** No sound is packed smaller: a damaged file may say that it lasts an hour. */
const LEAST_BYTES_A_SECOND = 500;

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
    // Where there is one channel only, both sides are the same samples.
    const rows: SampleRow[] = [];
    let rateHz = MIX_RATE_HZ;
    let at = 0;
    for await (const sample of new AudioSampleSink(track).samples(range?.fromS, range?.toS))
      try {
        rateHz = sample.sampleRate;
        while (rows.length < Math.min(2, sample.numberOfChannels)) {
          const row = new SampleRow(Math.min(lengthS, file.size / LEAST_BYTES_A_SECOND) * rateHz);
          row.next(at).set(rows[0]?.whole() ?? []);
          rows.push(row);
        }
        const begins = sample.timestamp - beginS;
        const skipped = Math.round(begins * rateHz) - at;
        // A file that begins late, or has a gap, is silent there; what lies before 0 is left out.
        if (skipped > 1) {
          rows.forEach((row) => row.next(skipped));
          at += skipped;
        }
        const before = begins < 0 ? Math.min(sample.numberOfFrames, Math.round(-begins * rateHz)) : 0;
        const samples = new Float32Array(sample.numberOfFrames);
        for (const [i, row] of rows.entries()) {
          const planeIndex = Math.min(i, sample.numberOfChannels - 1);
          sample.copyTo(samples, { planeIndex, format: 'f32-planar' });
          row.next(samples.length - before).set(samples.subarray(before));
        }
        at += sample.numberOfFrames - before;
        progress(Math.min(1, at / rateHz / Math.max(0.1, lengthS)));
      } finally {
        sample.close();
      }
    if (at === 0) throw new NoSound(`${name} has no sound.`);
    // One side after the other: what was read is let go of when it is there at the mix rate.
    const side = () => atRate(rows.shift()!.whole(), rateHz, MIX_RATE_HZ);
    const left = side();
    return { left, right: rows.length > 0 ? side() : left, rateHz: MIX_RATE_HZ };
  } catch (error) {
    if (error instanceof NoSound) throw error;
    throw new NoSound(
      `${name} could not be decoded: it may be damaged. Save it again from where it came from.`,
    );
  } finally {
    input.dispose();
  }
}
