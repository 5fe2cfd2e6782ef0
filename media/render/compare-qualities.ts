import { filmKindOf } from './encoders';
import type { PictureJob, QualitySize } from './messages';
import { AIMS_DB, settingFor } from './quality';
import { sampleFrames } from './sample-frames';

/** What each quality of a kind of file comes to, by a short sample: `hear` gets them one by one, coarsest first. */
export async function compareQualities(
  job: PictureJob,
  signal: AbortSignal,
  hear: (size: QualitySize) => void,
): Promise<void> {
  const pictures = await sampleFrames(job, signal);
  try {
    const rateHz = job.rate.num / job.rate.den;
    for (const quality of ['draft', 'good', 'high', 'finest'] as const) {
      if (signal.aborted || pictures.length === 0) return;
      const { db, bytesPerFrame } = await settingFor(
        filmKindOf(job.settings),
        pictures,
        rateHz,
        AIMS_DB[quality],
        signal,
      );
      hear({ quality, db, bytesPerFrame });
    }
  } finally {
    pictures.forEach((p) => p.close());
  }
}
