import { ClipRow } from '../frames/clip-row';
import { FrameServer } from '../frames/frame-server';
import { OpenClips } from '../frames/open-clips';
import { fileSize } from './encoders';
import { FullFrames, blackFrame, pictureBytes } from './full-frames';
import type { PictureJob } from './messages';

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

/** The pictures of a sample of a result, at the file's size. The caller closes them. */
export async function sampleFrames(job: PictureJob, signal: AbortSignal): Promise<VideoFrame[]> {
  const size = fileSize(job.width, job.height, job.settings.scale);
  const full = new FullFrames(size.width, size.height, job.settings.scale);
  const clips = new OpenClips();
  const row = new ClipRow(job.clips);
  const server = new FrameServer(
    clips.runsOf(row, { decoded: 0, open: 0 }, (picture, clip, framing) =>
      full.develop(picture, clip, framing),
    ),
    pictureBytes,
  );
  const wanted = sampledPositions(job.clipFrames.length).map((at) =>
    row.numberOf(job.clips[job.clipPlaces[at]!]!.clipId, job.clipFrames[at]!)!,
  );
  const pictures: VideoFrame[] = [];
  try {
    const request = { wanted, loops: false, start: 0, keys: row.keys, clipStarts: row.starts, capacity: 48 };
    for await (const { picture } of server.serve(request, signal)) {
      pictures.push(picture ? picture.picture.clone() : blackFrame(size));
      picture?.release();
    }
    return pictures;
  } catch (error) {
    pictures.forEach((p) => p.close());
    throw error;
  } finally {
    await server.clear();
    clips.close();
  }
}
