import type { LoopProposal } from '@skipback/core/checks/likeness';
import type { Stretch } from '@skipback/core/moments/known-shots';
import type { ClipSource } from '../frames/clip-row';
import { WorkerClient } from '../worker-client';
import type { Inspection } from './inspect';
import type { SeamLooks } from './seam';
import {
  type ImportReply,
  ImportReplySchema,
  type ImportRequest,
  type Pace,
  type ThumbnailSheet,
} from './messages';

const newWorker = () => new Worker(new URL('./import-worker.ts', import.meta.url), { type: 'module' });

/** A file that is not read any further for so long is given up, milliseconds. */
const QUIET_MS = 12_000;

/** Asks the import workers: one reads what files are, which may be anything; the other looks at clips that are known. */
class ImportClient {
  private readonly reader = new WorkerClient<ImportRequest, ImportReply>(newWorker, ImportReplySchema, {
    died: 'The file reader stopped at this file, and was started again.',
    quietMs: QUIET_MS,
    hung: 'The file reader got no further in this file, and was started again.',
  });
  private readonly worker = new WorkerClient<ImportRequest, ImportReply>(newWorker, ImportReplySchema, {
    died: 'What looks at the clips stopped, and was started again; try again.',
  });

  private pace: Pace = 'free';

  /** What a file is. Throws `Said` where reading it got stuck. */
  async inspect(file: Blob, name: string): Promise<Inspection> {
    return (await this.reader.ask({ kind: 'inspect', file, name }, 'inspected')).inspection;
  }

  /** `urgent` where somebody waits for them: they give way to nothing. */
  async thumbnails(clip: ClipSource, urgent = false): Promise<ThumbnailSheet> {
    const drawn = this.worker.ask({ kind: 'thumbnails', clip, urgent }, 'thumbnails');
    this.worker.tell({ kind: 'give-way', pace: this.pace });
    return (await drawn).sheet;
  }

  /** At which pace thumbnails are drawn from now on, beside what somebody waits for. */
  giveWay(pace: Pace): void {
    if (pace === this.pace) return;
    this.pace = pace;
    this.worker.tell({ kind: 'give-way', pace });
  }

  async loops(
    clip: ClipSource,
    range: { first: number; end: number; least: number; most: number },
  ): Promise<readonly LoopProposal[]> {
    return (await this.worker.ask({ kind: 'loops', clip, ...range }, 'loops')).loops;
  }

  async seam(
    clip: ClipSource,
    before: number,
    after: number,
    looks: SeamLooks | undefined,
  ): Promise<{ plain: number; treated: number | undefined }> {
    return this.worker.ask({ kind: 'seam', clip, before, after, looks }, 'seam');
  }

  /** Every `step`-th of frames [first, end) as small pictures; the caller closes them. */
  async small(
    clip: ClipSource,
    range: { first: number; end: number; step: number; width: number },
  ): Promise<readonly ImageBitmap[]> {
    return (await this.worker.ask({ kind: 'small', clip, ...range }, 'small')).pictures;
  }

  /** Frames of a stretch of a clip that begin another shot. */
  async cuts(clip: ClipSource, [first, end]: Stretch, urgent: boolean): Promise<readonly number[]> {
    return (await this.worker.ask({ kind: 'cuts', clip, first, end, urgent }, 'cuts')).cuts;
  }

  /** The place that a clip shows without what moves through it, as a PNG. */
  async cleanPlate(clip: ClipSource): Promise<Blob> {
    return (await this.worker.ask({ kind: 'clean-plate', clip }, 'still')).png;
  }

  async still(clip: ClipSource, frame: number): Promise<Blob> {
    return (await this.worker.ask({ kind: 'still', clip, frame }, 'still')).png;
  }
}

export const importClient = new ImportClient();
