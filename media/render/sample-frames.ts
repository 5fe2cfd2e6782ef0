import { budgets } from '../budgets';
import { fileSize } from '../frames/file-size';
import type { PictureJob } from './messages';
import { PictureStream } from './picture-stream';

/** Frames in a row of a sample, and how many such rows: enough for an encoder to find its pace. */
const ROW = 10;
const ROWS = 2;

/** Result frames that stand for the whole: a few short rows spread over it. */
export function sampledPositions(total: number): Int32Array {
  if (total <= ROW * ROWS) return Int32Array.from({ length: total }, (_, i) => i);
  return Int32Array.from({ length: ROW * ROWS }, (_, i) => {
    const row = Math.floor(i / ROW);
    return Math.floor(((row + 0.5) * total) / ROWS - ROW / 2) + (i % ROW);
  });
}

/** The pictures of a sample of a result, at the file's size, drawn as wide as those of the file. The caller closes them. */
export async function sampleFrames(job: PictureJob, signal: AbortSignal): Promise<VideoFrame[]> {
  const size = fileSize(job.width, job.height, job.settings.scale);
  const stream = new PictureStream(job, size, budgets.render / 2);
  const pictures: VideoFrame[] = [];
  try {
    const positions = sampledPositions(stream.sets.length);
    const frameS = job.rate.den / job.rate.num;
    for await (const picture of stream.pictures(positions, frameS, signal)) pictures.push(picture);
    return pictures;
  } catch (error) {
    pictures.forEach((p) => p.close());
    throw error;
  } finally {
    await stream.close();
  }
}
