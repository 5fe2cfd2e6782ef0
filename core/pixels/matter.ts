import type { DrawnMatte } from '../regions/matte';
import { type Kernels, loadKernels } from './kernels/module';
import { type Planes, halfOf, planesBytes, planesIn } from './planes';
import { Putter } from './put';

/** What comes to the whole range of a difference, in the kernel's measure: four lumas from 16 to 235. */
const WHOLE_RANGE = 4 * 219;
/** How much steeper than the mean of its surroundings a cleaned edge is. */
const STEEP = 4;
/** Wider than what it is grown by, the mean that a matte is grown with. */
const MORE = 1.25;

/** What of a matte is worked out once for a picture, whatever is drawn on it: a byte for every two by two pixels. */
export type HalfMask = Uint8Array;

type Making = Pick<DrawnMatte, 'threshold' | 'softness' | 'clean' | 'feather' | 'grow' | 'held'>;

/** Works out mattes of pictures of one size. Its memory is taken once. */
export class Matter {
  private readonly across: number;
  private readonly down: number;
  private readonly a = 4096;
  private readonly b: number;
  private readonly half: number;
  private readonly other: number;
  private readonly sums: number;
  private readonly out: number;
  private readonly kernels: Kernels;
  private readonly memory: { readonly buffer: ArrayBuffer };
  private putter: Putter | undefined;
  private put: Planes | undefined;

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.across = halfOf(width);
    this.down = halfOf(height);
    const room = (bytes: number) => 64 * Math.ceil(bytes / 64) + 256;
    const picture = room(planesBytes(width, height));
    const half = room(this.across * this.down);
    this.b = this.a + picture;
    this.half = this.b + picture;
    this.other = this.half + half;
    this.sums = this.other + half;
    this.out = this.sums + room(4 * this.across);
    const { kernels, memory } = loadKernels(this.out + room(width * height));
    this.kernels = kernels;
    this.memory = memory;
  }

  /** Where a picture differs from a plate; both in BT.709 limited range. `unit` is as for treatments. */
  make(picture: Planes, plate: Planes, making: Making, unit: number): HalfMask {
    const { width, height, across, down, kernels, half } = this;
    const at = (start: number) => {
      const u = start + width * height;
      return [start, u, u + across * down] as const;
    };
    this.bring(picture, this.a);
    this.bring(making.held ? this.moved(plate, making.held, unit) : plate, this.b);
    const low = Math.round((making.threshold / 100) * WHOLE_RANGE);
    const gain = Math.round((255 * 256) / Math.max(1, (making.softness / 100) * WHOLE_RANGE));
    kernels.differ(...at(this.a), ...at(this.b), width, height, half, low, gain);
    const halved = (pixels: number) => Math.round((pixels * unit) / 2);
    const grown = making.grow === 0 ? 0 : Math.max(1, halved(MORE * Math.abs(making.grow)));
    const radius = Math.max(grown, halved(making.clean));
    if (radius > 0) {
      this.mean(radius);
      const level = 128 - (128 * making.grow * unit) / 2 / (radius + 0.5);
      kernels.steepen(half, across * down, Math.round(level), STEEP);
    }
    const soft = halved(making.feather / 2);
    if (soft > 0) this.mean(soft);
    return new Uint8Array(this.memory.buffer, half, across * down).slice();
  }

  /** A matte over a picture of `width` x `height` pixels; good until the next. */
  spread(
    mask: HalfMask,
    { inverted, moved = [0, 0] }: Pick<DrawnMatte, 'inverted' | 'moved'>,
    width: number,
    height: number,
    unit: number,
  ): Uint8Array {
    const { across, down, kernels } = this;
    new Uint8Array(this.memory.buffer, this.half, mask.length).set(mask);
    const fixed = (value: number) => Math.round(65_536 * value);
    const [sx, sy] = [this.width / 2 / width, this.height / 2 / height];
    const [cx, cy] = [(0.5 - moved[0] * unit) * sx - 0.5, (0.5 - moved[1] * unit) * sy - 0.5];
    const beyond = moved[0] === 0 && moved[1] === 0 ? 1 : 0;
    kernels.spread(
      ...([this.half, across, down, this.out, width, height] as const),
      ...([fixed(sx), fixed(cx), fixed(sy), fixed(cy), beyond, inverted ? 255 : 0] as const),
      this.sums,
    );
    return new Uint8Array(this.memory.buffer, this.out, width * height);
  }

  private mean(radius: number): void {
    const { across, down, kernels, half, other, sums } = this;
    kernels.meanAcross(half, other, across, down, radius);
    kernels.meanDown(other, half, across, down, radius, sums);
  }

  private moved(plate: Planes, held: NonNullable<Making['held']>, unit: number): Planes {
    const { width, height } = this;
    this.putter ??= new Putter(width, height, false);
    this.put ??= planesIn(new Uint8Array(planesBytes(width, height)), width, height);
    const map = { ...held, x: held.x * unit, y: held.y * unit };
    this.putter.put(plate, this, map, 'mirrored', this.put);
    return this.put;
  }

  private bring({ y, u, v }: Planes, at: number): void {
    const bytes = new Uint8Array(this.memory.buffer);
    bytes.set(y, at);
    bytes.set(u, at + y.length);
    bytes.set(v, at + y.length + u.length);
  }
}
