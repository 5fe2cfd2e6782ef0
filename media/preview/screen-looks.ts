import { type Recipes, isTreated, untouched } from '@skipback/core/looks/recipes';
import { budgets } from '../budgets';
import { DiskShelf } from '../flow/field-shelf';
import { Fields, alongIn, jobOf } from '../flow/fields';
import type { FrameSets } from '../frames/frame-sets';
import { SharedPicture } from '../frames/shared-picture';
import type { DrawnPicture } from '../pixels/draw-job';
import { PixelPool } from '../pixels/pixel-pool';
import type { MotionReady } from './messages';
import { type Screen, ShownPicture, type SourcePicture } from './screen';

/** How much smaller than the screen treated pictures may be made, each way. */
const COARSEST = 3;
/** Result frames above which what is kept is not chosen by what is needed: of hours only a little fits anyway. */
const LONG = 50_000;
/** Pictures of which it is known where motion was lost. */
const MOST_LOST = 2 * LONG;
/** Weight of the newest picture in the mean of what drawing costs. */
const NEWEST = 0.1;

/**
 * Looks at the size of the screen: the same kernels as the file's. Treated pictures are kept by what they are
 * (source frames, treatments, size), so that a change of one look leaves those of all others in place.
 */
export class ScreenLooks {
  private recipes: Recipes = untouched(0);
  private sets: FrameSets | undefined;
  /** The contents that some result frame is, at the present size. */
  private needed = new Set<string>();
  private readonly kept = new Map<string, SharedPicture<ShownPicture>>();
  /** What is shown as it is needs no treatment: it is not sent to another thread. */
  private readonly plainly = new PixelPool(1);
  private bytes = 0;
  /** 1 at the screen's own size, 2 and 3 at a half and a third of it. */
  coarseness = 1;
  private readonly shelf = new DiskShelf();
  /** The motion between frames, at the screen's size. */
  private fields: Fields;
  /** Whether pictures along the motion are made as such, where nothing hurries; else they are mixed. */
  moves = true;
  /** The part of each picture, by its content, where motion was needed and not trusted. */
  private readonly lost = new Map<string, number>();
  /** Milliseconds a picture that was drawn on takes, on the mean; and each treatment of it. */
  meanMs = 0;
  readonly costs = new Map<string, number>();

  constructor(
    private readonly screen: Screen,
    private readonly pool: PixelPool,
    /** The text of what a frame of the row of clips shows, whenever it is decoded again. */
    private readonly shownBy: (number: number) => string,
  ) {
    this.fields = this.newFields();
  }

  private newFields(): Fields {
    const { width, height } = this.screen.size;
    const keyOf = (number: number) => `${width}x${height} ${this.shownBy(number)}`;
    return new Fields(this.pool, width, height, { shelf: this.shelf, keyOf });
  }

  get heldBytes(): number {
    return this.bytes;
  }
  get any(): boolean {
    return isTreated(this.recipes);
  }
  /** How many pictures are worth treating at once. */
  get threads(): number {
    return this.any ? this.pool.threads : 1;
  }

  setRecipes(recipes: Recipes, sets: FrameSets | undefined): void {
    this.recipes = recipes;
    this.sets = sets;
    this.pool.setTables(recipes.tables);
    this.findNeeded();
    for (const look of this.costs.keys())
      if (!recipes.stacks.some((s) => s.some((d) => d.look === look))) this.costs.delete(look);
  }

  private findNeeded(): void {
    this.needed = new Set();
    if (!this.any || !this.sets || this.sets.length > LONG) return;
    for (let p = 0; p < this.sets.length; p++) if (!this.isPlain(p)) this.needed.add(this.keyOf(p));
  }

  /** Lets go of every picture: the screen has another size, or the clips are others. */
  clear(): void {
    for (const key of [...this.kept.keys()]) this.drop(key);
    this.fields = this.newFields();
    this.pool.forget();
    this.lost.clear();
  }

  /** Whether a result frame is made along the motion. */
  movesAt(position: number): boolean {
    return this.sets?.moves(position) === true;
  }

  /** How far the pictures along the motion are, and where it was not trusted; undefined where there are none. */
  motion(working: boolean): MotionReady | undefined {
    const lost: [number, number][] = [];
    let [made, of] = [0, 0];
    for (let position = 0; position < (this.sets?.length ?? 0); position++) {
      if (!this.movesAt(position)) continue;
      of++;
      const share = this.lost.get(this.sets!.keyOf(position));
      if (share === undefined) continue;
      made++;
      if (share > 0) lost.push([position, share]);
    }
    return of > 0 ? { made, of, working, goesOn: this.moves, lost } : undefined;
  }

  private keyOf(position: number, coarseness = this.coarseness): string {
    return `${coarseness} ${this.sets!.keyOf(position)}`;
  }

  /** Whether a result frame is a source frame as it is. */
  private isPlain(position: number): boolean {
    return this.sets?.isPlain(position) !== false;
  }

  /** Whether a result frame needs nothing, or is there already. */
  isReady(position: number): boolean {
    return this.isPlain(position) || this.kept.has(this.keyOf(position));
  }

  /** The treated picture if it is there. The receiver releases it. */
  private ready(position: number): SharedPicture<ShownPicture> | undefined {
    // A fine one that is there is as good as the coarse one that would do.
    const fine = this.keyOf(position, 1);
    const key = this.kept.has(fine) ? fine : this.keyOf(position);
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
        ...{ sources: [bytes], weights: undefined, layers: [], width, height, from: 'i420', into: 'rgba' },
        ...{ stack: [], unit: 1, coarseness: 1 },
      });
      return shownFrom(drawn, this.plainly);
    } finally {
      source.release();
    }
  }

  /**
   * Source pictures as result frame `position` shows them. Takes over the caller's hold on them and gives one on what
   * is shown. With `first` it is kept also where older ones have to go for it. Where pictures `hurry`, motion that is
   * not known yet is not looked for: the frames are mixed, and that is not kept.
   */
  async treat(
    sources: Sources,
    position: number,
    { first = false, hurry = false } = {},
  ): Promise<SharedPicture<ShownPicture>> {
    if (this.isPlain(position) || !this.sets) {
      releaseAll(sources.slice(1));
      return this.plain(sources[0]!);
    }
    const known = this.ready(position);
    if (known) {
      releaseAll(sources);
      return known;
    }
    const key = this.keyOf(position);
    const began = performance.now();
    try {
      const { width, height } = sources[0]!.picture;
      const buffers = sources.map((s) => s.picture.bytes);
      const parts = this.sets.partsOf(position);
      const moved = this.movesNow(position, hurry);
      const drawn = await this.pool.draw({
        ...(await jobOf(parts, buffers, moved ? this.fields : undefined)),
        ...{ width, height, from: 'i420', into: 'rgba' },
        ...{ unit: this.screen.unit, coarseness: this.coarseness },
      });
      for (const [look, ms] of drawn.costs) this.costs.set(look, mean(this.costs.get(look), ms));
      this.meanMs = mean(this.meanMs || undefined, (performance.now() - began) / this.threads);
      const shared = shownFrom(drawn, this.pool);
      if (moved) {
        this.lost.set(this.sets.keyOf(position), drawn.lost);
        // Of everything that was ever tried the oldest is forgotten.
        if (this.lost.size > MOST_LOST) this.lost.delete(this.lost.keys().next().value!);
      }
      if (moved || !this.movesAt(position)) this.keep(key, shared, first);
      return shared;
    } finally {
      releaseAll(sources);
    }
  }

  private movesNow(position: number, hurry: boolean): boolean {
    if (!this.movesAt(position) || !this.moves) return false;
    if (!hurry) return true;
    return (
      this.coarseness === 1 && alongIn(this.sets!.partsOf(position)).every((job) => this.fields.has(job))
    );
  }

  /** Coarser pictures from now on, or finer ones; false where it goes no further. */
  coarser(by: 1 | -1): boolean {
    const next = Math.min(COARSEST, Math.max(1, this.coarseness + by));
    if (next === this.coarseness) return false;
    this.coarseness = next;
    this.findNeeded();
    return true;
  }

  /**
   * Keeps a picture while there is room. Playing over and over what does not fit, the newest is the one that is
   * needed last: then those that are there stay, but for what no result frame is any more.
   */
  private keep(key: string, picture: SharedPicture<ShownPicture>, first: boolean): void {
    // Two threads may have made the same.
    this.drop(key);
    for (const oldest of this.kept.keys()) {
      if (this.bytes + picture.bytes <= budgets.screenLooks) break;
      if (first || !this.needed.has(oldest)) this.drop(oldest);
    }
    if (this.bytes + picture.bytes > budgets.screenLooks) return;
    this.kept.set(key, picture.retain());
    this.bytes += picture.bytes;
  }

  private drop(key: string): void {
    const picture = this.kept.get(key);
    if (!picture) return;
    this.kept.delete(key);
    this.bytes -= picture.bytes;
    picture.release();
  }
}

type Sources = readonly SharedPicture<SourcePicture>[];

const releaseAll = (sources: Sources): void => sources.forEach((s) => s.release());

const mean = (before: number | undefined, now: number): number =>
  before === undefined ? now : before + NEWEST * (now - before);

function shownFrom({ bytes, width, height }: DrawnPicture, pool: PixelPool): SharedPicture<ShownPicture> {
  const image = new ImageData(new Uint8ClampedArray(bytes.buffer), width, height);
  return new SharedPicture(new ShownPicture(image, () => pool.giveBack(bytes)), bytes.length);
}
