import {
  BufferTarget,
  Mp4OutputFormat,
  Output,
  Quality,
  VideoSample,
  VideoSampleSource,
  WebMOutputFormat,
  canEncodeVideo,
} from 'mediabunny';
import type { ClipSource } from '../frames/clip-row';
import { readFrames } from '../frames/read-frames';
import { OpenClips } from '../frames/open-clips';
import { COPY_GROUP, COPY_RATE_HZ, copySize } from '../frames/small-copy';
import { FullFrames } from '../render/full-frames';
import { Said } from '../worker-client';

/** Bits a pixel: at eight frames from key to key, what the eye takes for the clip at this size. */
const BITS_PER_PIXEL = 0.4;

/** What encodes it: each of them gives pictures in the order they are shown. */
async function encoderFor(size: { width: number; height: number }) {
  for (const [codec, format] of [
    ['avc', new Mp4OutputFormat()],
    ['vp8', new WebMOutputFormat()],
  ] as const)
    if (await canEncodeVideo(codec, size)) return { codec, format };
  throw new Said('This browser makes no film at this size: there can be no small copy here.');
}

/** Frames [first, end) of a clip as a small film, as `SmallCopy` says; a damaged one is the good one near it. */
export async function makeCopy(
  clip: ClipSource,
  first: number,
  end: number,
  progress: (share: number) => void,
): Promise<Blob> {
  const clips = new OpenClips();
  let output: Output | undefined;
  try {
    const { orientation } = await clips.get(clip);
    const size = copySize(orientation.width, orientation.height);
    const { codec, format } = await encoderFor(size);
    const target = new BufferTarget();
    output = new Output({ format, target });
    const bitrate = Math.round(BITS_PER_PIXEL * size.width * size.height * COPY_RATE_HZ);
    const source = new VideoSampleSource({
      codec,
      quality: new Quality({ bitrate, bitrateMode: 'variable' }),
      keyFrameInterval: 60,
    });
    output.addVideoTrack(source, { frameRate: COPY_RATE_HZ });
    await output.start();
    const full = new FullFrames(size.width, size.height, size.width / orientation.width);
    const steps = readFrames(clips, clip, { first, end }, (picture, open, placement) =>
      full.develop(picture, open, placement),
    );
    for await (const { frame, picture } of steps) {
      if (!picture) throw new Said('No frame near here can be decoded: there is no small copy of it.');
      const n = frame - first;
      const timed = { timestamp: n / COPY_RATE_HZ, duration: 1 / COPY_RATE_HZ };
      const sample = new VideoSample(picture, timed);
      try {
        await source.add(sample, { keyFrame: n % COPY_GROUP === 0 });
      } finally {
        sample.close();
      }
      progress((n + 1) / (end - first));
    }
    await output.finalize();
    return new Blob([target.buffer!]);
  } catch (error) {
    // Its encoder is let go of, so that the next copy finds it free.
    await output?.cancel().catch(() => undefined);
    throw error;
  } finally {
    clips.close();
  }
}
