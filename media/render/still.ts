import type { PictureJob } from './messages';
import { PictureStream } from './picture-stream';

/** One result frame at the job's size with everything that is drawn on it, as a PNG. Throws where there is no such frame. */
export async function stillOf(job: PictureJob, position: number, signal: AbortSignal): Promise<Blob> {
  const { width, height, rate } = job;
  const stream = new PictureStream(job, { width, height });
  try {
    for await (const picture of stream.pictures(Int32Array.of(position), rate.den / rate.num, signal)) {
      const canvas = new OffscreenCanvas(width, height);
      try {
        canvas.getContext('2d')!.drawImage(picture, 0, 0, width, height);
      } finally {
        picture.close();
      }
      return await canvas.convertToBlob({ type: 'image/png' });
    }
    throw new Error('There is no such frame in the result.');
  } finally {
    await stream.close();
  }
}
