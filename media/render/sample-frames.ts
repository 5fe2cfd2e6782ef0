import { ClipRow } from '../frames/clip-row';
import { FrameServer } from '../frames/frame-server';
import { FrameSets } from '../frames/frame-sets';
import { OpenClips } from '../frames/open-clips';
import { treatedFor } from '../looks/treated-frames';
import { fileSize } from './file-size';
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
    clips.runsOf(row, { decoded: 0, open: 0 }, (picture, clip, placement) =>
      full.develop(picture, clip, placement),
    ),
    pictureBytes,
  );
  const sets = new FrameSets(
    row,
    job.clips.map((c) => c.clipId),
    job,
  );
  const positions = sampledPositions(sets.length);
  const treated = treatedFor(job, sets, positions, size);
  const pictures: VideoFrame[] = [];
  try {
    const request = {
      ...sets.inOrder(positions),
      ...{ loops: false, start: 0, keys: row.keys, clipStarts: row.starts, capacity: 48 },
    };
    for await (const { position, pictures: served } of server.serve(request, signal)) {
      const sources = served.map((p) => p?.picture.clone() ?? blackFrame(size));
      served.forEach((p) => p?.release());
      // Closed with the others, should drawing on them fail.
      const place = pictures.push(...sources) - sources.length;
      const drawn = await treated?.treat(sources, positions[position]!);
      for (const unused of sources.slice(drawn ? 0 : 1)) unused.close();
      pictures.splice(place, sources.length, drawn ?? sources[0]!);
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
