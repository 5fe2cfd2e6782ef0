import { AlongMotion } from '@skipback/core/flow/along';
import { MotionFinder } from '@skipback/core/flow/motion';
import { WHOLE } from '@skipback/core/gather/gather';
import { drawStack, layersOf, tablesOf } from '@skipback/core/looks/draw';
import { Averager } from '@skipback/core/pixels/average';
import type { Drawn } from '@skipback/core/looks/resolve';
import { type HalfMask, Matter } from '@skipback/core/pixels/matter';
import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { type Layer, Surface } from '@skipback/core/pixels/surface';
import { budgets } from '../budgets';
import type { DrawJob, DrawnMade, DrawnPicture, DrawnSide } from './draw-job';

/** Sizes of which a surface is kept: the whole picture, and the coarse one. */
const MOST_SURFACES = 3;

/** Bytes of the picture that a job makes. */
export function bytesMade({ width, height, coarseness, into }: DrawJob): number {
  if (into === 'i420') return planesBytes(width, height);
  return 4 * coarse(width, coarseness) * coarse(height, coarseness);
}

const coarse = (size: number, by: number): number => (by === 1 ? size : Math.max(2, Math.ceil(size / by)));

/** Draws pictures on the thread it is on. Every surface's memory is taken once. */
export class Drawer {
  private readonly surfaces = new Map<string, Surface>();
  private tables = tablesOf({});
  private readonly averager = new Averager();
  private mean = new Uint8Array(0);
  private finder: MotionFinder | undefined;
  private motion: AlongMotion | undefined;
  private between = new Uint8Array(0);
  private sums = new Uint16Array(0);
  private readonly sides: Uint8Array[] = [];
  private lost = 0;
  private matter: Matter | undefined;
  /** Mattes by what they are of. */
  private readonly mattes = new Map<string, HalfMask>();

  /** The colour tables that looks name, in base64. */
  setTables(tables: Readonly<Record<string, string>>): void {
    this.tables = tablesOf(tables);
  }

  /** Makes a picture; `bytes` is a buffer of the right size to put it into. */
  draw(job: DrawJob, bytes: Uint8Array<ArrayBuffer>): DrawnPicture {
    const { coarseness } = job;
    this.lost = 0;
    const costs: [string, number][] = [];
    const source = job.other ? this.dissolved(job, job.other, costs) : this.gathered(job, job);
    const { lost } = this;
    const { stack, layers } = job.other ? job.other.over : job;
    // Means stay in their own values; only what is drawn on, or shown, becomes RGBA.
    if (job.into === 'i420' && stack.length === 0) {
      bytes.set(source);
      return { bytes, width: job.width, height: job.height, lost, costs };
    }
    const whole = this.surfaceOf(job.width, job.height);
    const content = job.other ? job.other.over.content : job.content;
    const mattes = this.mattesOf(job, { stack, layers, content }, source);
    if (job.from === 'rgba') whole.loadRgba(source);
    else whole.load(planesIn(source, job.width, job.height));
    const [width, height] = [coarse(job.width, coarseness), coarse(job.height, coarseness)];
    const surface = coarseness === 1 ? whole : this.surfaceOf(width, height);
    if (surface !== whole) surface.loadRgba(smaller(whole, width, height, coarseness));
    this.drawOn(surface, job, stack, this.layersOf(job, layers, whole), costs, mattes);
    if (job.into === 'i420') surface.store(planesIn(bytes, width, height));
    else bytes.set(surface.pixels);
    return { bytes, width, height, lost, costs };
  }

  private drawOn(
    surface: Surface,
    job: DrawJob,
    stack: DrawnSide['stack'],
    layers: readonly Layer[],
    costs: [string, number][],
    mattes: ReadonlyMap<Drawn, HalfMask>,
  ): void {
    const unit = (job.unit * surface.width) / job.width;
    const matteOf = (drawn: Drawn) => {
      const half = mattes.get(drawn);
      return half && this.matter!.spread(half, drawn.matte!, surface.width, surface.height, unit);
    };
    let layer = 0;
    for (const drawn of stack) {
      const from = performance.now();
      const own = layers.slice(layer, (layer += layersOf(drawn).length));
      drawStack(surface, [drawn], unit, this.tables, own, matteOf);
      costs.push([drawn.look, performance.now() - from]);
    }
  }

  /** Both pictures of a dissolve, each with its own treatments, mixed. */
  private dissolved(
    job: DrawJob,
    other: NonNullable<DrawJob['other']>,
    costs: [string, number][],
  ): Uint8Array {
    const sides = [job, other].map((side, i) => {
      const bytes =
        this.sides[i]?.length === side.sources[0]!.length ? this.sides[i]! : side.sources[0]!.slice();
      this.sides[i] = bytes;
      bytes.set(this.gathered(side, job));
      if (side.stack.length === 0) return bytes;
      const surface = this.surfaceOf(job.width, job.height);
      const planes = planesIn(bytes, job.width, job.height);
      const mattes = this.mattesOf(job, side, bytes);
      surface.load(planes);
      const layers = this.layersOf({ ...job, coarseness: 1 }, side.layers, surface);
      this.drawOn(surface, job, side.stack, layers, costs, mattes);
      surface.store(planes);
      return bytes;
    });
    return this.meanOf(sides, [WHOLE - other.share, other.share]);
  }

  /**
   * The mattes of a row of treatments on a picture before anything is drawn on it, worked out once for equal pictures. The
   * picture's bytes may be lent: they are read before anything else is made.
   */
  private mattesOf(
    job: DrawJob,
    { stack, layers, content }: Pick<DrawnSide, 'stack' | 'layers' | 'content'>,
    picture: Uint8Array,
  ): ReadonlyMap<Drawn, HalfMask> {
    const { width, height, unit } = job;
    const found = new Map<Drawn, HalfMask>();
    let layer = 0;
    for (const drawn of stack) {
      layer += layersOf(drawn).length;
      const { matte } = drawn;
      if (!matte || job.from === 'rgba') continue;
      // How it is turned round and moved comes after.
      const key = content && `${width} ${content} ${JSON.stringify({ ...matte, inverted: 0, moved: 0 })}`;
      let half = key ? this.mattes.get(key) : undefined;
      if (!half) {
        this.matter = sized(this.matter, width, height, Matter);
        const plate = planesIn(layers[layer - 1]!.sources[0]!, width, height);
        half = this.matter.make(planesIn(picture, width, height), plate, matte, unit);
      }
      if (key) this.keepMatte(key, half);
      found.set(drawn, half);
    }
    return found;
  }

  private keepMatte(key: string, half: HalfMask): void {
    // What was used last stays.
    this.mattes.delete(key);
    this.mattes.set(key, half);
    for (const oldest of this.mattes.keys()) {
      if (this.mattes.size * half.length <= budgets.mattes) break;
      this.mattes.delete(oldest);
    }
  }

  /** Forgets what was kept by what pictures are made of: they are others now. */
  forget(): void {
    this.mattes.clear();
  }

  /** What is laid over a picture, at the size in which it is drawn; `whole` is drawn over where that is not the whole. */
  private layersOf(job: DrawJob, layers: readonly DrawnMade[], whole: Surface): Layer[] {
    const { coarseness } = job;
    return layers.map((layer) => {
      const picture = this.gathered(layer, job);
      // What was made for it is written over by the next.
      const own = layer.weights ? picture.slice() : picture;
      if (job.from === 'rgba') return own;
      const planes = planesIn(own, job.width, job.height);
      if (coarseness === 1) return planes;
      whole.load(planes);
      return smaller(whole, coarse(job.width, coarseness), coarse(job.height, coarseness), coarseness);
    });
  }

  /** The mean of a picture's sources; the source itself where there is one. */
  private gathered({ sources, weights, along }: DrawnMade, { width, height }: DrawJob): Uint8Array {
    const [first] = sources as [Uint8Array];
    if (!weights) return first;
    if (along) return this.moved(sources, along, width, height);
    return this.meanOf(sources, weights);
  }

  /** The mean of pictures along the motion between sources. */
  private moved(
    sources: readonly Uint8Array[],
    { instants, fields }: NonNullable<DrawJob['along']>,
    width: number,
    height: number,
  ): Uint8Array {
    const motion = (this.motion = sized(this.motion, width, height, AlongMotion));
    const { length } = sources[0]!;
    const at = (instant: number): Uint8Array => {
      const pair = Math.floor(instant / WHOLE);
      const field = fields[pair];
      if (instant % WHOLE === 0 || !field) return sources[pair]!;
      if (this.between.length !== length) this.between = new Uint8Array(length);
      const lost = motion.picture(sources[pair]!, sources[pair + 1]!, field, instant % WHOLE, this.between);
      this.lost = Math.max(this.lost, lost);
      return this.between;
    };
    if (instants.length === 1) return at(instants[0]!);
    // One after the other, so that sixteen of them take no more memory than two.
    if (this.sums.length !== length) this.sums = new Uint16Array(length);
    const { sums } = this;
    sums.fill(0);
    for (const instant of instants) {
      const picture = at(instant);
      for (let i = 0; i < length; i++) sums[i]! += picture[i]!;
    }
    if (this.mean.length !== length) this.mean = new Uint8Array(length);
    const half = instants.length >> 1;
    for (let i = 0; i < length; i++) this.mean[i] = (sums[i]! + half) / instants.length;
    return this.mean;
  }

  private meanOf(pictures: readonly Uint8Array[], weights: readonly number[]): Uint8Array {
    const { length } = pictures[0]!;
    if (this.mean.length !== length) this.mean = new Uint8Array(length);
    this.averager.mean(pictures, weights, this.mean);
    return this.mean;
  }

  /** The motion from one picture to another, I420 of a size, into `bytes` of `fieldBytes`. */
  find(first: Uint8Array, second: Uint8Array, width: number, height: number, bytes: Uint8Array): void {
    this.finder = sized(this.finder, width, height, MotionFinder);
    this.finder.find(first.subarray(0, width * height), second.subarray(0, width * height), bytes);
  }

  private surfaceOf(width: number, height: number): Surface {
    const key = `${width} ${height}`;
    const known = this.surfaces.get(key);
    if (known) return known;
    for (const oldest of this.surfaces.keys()) {
      if (this.surfaces.size < MOST_SURFACES) break;
      this.surfaces.delete(oldest);
    }
    const surface = new Surface(width, height);
    this.surfaces.set(key, surface);
    return surface;
  }
}

/** What works at one size, made anew for another. */
function sized<T extends { readonly width: number; readonly height: number }>(
  known: T | undefined,
  width: number,
  height: number,
  Kind: new (width: number, height: number) => T,
): T {
  return known?.width === width && known.height === height ? known : new Kind(width, height);
}

/** A picture made smaller by a whole number: every so many-th pixel, since that is a way to gain time. */
function smaller(from: Surface, width: number, height: number, by: number): Uint8Array {
  const { pixels } = from;
  const read = new Uint32Array(pixels.buffer, pixels.byteOffset, from.width * from.height);
  const to = new Uint32Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = Math.min(from.height - 1, y * by + (by >> 1)) * from.width;
    for (let x = 0; x < width; x++)
      to[y * width + x] = read[row + Math.min(from.width - 1, x * by + (by >> 1))]!;
  }
  return new Uint8Array(to.buffer);
}
