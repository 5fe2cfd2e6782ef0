import { drawStack, tablesOf } from '@skipback/core/looks/draw';
import { type Recipes, untouched } from '@skipback/core/looks/resolve';
import { Surface } from '@skipback/core/pixels/surface';
import { SharedPicture } from '../frames/shared-picture';
import type { Screen, ShownPicture } from './screen';

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
  private tables = tablesOf({});
  private readonly kept = new Map<string, SharedPicture<ShownPicture>>();
  private readonly surfaces = new Map<string, Surface>();
  private bytes = 0;
  /** 1 at the screen's own size, 2 and 3 at a half and a third of it. */
  coarseness = 1;
  /** Milliseconds a picture that was drawn on takes, on the mean; and each treatment of it. */
  meanMs = 0;
  readonly costs = new Map<string, number>();

  constructor(private readonly screen: Screen) {}

  get heldBytes(): number {
    return this.bytes;
  }
  get any(): boolean {
    return this.recipes.stacks.length > 1;
  }

  setRecipes(recipes: Recipes): void {
    this.recipes = recipes;
    this.keys = recipes.stacks.map((stack) => JSON.stringify(stack));
    this.tables = tablesOf(recipes.tables);
    for (const look of this.costs.keys())
      if (!recipes.stacks.some((s) => s.some((d) => d.look === look))) this.costs.delete(look);
  }

  /** Lets go of every picture: the screen has another size, or the clips are others. */
  clear(): void {
    for (const key of [...this.kept.keys()]) this.drop(key);
    this.surfaces.clear();
  }

  private keyOf(number: number, stack: number): string {
    return `${number} ${this.coarseness} ${this.keys[stack]}`;
  }

  /** Whether a result frame needs nothing, or is there already. */
  isReady(number: number, position: number): boolean {
    const stack = this.recipes.stackOf[position] ?? 0;
    return stack === 0 || this.kept.has(this.keyOf(number, stack));
  }

  /** The treated picture if it is there, without a source. The receiver releases it. */
  ready(number: number, position: number): SharedPicture<ShownPicture> | undefined {
    const stack = this.recipes.stackOf[position] ?? 0;
    if (stack === 0) return undefined;
    // A fine one that is there is as good as the coarse one that would do.
    const fine = `${number} 1 ${this.keys[stack]}`;
    const key = this.kept.has(fine) ? fine : this.keyOf(number, stack);
    const known = this.kept.get(key);
    if (!known) return undefined;
    this.kept.delete(key);
    this.kept.set(key, known);
    return known.retain();
  }

  /** A source picture as result frame `position` shows it. Takes over the caller's hold on it and gives another. */
  treat(source: SharedPicture<ShownPicture>, number: number, position: number): SharedPicture<ShownPicture> {
    const stack = this.recipes.stackOf[position] ?? 0;
    if (stack === 0) return source;
    const known = this.ready(number, position);
    if (known) {
      source.release();
      return known;
    }
    const began = performance.now();
    const { image } = source.picture;
    const [width, height] = [image.width, image.height].map((n) =>
      Math.max(2, Math.ceil(n / this.coarseness)),
    );
    const surface = this.surfaceOf(width!, height!);
    surface.loadRgba(this.coarseness === 1 ? image.data : smaller(image, width!, height!, this.coarseness));
    const unit = (this.screen.unit * width!) / image.width;
    for (const drawn of this.recipes.stacks[stack]!) {
      const from = performance.now();
      drawStack(surface, [drawn], unit, this.tables);
      this.costs.set(drawn.look, mean(this.costs.get(drawn.look), performance.now() - from));
    }
    const picture = this.screen.pictureOf(surface.pixels, width!, height!);
    source.release();
    this.meanMs = mean(this.meanMs || undefined, performance.now() - began);
    const shared = new SharedPicture(picture, picture.image.data.byteLength);
    this.keep(this.keyOf(number, stack), shared);
    return shared.retain();
  }

  /** Coarser pictures from now on, or finer ones; false where it goes no further. */
  coarser(by: 1 | -1): boolean {
    const next = Math.min(COARSEST, Math.max(1, this.coarseness + by));
    if (next === this.coarseness) return false;
    this.coarseness = next;
    return true;
  }

  private surfaceOf(width: number, height: number): Surface {
    const key = `${width} ${height}`;
    let surface = this.surfaces.get(key);
    if (!surface) this.surfaces.set(key, (surface = new Surface(width, height)));
    return surface;
  }

  private keep(key: string, picture: SharedPicture<ShownPicture>): void {
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

/** A picture made smaller by a whole number: every so many-th pixel, since that is a way to gain time. */
function smaller(image: ImageData, width: number, height: number, by: number): Uint8Array {
  const from = new Uint32Array(image.data.buffer, image.data.byteOffset, image.width * image.height);
  const to = new Uint32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = Math.min(image.height - 1, y * by + (by >> 1)) * image.width;
    for (let x = 0; x < width; x++)
      to[y * width + x] = from[row + Math.min(image.width - 1, x * by + (by >> 1))]!;
  }
  return new Uint8Array(to.buffer);
}
