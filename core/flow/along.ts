import { WHOLE } from '../gather/gather';
import { type Kernels, loadKernels } from '../pixels/kernels/module';
import { halfOf, planesBytes } from '../pixels/planes';
import { type FieldSize, PAD, PARTS, fieldBytes, fieldSize } from './field';

/** Makes pictures that lie between two others along their motion. Its memory is taken once. */
export class AlongMotion {
  readonly size: FieldSize;
  private readonly kernels: Kernels;
  private readonly memory: { readonly buffer: ArrayBuffer };
  private readonly stride: number;
  private readonly at: Readonly<
    Record<'a' | 'b' | 'out' | 'field' | 'greyA' | 'greyB' | 'cells' | 'costs' | 'maps' | 'row', number>
  >;

  /** Throws for pictures too small for motion (`fieldSize`). */
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    const size = fieldSize(width, height);
    if (!size) throw new RangeError('a picture this small has no motion');
    this.size = size;
    this.stride = (size.width + 2 * PAD + 15) & ~15;
    const cells = size.width * size.height;
    const grey = this.stride * (size.height + 2 * PAD) + 16;
    const picture = planesBytes(width, height) + 16;
    let end = 1024;
    const take = (bytes: number): number => {
      const at = end;
      end += (bytes + 15) & ~15;
      return at;
    };
    const inside = PAD * this.stride + PAD;
    this.at = {
      ...{ a: take(picture), b: take(picture), out: take(picture), field: take(fieldBytes(size)) },
      ...{ greyA: take(grey) + inside, greyB: take(grey) + inside },
      ...{
        cells: take(8 * cells),
        costs: take(2 * cells),
        maps: take(16 * cells),
        row: take(16 * size.width),
      },
    };
    ({ kernels: this.kernels, memory: this.memory } = loadKernels(end));
  }

  /**
   * The picture `share` 32768ths from the first to the second (I420), into `out`. Where the motion is not to be trusted
   * it is their mean. Gives the part of
   * what moves whose motion was needed and not trusted, and that is seen twice, 0 to 1.
   */
  picture(first: Uint8Array, second: Uint8Array, field: Uint8Array, share: number, out: Uint8Array): number {
    const { at, size } = this;
    const cells = size.width * size.height;
    const bytes = new Uint8Array(this.memory.buffer);
    bytes.set(first, at.a);
    bytes.set(second, at.b);
    bytes.set(field, at.field);
    for (const [from, to] of [
      [PARTS.first, at.greyA],
      [PARTS.second, at.greyB],
    ] as const) {
      for (let y = 0; y < size.height; y++) {
        const row = at.field + from * cells + y * size.width;
        bytes.copyWithin(to + y * this.stride, row, row + size.width);
      }
      this.kernels.surround(to, size.width, size.height, this.stride);
    }
    const { kernels } = this;
    kernels.clear(at.cells, at.costs, cells);
    const part = (p: keyof typeof PARTS) => at.field + PARTS[p] * cells;
    const grid = [size.width, size.height] as const;
    kernels.carry(part('forward'), part('forwardMarks'), ...grid, share, 1, at.cells, at.costs);
    kernels.carry(part('backward'), part('backwardMarks'), ...grid, WHOLE - share, 2, at.cells, at.costs);
    const lost = kernels.judge(at.greyA, at.greyB, ...grid, this.stride, share, at.cells, at.maps);
    const [luma, chroma] = [this.width * this.height, halfOf(this.width) * halfOf(this.height)];
    const planes = [
      [0, this.width, this.height, size.by],
      [luma, halfOf(this.width), halfOf(this.height), size.by / 2],
      [luma + chroma, halfOf(this.width), halfOf(this.height), size.by / 2],
    ] as const;
    for (const [from, w, h, by] of planes)
      kernels.warp(at.a + from, at.b + from, w, h, by, share, at.cells, ...grid, at.out + from, at.row);
    out.set(bytes.subarray(at.out, at.out + out.length));
    return lost / 65_536;
  }
}
