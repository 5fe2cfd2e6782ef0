import { ClipRow } from '../frames/clip-row';
import { FrameServer } from '../frames/frame-server';
import { OpenClips } from '../frames/open-clips';
import { treatedFor } from '../looks/treated-frames';
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
  const numbers = job.clipFrames.map((frame, i) =>
    row.numberOf(job.clips[job.clipPlaces[i]!]!.clipId, frame)!,
  );
  const positions = sampledPositions(job.clipFrames.length);
  const wanted = positions.map((at) => numbers[at]!);
  const treated = treatedFor(job, numbers, size);
  const pictures: VideoFrame[] = [];
  try {
    const request = { wanted, loops: false, start: 0, keys: row.keys, clipStarts: row.starts, capacity: 48 };
    for await (const {
      position,
      pictures: [picture],
    } of server.serve(request, signal)) {
      const source = picture?.picture.clone() ?? blackFrame(size);
      picture?.release();
      // Closed with the others, should drawing on it fail.
      const place = pictures.push(source) - 1;
      const drawn = await treated?.treat(source, positions[position]!);
      if (!drawn) continue;
      source.close();
      pictures[place] = drawn;
    }
    return pictures;
  } catch (error) {
    pictures.forEach((p) => p.close());
    throw error;
  } finally {
    await server.clear();
    clips.close();
    treated?.close();
  }
}
