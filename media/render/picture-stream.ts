import { budgets, heldWhileRendering } from '../budgets';
import { ClipRow } from '../frames/clip-row';
import { FrameServer, type Served } from '../frames/frame-server';
import { FrameSets } from '../frames/frame-sets';
import { OpenClips } from '../frames/open-clips';
import { type TreatedFrames, treatedFor } from './treated-frames';
import { inOrder } from '../pixels/in-order';
import type { DecodeCounters } from '../reader/run-decoder';
import { FullFrames, blackFrame, pictureBytes } from './full-frames';
import type { PictureJob, RenderCounts } from './messages';

type Counted = Omit<RenderCounts, 'encoded' | 'elapsedMs'>;

/**
 * The pictures of a result as a file gets them: decoded once where the budget allows, at the file's size and in its colour, with
 * everything that is drawn on them. Memory does not grow with the length of the result.
 */
export class PictureStream {
  readonly sets: FrameSets;
  private readonly row: ClipRow;
  private readonly clips = new OpenClips();
  private readonly counters: DecodeCounters = { decoded: 0, open: 0 };
  private readonly developed = { open: 0 };
  private readonly full: FullFrames;
  private readonly server: FrameServer<HeldFrame>;
  private treated: TreatedFrames | undefined;
  private distinct = 0;

  /** `size` is the file's, even numbers; `budgetBytes` of pictures may be held. */
  constructor(
    private readonly job: PictureJob,
    private readonly size: { readonly width: number; readonly height: number },
    private readonly budgetBytes = budgets.render,
  ) {
    this.row = new ClipRow(job.clips);
    this.full = new FullFrames(size.width, size.height, job.settings.scale);
    this.server = new FrameServer(
      this.clips.runsOf(
        this.row,
        this.counters,
        async (picture, clip, placement) =>
          new HeldFrame(await this.full.develop(picture, clip, placement), this.developed, (frame) =>
            this.treated?.forget(frame),
          ),
      ),
      (held) => pictureBytes(held.frame),
    );
    this.sets = new FrameSets(
      this.row,
      job.clips.map((c) => c.clipId),
      job,
    );
  }

  /** The pictures of result frames in an order. Whoever takes one closes it. Ends early when `signal` aborts. */
  async *pictures(positions: Int32Array, frameS: number, signal: AbortSignal): AsyncGenerator<VideoFrame> {
    const { size, row, sets, server } = this;
    const treated = (this.treated = treatedFor(this.job, sets, positions, size));
    const all = sets.inOrder(positions);
    this.distinct = new Set(all.wanted).size;
    const capacity = heldWhileRendering(size, this.budgetBytes);
    const request = { ...all, loops: false, start: 0, keys: row.keys, clipStarts: row.starts, capacity };
    let turn = 0;
    const develop = async ({ pictures }: Served<HeldFrame>): Promise<VideoFrame> => {
      const at = turn++;
      const black = pictures.every(Boolean) ? undefined : blackFrame(size);
      const decoded = pictures.map((p) => p?.picture.frame ?? black!);
      let drawn: VideoFrame | undefined;
      try {
        drawn = await treated?.treat(decoded, positions[at]!);
        return new VideoFrame(drawn ?? decoded[0]!, { timestamp: Math.round(at * frameS * 1e6) });
      } finally {
        drawn?.close();
        pictures.forEach((p) => p?.release());
        if (black) treated?.forget(black);
        black?.close();
      }
    };
    yield* inOrder(server.serve(request, signal), treated?.threads ?? 1, develop, (f) => f.close());
  }

  /** Lets go of everything. */
  async close(): Promise<void> {
    await this.server.clear();
    this.clips.close();
    this.treated?.close();
  }

  get counts(): Counted {
    return {
      decoded: this.counters.decoded,
      distinct: this.distinct,
      peakBytes: this.server.peakBytes,
      ...this.full.counts,
      treated: this.treated?.counts.computed ?? 0,
      treatedAgain: this.treated?.counts.again ?? 0,
      copied: this.treated?.counts.copied ?? 0,
      leftOpen: this.counters.open + this.developed.open,
    };
  }

  /** Source frames that were damaged. */
  get damaged(): number {
    return this.server.damaged.size;
  }
}

/** A full-size picture that counts itself while it is open. */
class HeldFrame {
  constructor(
    readonly frame: VideoFrame,
    private readonly count: { open: number },
    private readonly closes: (frame: VideoFrame) => void,
  ) {
    count.open++;
  }

  close(): void {
    this.count.open--;
    this.closes(this.frame);
    this.frame.close();
  }
}
