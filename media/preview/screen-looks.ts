import { type Recipes, untouched } from '@skipback/core/looks/resolve';
import { SharedPicture } from '../frames/shared-picture';
import type { DrawnPicture } from '../pixels/draw-job';
import { PixelPool } from '../pixels/pixel-pool';
import { type Screen, ShownPicture, type SourcePicture } from './screen';

/** Bytes of treated pictures that are kept. */
export const SCREEN_LOOKS_BUDGET_BYTES = 160 * 1024 * 1024;
/** How much smaller than the screen treated pictures may be made, each way. */
const COARSEST = 3;
/** Weight of the newest picture in the mean of what drawing costs. */
const NEWEST = 0.1;

/**
 * Looks at the size of the screen: the same kernels as the file's. Treated pictures are kept by what they are
 * (source frame, treatments, size), so that a change of one look leaves those of all others in place.
 */
export class ScreenLooks {
  private recipes: Recipes = untouched(0);
  private keys: readonly string[] = [];
  private readonly kept = new Map<string, SharedPicture<ShownPicture>>();
  /** What is shown as it is needs no treatment: it is not sent to another thread. */
  private readonly plainly = new PixelPool(1);
  private bytes = 0;
  /** 1 at the screen's own size, 2 and 3 at a half and a third of it. */
  coarseness = 1;
  /** Milliseconds a picture that was drawn on takes, on the mean; and each treatment of it. */
  meanMs = 0;
  readonly costs = new Map<string, number>();

  constructor(
    private readonly screen: Screen,
    private readonly pool: PixelPool,
  ) {}

  get heldBytes(): number {
    return this.bytes;
  }
  get any(): boolean {
    return this.recipes.stacks.length > 1;
  }
  /** How many pictures are worth treating at once. */
  get threads(): number {
    return this.any ? this.pool.threads : 1;
  }

  setRecipes(recipes: Recipes): void {
    this.recipes = recipes;
    this.keys = recipes.stacks.map((stack) => JSON.stringify(stack));
    this.pool.setTables(recipes.tables);
    for (const look of this.costs.keys())
      if (!recipes.stacks.some((s) => s.some((d) => d.look === look))) this.costs.delete(look);
  }

  /** Lets go of every picture: the screen has another size, or the clips are others. */
  clear(): void {
    for (const key of [...this.kept.keys()]) this.drop(key);
  }

  private keyOf(number: number, stack: number): string {
    return `${number} ${this.coarseness} ${this.keys[stack]}`;
  }

  /** Whether a result frame needs nothing, or is there already. */
  isReady(number: number, position: number): boolean {
    const stack = this.recipes.stackOf[position] ?? 0;
    return stack === 0 || this.kept.has(this.keyOf(number, stack));
  }

  /** The treated picture if it is there. The receiver releases it. */
  private ready(number: number, stack: number): SharedPicture<ShownPicture> | undefined {
    // A fine one that is there is as good as the coarse one that would do.
    const fine = `${number} 1 ${this.keys[stack]}`;
    const key = this.kept.has(fine) ? fine : this.keyOf(number, stack);
    const known = this.kept.get(key);
    if (!known) return undefined;
    this.kept.delete(key);
    this.kept.set(key, known);
    return known.retain();
  }

  /** A source picture as it is. Takes over the caller's hold on it and gives one on what is shown. */
  async plain(source: SharedPicture<SourcePicture>): Promise<SharedPicture<ShownPicture>> {
    try {
      const { bytes, width, height } = source.picture;
      const drawn = await this.plainly.draw({
        ...{ source: bytes, width, height, from: 'i420', into: 'rgba' },
        ...{ stack: [], unit: 1, coarseness: 1 },
      });
      return shownFrom(drawn, this.plainly);
    } finally {
      source.release();
    }
  }

  /** A source picture as result frame `position` shows it. Takes over the caller's hold on it and gives another. */
  async treat(
    source: SharedPicture<SourcePicture>,
    number: number,
    position: number,
  ): Promise<SharedPicture<ShownPicture>> {
    const stack = this.recipes.stackOf[position] ?? 0;
    if (stack === 0) return this.plain(source);
    const known = this.ready(number, stack);
    if (known) {
      source.release();
      return known;
    }
    const key = this.keyOf(number, stack);
    const began = performance.now();
    try {
      const { bytes, width, height } = source.picture;
      const drawn = await this.pool.draw({
        ...{ source: bytes, width, height, from: 'i420', into: 'rgba' },
        ...{ stack: this.recipes.stacks[stack]!, unit: this.screen.unit, coarseness: this.coarseness },
      });
      for (const [look, ms] of drawn.costs) this.costs.set(look, mean(this.costs.get(look), ms));
      this.meanMs = mean(this.meanMs || undefined, (performance.now() - began) / this.threads);
      const shared = shownFrom(drawn, this.pool);
      this.keep(key, shared.retain());
      return shared;
    } finally {
      source.release();
    }
  }

  /** Coarser pictures from now on, or finer ones; false where it goes no further. */
  coarser(by: 1 | -1): boolean {
    const next = Math.min(COARSEST, Math.max(1, this.coarseness + by));
    if (next === this.coarseness) return false;
    this.coarseness = next;
    return true;
  }

  private keep(key: string, picture: SharedPicture<ShownPicture>): void {
    // Two threads may have made the same.
    this.drop(key);
    this.kept.set(key, picture);
    this.bytes += picture.bytes;
    for (const oldest of this.kept.keys()) {
      if (this.bytes <= SCREEN_LOOKS_BUDGET_BYTES || oldest === key) break;
      this.drop(oldest);
    }
  }

  private drop(key: string): void {
    const picture = this.kept.get(key);
    if (!picture) return;
    this.kept.delete(key);
    this.bytes -= picture.bytes;
    picture.release();
  }
}

const mean = (before: number | undefined, now: number): number =>
  before === undefined ? now : before + NEWEST * (now - before);

function shownFrom({ bytes, width, height }: DrawnPicture, pool: PixelPool): SharedPicture<ShownPicture> {
  const image = new ImageData(new Uint8ClampedArray(bytes.buffer), width, height);
  return new SharedPicture(new ShownPicture(image, () => pool.giveBack(bytes)), bytes.length);
}
