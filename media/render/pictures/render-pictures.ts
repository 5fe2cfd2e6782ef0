import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface } from '@skipback/core/pixels/surface';
import { planesOf } from '../planes-of';
import { fileSize } from '../../frames/file-size';
import { lookedAt, smallGrey } from '../proof-samples';
import type { PictureFormat, RenderJob } from '../messages';
import { Cancelled, type MadeFile, type Progress } from '../render';
import { streamOf } from '../transparent-stream';
import { pictureCount } from './kinds';
import type { PictureSink, SinkOrder } from './sink';

/** Pictures from all over a result that a palette is found from. */
const SAMPLES = 24;

const framesSink = async (order: SinkOrder) => (await import('./frames-zip')).framesSink(order);

/** Each with a package of its own, loaded when it is wanted. */
const SINKS: Record<PictureFormat, (order: SinkOrder) => Promise<PictureSink>> = {
  gif: async (order) => (await import('./gif')).gifSink(order),
  apng: async (order) => (await import('./apng')).apngSink(order),
  'png-frames': framesSink,
  'jpeg-frames': framesSink,
};

/** Result frames that a file of pictures has, in order. */
export function picturesOf(length: number, { settings }: Pick<RenderJob, 'settings'>): Int32Array {
  const once = Math.ceil(length / settings.every);
  return Int32Array.from({ length: pictureCount(length, settings) }, (_, i) => (i % once) * settings.every);
}

/**
 * Makes a file of pictures: each in the colours that are seen, for as long as its frames last. Throws `Cancelled` after
 * `signal` aborts, with the half-made file thrown away.
 */
export async function renderPictures(
  job: RenderJob,
  signal: AbortSignal,
  progress: Progress,
): Promise<MadeFile> {
  const began = performance.now();
  const { settings } = job;
  const format = settings.format as PictureFormat;
  const size = fileSize(job.width, job.height, settings.scale);
  const surface = new Surface(size.width, size.height);
  const stream = streamOf(job, size);
  const positions = picturesOf(stream.sets.length, job);
  const frameS = job.rate.den / job.rate.num;
  const rgbaOf = async (frame: VideoFrame): Promise<Uint8Array<ArrayBuffer>> => {
    const bytes = await planesOf(frame);
    surface.load(planesIn(bytes, size.width, size.height));
    const rgba = new Uint8Array(surface.pixels);
    const alphas = bytes.subarray(planesBytes(size.width, size.height));
    for (let i = 0; i < alphas.length; i++) rgba[4 * i + 3] = alphas[i]!;
    return rgba;
  };
  const writable = await job.target.createWritable();
  const given: { atFrame: number; small: Uint8Array }[] = [];
  try {
    const sink = await SINKS[format]({
      ...{ settings, ...size, count: positions.length, name: job.name, target: writable },
      samples: () => samplesOf(job, positions, size, signal, rgbaOf),
    });
    const looks = new Set(lookedAt({ cuts: [] }, positions.length));
    const once = Math.ceil(stream.sets.length / settings.every);
    let done = 0;
    for await (const frame of stream.pictures(positions, frameS, signal)) {
      try {
        if (looks.has(done)) given.push({ atFrame: done, small: smallGrey(frame) });
        progress(done + 1, frame);
        // The last one lasts as long as its frames are left.
        const begins = Math.floor(done / once) * stream.sets.length + positions[done]!;
        const ends =
          done % once === once - 1
            ? (Math.floor(done / once) + 1) * stream.sets.length
            : begins + settings.every;
        await sink.add({ rgba: await rgbaOf(frame), fromS: begins * frameS, toS: ends * frameS });
      } finally {
        frame.close();
      }
      done++;
    }
    if (signal.aborted) throw new Cancelled();
    await sink.finish();
    await writable.close();
  } catch (error) {
    await writable.abort().catch(() => undefined);
    throw signal.aborted ? new Cancelled() : error;
  } finally {
    await stream.close();
  }
  return {
    counts: { ...stream.counts, encoded: positions.length, elapsedMs: performance.now() - began },
    damaged: stream.damaged,
    given,
    notes: [],
  };
}

/** Pictures spread over a file's. */
async function samplesOf(
  job: RenderJob,
  positions: Int32Array,
  size: { width: number; height: number },
  signal: AbortSignal,
  rgbaOf: (frame: VideoFrame) => Promise<Uint8Array>,
): Promise<readonly Uint8Array[]> {
  const stream = streamOf(job, size);
  const count = Math.min(SAMPLES, positions.length);
  const chosen = Int32Array.from(
    { length: count },
    (_, i) => positions[Math.floor(((i + 0.5) * positions.length) / count)]!,
  );
  const samples: Uint8Array[] = [];
  try {
    for await (const frame of stream.pictures(chosen, 1, signal)) {
      try {
        samples.push(await rgbaOf(frame));
      } finally {
        frame.close();
      }
    }
  } finally {
    await stream.close();
  }
  if (signal.aborted) throw new Cancelled();
  return samples;
}
