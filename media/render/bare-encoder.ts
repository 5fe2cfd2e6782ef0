import { NullTarget, Output, VideoSample } from 'mediabunny';
import { ClipRow } from '../frames/clip-row';
import { OpenClips } from '../frames/open-clips';
import { filmKindOf } from './encoders';
import { fileSize } from '../frames/file-size';
import type { Setting } from './messages';
import { encoderAt } from './quality';
import { FullFrames } from './full-frames';
import type { RenderJob } from './messages';

/** Different pictures kept ready for the encoder to be measured with. */
const READY = 60;

/**
 * Milliseconds the encoder alone takes for as many frames as the job has, fed ready pictures of the
 * same clip, at the same setting, and writing nowhere: what a render is measured against.
 */
export async function bareEncoder(job: RenderJob, setting: Setting): Promise<number> {
  const size = fileSize(job.width, job.height, job.settings.scale);
  const full = new FullFrames(size.width, size.height, job.settings.scale);
  const clips = new OpenClips();
  const row = new ClipRow(job.clips);
  const ready: VideoFrame[] = [];
  const first = Math.min(...job.clipFrames);
  const last = Math.min(Math.max(...job.clipFrames), first + READY - 1);
  const runs = clips.runsOf(row, { decoded: 0, open: 0 }, (picture, clip, placement) =>
    full.develop(picture, clip, placement),
  );
  for await (const { frame, picture } of runs(
    row.keys.findLast((k) => k <= first)!,
    last,
  )) {
    if (picture && frame >= first) ready.push(picture);
    else picture?.close();
  }
  const kind = filmKindOf(job.settings);
  const output = new Output({ format: kind.container(), target: new NullTarget() });
  const { source, everyFrame } = encoderAt(kind, setting);
  const frameS = job.rate.den / job.rate.num;
  output.addVideoTrack(source, { frameRate: 1 / frameS });
  await output.start();
  const began = performance.now();
  for (let i = 0; i < job.clipFrames.length; i++) {
    const at = job.clipFrames[i]! - first;
    const frame = new VideoFrame(ready[at % ready.length]!, { timestamp: Math.round(i * frameS * 1e6) });
    const sample = new VideoSample(frame, { timestamp: i * frameS, duration: frameS });
    await source.add(sample, everyFrame);
    sample.close();
  }
  await output.finalize();
  const elapsed = performance.now() - began;
  ready.forEach((picture) => picture.close());
  clips.close();
  return elapsed;
}
