import { type Recipes, isTreated } from '@skipback/core/looks/recipes';
import { splitPairs } from '@skipback/core/pixels/incoming';
import { halfOf, planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { budgets } from '../budgets';
import { Fields, jobOf } from '../flow/fields';
import type { FrameSets } from '../frames/frame-sets';
import { PixelPool } from '../pixels/pixel-pool';
import { FILE_COLOUR } from './full-frames';
import type { PictureJob } from './messages';

/** Buffers for source pictures kept for the next ones. */
const MOST_SPARE = 16;
/** Source pictures that stay where every thread can read them while they are held, within the budget: result frames share most of theirs. */
const MOST_SHARED = 32;

/**
 * Full-size pictures treated as their recipes say. A picture whose recipe is empty never comes here; equal
 * recipes of equal pictures are computed once while they fit and will be needed again.
 */
export class TreatedFrames {
  private readonly pool: PixelPool;
  private readonly kept = new Map<string, Promise<VideoFrame>>();
  private readonly spare: Uint8Array[] = [];
  private readonly shared = new Map<VideoFrame, Promise<Uint8Array>>();
  /** How often each content is needed still. */
  private readonly left = new Map<string, number>();
  private readonly most: number;
  private readonly fields: Fields;
  /** Pictures computed, those that were given again, and sources that were copied for them. */
  readonly counts = { computed: 0, again: 0, copied: 0 };

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly unit: number,
    recipes: Recipes,
    /** What every result frame is made of. */
    private readonly sets: FrameSets,
    /** The result frames that will be asked for, in order. */
    positions: ArrayLike<number>,
    /** How many pictures may be treated at once. */
    readonly threads: number,
  ) {
    this.pool = new PixelPool(threads);
    this.pool.setTables(recipes.tables);
    this.fields = new Fields(this.pool, width, height);
    this.most = Math.floor(budgets.treated / planesBytes(width, height));
    for (let i = 0; i < positions.length; i++) {
      const key = this.keyOf(positions[i]!);
      if (key) this.left.set(key, (this.left.get(key) ?? 0) + 1);
    }
  }

  /** The content of a result frame; undefined where it is a source frame as it is. */
  private keyOf(at: number): string | undefined {
    return this.sets.isPlain(at) ? undefined : this.sets.keyOf(at);
  }

  /** The picture of result frame `at`, made of its source frames; undefined where it stays as it is. The caller closes it. */
  async treat(frames: readonly VideoFrame[], at: number): Promise<VideoFrame | undefined> {
    const key = this.keyOf(at);
    if (!key) return undefined;
    const left = (this.left.get(key) ?? 1) - 1;
    this.left.set(key, left);
    const known = this.kept.get(key);
    if (known) {
      this.counts.again++;
      const again = (await known).clone();
      if (left <= 0) this.drop(key);
      return again;
    }
    this.counts.computed++;
    const treated = this.draw(frames, at);
    if (left <= 0 || this.kept.size >= this.most) return treated;
    this.kept.set(key, treated);
    return (await treated).clone();
  }

  private async draw(frames: readonly VideoFrame[], at: number): Promise<VideoFrame> {
    const { width, height, pool } = this;
    const own: Uint8Array[] = [];
    const buffers = await Promise.all(frames.map((frame) => this.sourceOf(frame, own)));
    const drawn = await pool.draw({
      ...(await jobOf(this.sets.partsOf(at), buffers, this.fields)),
      ...{ width, height, unit: this.unit, coarseness: 1, from: 'i420', into: 'i420' },
    });
    this.recycle(own);
    const treated = new VideoFrame(drawn.bytes, {
      format: 'I420',
      codedWidth: width,
      codedHeight: height,
      timestamp: 0,
      colorSpace: FILE_COLOUR,
    });
    pool.giveBack(drawn.bytes);
    return treated;
  }

  /** A source's planes: those that are there already, or copied; what is only for this picture is told in `own`. */
  private async sourceOf(frame: VideoFrame, own: Uint8Array[]): Promise<Uint8Array> {
    const known = this.shared.get(frame);
    if (known) return known;
    const bytes = this.copyOf(frame);
    if (this.shared.size < Math.min(MOST_SHARED, this.most)) this.shared.set(frame, bytes);
    else own.push(await bytes);
    return bytes;
  }

  /** A source that will not be given again, before it is closed. */
  forget(frame: VideoFrame): void {
    const bytes = this.shared.get(frame);
    if (!bytes) return;
    this.shared.delete(frame);
    void bytes.then(
      (b) => this.recycle([b]),
      () => undefined,
    );
  }

  private recycle(buffers: readonly Uint8Array[]): void {
    this.spare.push(...buffers.slice(0, Math.max(0, MOST_SPARE - this.spare.length)));
  }

  private async copyOf(frame: VideoFrame): Promise<Uint8Array> {
    const { width, height } = this;
    this.counts.copied++;
    const bytes = this.spare.pop() ?? this.pool.sourceBytes(planesBytes(width, height));
    const [across, luma] = [halfOf(width), width * height];
    const pairs = frame.format === 'NV12';
    await frame.copyTo(bytes, {
      rect: { x: 0, y: 0, width, height },
      layout: [
        { offset: 0, stride: width },
        { offset: luma, stride: pairs ? 2 * across : across },
        ...(pairs ? [] : [{ offset: luma + across * halfOf(height), stride: across }]),
      ],
    });
    if (pairs) splitPairs(planesIn(bytes, width, height));
    return bytes;
  }

  private drop(key: string): void {
    void this.kept.get(key)?.then(
      (frame) => frame.close(),
      () => undefined,
    );
    this.kept.delete(key);
  }

  /** Lets go of everything. Call when nothing is being treated. */
  close(): void {
    for (const key of [...this.kept.keys()]) this.drop(key);
    this.pool.close();
  }
}

/**
 * The stage of a result's pictures at a file's size, of which `positions` will be asked for; undefined where all are source
 * frames, so that nothing is converted.
 */
export function treatedFor(
  { recipes, settings, threads }: PictureJob,
  sets: FrameSets,
  positions: ArrayLike<number>,
  { width, height }: { readonly width: number; readonly height: number },
): TreatedFrames | undefined {
  return isTreated(recipes)
    ? new TreatedFrames(width, height, settings.scale, recipes, sets, positions, threads)
    : undefined;
}
