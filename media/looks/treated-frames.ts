import { drawStack, tablesOf } from '@skipback/core/looks/draw';
import type { Recipes } from '@skipback/core/looks/resolve';
import type { Tables } from '@skipback/core/looks/treatment';
import { type Planes, planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface } from '@skipback/core/pixels/surface';
import { FILE_COLOUR } from '../render/full-frames';
import type { PictureJob } from '../render/messages';

/** Bytes of treated pictures kept for the next time they are needed. */
export const TREATED_BUDGET_BYTES = 128 * 1024 * 1024;

/**
 * Full-size pictures treated as their recipes say. A picture whose recipe is empty never comes here; equal
 * recipes of equal pictures are computed once while they fit and will be needed again.
 */
export class TreatedFrames {
  private readonly surface: Surface;
  private readonly planes: Planes;
  private readonly bytes: Uint8Array<ArrayBuffer>;
  private readonly tables: Tables;
  private readonly kept = new Map<string, VideoFrame>();
  /** How often each content is needed still. */
  private readonly left = new Map<string, number>();
  private readonly most: number;
  /** Pictures computed, and those that were given again. */
  readonly counts = { computed: 0, again: 0 };

  constructor(
    private readonly width: number,
    private readonly height: number,
    private readonly unit: number,
    private readonly recipes: Recipes,
    /** For every result frame the number of its source frame. */
    private readonly numbers: Int32Array,
    loops: number,
  ) {
    this.surface = new Surface(width, height);
    this.bytes = new Uint8Array(planesBytes(width, height));
    this.planes = planesIn(this.bytes, width, height);
    this.tables = tablesOf(recipes.tables);
    this.most = Math.floor(TREATED_BUDGET_BYTES / this.bytes.length);
    numbers.forEach((_, at) => {
      const key = this.keyOf(at);
      if (key) this.left.set(key, (this.left.get(key) ?? 0) + loops);
    });
  }

  /** The content of a result frame; undefined where it is a source frame as it is. */
  private keyOf(at: number): string | undefined {
    const stack = this.recipes.stackOf[at]!;
    return stack === 0 ? undefined : `${this.numbers[at]} ${stack}`;
  }

  /** The picture of result frame `at`, treated; undefined where it stays as it is. The caller closes it. */
  async treat(frame: VideoFrame, at: number): Promise<VideoFrame | undefined> {
    const key = this.keyOf(at);
    if (!key) return undefined;
    const left = (this.left.get(key) ?? 1) - 1;
    this.left.set(key, left);
    const known = this.kept.get(key);
    if (known) {
      this.counts.again++;
      const again = known.clone();
      if (left <= 0) this.drop(key);
      return again;
    }
    this.counts.computed++;
    const { width, height } = this;
    await frame.copyTo(this.bytes, {
      rect: { x: 0, y: 0, width, height },
      layout: [
        { offset: 0, stride: width },
        { offset: this.planes.u.byteOffset, stride: (width + 1) >> 1 },
        { offset: this.planes.v.byteOffset, stride: (width + 1) >> 1 },
      ],
    });
    this.surface.load(this.planes);
    drawStack(this.surface, this.recipes.stacks[this.recipes.stackOf[at]!]!, this.unit, this.tables);
    this.surface.store(this.planes);
    const treated = new VideoFrame(this.bytes, {
      format: 'I420',
      codedWidth: width,
      codedHeight: height,
      timestamp: 0,
      colorSpace: FILE_COLOUR,
    });
    if (left > 0 && this.kept.size < this.most) this.kept.set(key, treated.clone());
    return treated;
  }

  private drop(key: string): void {
    this.kept.get(key)?.close();
    this.kept.delete(key);
  }

  close(): void {
    for (const key of [...this.kept.keys()]) this.drop(key);
  }
}

/** The stage of a result's looks at a file's size; undefined where it has none, so that nothing is converted. */
export function treatedFor(
  { recipes, settings }: PictureJob,
  numbers: Int32Array,
  { width, height }: { readonly width: number; readonly height: number },
): TreatedFrames | undefined {
  return recipes.stacks.length > 1
    ? new TreatedFrames(width, height, settings.scale, recipes, numbers, settings.loops)
    : undefined;
}
