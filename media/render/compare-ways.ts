import { fileKind } from './encoders';
import type { PictureJob, Way, WaySize } from './messages';
import { AIMS_DB, settingFor } from './quality';
import { sampleFrames } from './sample-frames';

/** What some ways to make a film come to, by a short sample: `hear` gets them one by one, in their order. */
export async function compareWays(
  job: PictureJob,
  ways: readonly Way[],
  signal: AbortSignal,
  hear: (size: WaySize) => void,
): Promise<void> {
  const pictures = await sampleFrames(job, signal);
  try {
    const rateHz = job.rate.num / job.rate.den;
    for (const { format, quality } of ways) {
      if (signal.aborted || pictures.length === 0) return;
      const aim = AIMS_DB[quality];
      const { db, bytesPerFrame } = await settingFor(fileKind(format), pictures, rateHz, aim, signal);
      hear({ format, quality, db, bytesPerFrame });
    }
  } finally {
    pictures.forEach((p) => p.close());
  }
}
