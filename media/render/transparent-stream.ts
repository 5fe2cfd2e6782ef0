import { coverageRecipes } from '@skipback/core/looks/coverage';
import { planesIn } from '@skipback/core/pixels/planes';
import { transparentBytes, withTransparency } from '@skipback/core/pixels/transparent';
import { budgets } from '../budgets';
import { FILE_COLOUR } from './full-frames';
import type { PictureJob } from './messages';
import { PictureStream } from './picture-stream';
import { planesOf } from './planes-of';

/** The pictures of a result, with what is transparent of them where the job wants it. */
export const streamOf = (job: PictureJob, size: Size): PictureStream | TransparentStream =>
  job.transparent ? new TransparentStream(job, size) : new PictureStream(job, size);

interface Size {
  readonly width: number;
  readonly height: number;
}

/**
 * The pictures of a result that say how much of each point is there: the same result is made a second time from that alone,
 * and the two are put together as I420A.
 */
export class TransparentStream {
  private readonly colours: PictureStream;
  private readonly coverage: PictureStream;

  constructor(
    job: PictureJob,
    private readonly size: Size,
  ) {
    const budget = budgets.render / 2;
    this.colours = new PictureStream(job, size, budget);
    this.coverage = new PictureStream(
      {
        ...job,
        clips: job.clips.map((clip) => ({ ...clip, clear: true })),
        recipes: coverageRecipes(job.recipes),
      },
      size,
      budget,
    );
  }

  get sets() {
    return this.colours.sets;
  }

  /** As `PictureStream.pictures`. */
  async *pictures(positions: Int32Array, frameS: number, signal: AbortSignal): AsyncGenerator<VideoFrame> {
    const { width, height } = this.size;
    const beside = this.coverage.pictures(positions, frameS, signal);
    try {
      for await (const picture of this.colours.pictures(positions, frameS, signal)) {
        try {
          const next = await beside.next();
          if (next.done) return;
          const grey = await planesOf(next.value).finally(() => next.value.close());
          const bytes = new Uint8Array(transparentBytes(width, height));
          withTransparency(
            planesIn(await planesOf(picture), width, height),
            grey.subarray(0, width * height),
            bytes,
          );
          yield new VideoFrame(bytes, {
            format: 'I420A',
            codedWidth: width,
            codedHeight: height,
            timestamp: picture.timestamp,
            colorSpace: FILE_COLOUR,
          });
        } finally {
          picture.close();
        }
      }
    } finally {
      await beside.return(undefined);
    }
  }

  async close(): Promise<void> {
    await this.colours.close();
    await this.coverage.close();
  }

  get counts(): PictureStream['counts'] {
    const { counts } = this.colours;
    return { ...counts, leftOpen: counts.leftOpen + this.coverage.counts.leftOpen };
  }

  get damaged(): number {
    return this.colours.damaged;
  }
}
