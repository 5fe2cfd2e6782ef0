import { type Kernels, loadKernels } from '../pixels/kernels/module';
import { type FieldSize, PAD, PARTS, fieldBytes, fieldSize } from './field';

/** Bytes of a patch's record, and pixels from one patch to the next. */
const RECORD = 16;
/** The coarsest level has its shorter side at least so long. */
const COARSEST = 20;
/** Pixels of the coarsest level within which patches are looked for. */
const REACH = 4;
const ITERATIONS = 8;
/** Levels that are searched end with this one, 0 being the size in which motion is looked for. */
const FINEST = 1;

interface Level {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  /** Where its first pixel is, in the first and in the second picture. */
  readonly at: readonly [number, number];
  /** Where its patches are, forward and backward. */
  readonly patches: readonly [number, number];
}

/** Finds the motion between pictures of one size, both ways. Its memory is taken once. */
export class MotionFinder {
  readonly size: FieldSize;
  private readonly kernels: Kernels;
  private readonly memory: { readonly buffer: ArrayBuffer };
  private readonly levels: readonly Level[];
  private readonly sources: readonly [number, number];
  private readonly dense: readonly [number, number];
  private readonly spare: number;
  private readonly sums: number;
  private readonly field: number;

  /** Throws for pictures too small for motion (`fieldSize`). */
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    const size = fieldSize(width, height);
    if (!size) throw new RangeError('a picture this small has no motion');
    this.size = size;
    let end = 1024;
    const take = (bytes: number): number => {
      const at = end;
      end += (bytes + 15) & ~15;
      return at;
    };
    this.sources = [take(width * height), take(width * height)];
    let [w, h] = [Math.ceil(width / size.shrunk), Math.ceil(height / size.shrunk)];
    const levels: Level[] = [];
    for (;;) {
      const stride = (w + 2 * PAD + 15) & ~15;
      const room = () => take(stride * (h + 2 * PAD) + 16) + PAD * stride + PAD;
      const records = () => take(RECORD * (Math.ceil(w / 4) + 1) * (Math.ceil(h / 4) + 1));
      levels.push({ width: w, height: h, stride, at: [room(), room()], patches: [records(), records()] });
      if (levels.length > FINEST && Math.min(w, h) < 2 * COARSEST) break;
      [w, h] = [Math.ceil(w / 2), Math.ceil(h / 2)];
    }
    this.levels = levels;
    const cells = size.width * size.height;
    this.dense = [take(8 * cells), take(8 * cells)];
    this.spare = take(8 * cells);
    this.sums = take(12 * cells);
    this.field = take(fieldBytes(size));
    ({ kernels: this.kernels, memory: this.memory } = loadKernels(end));
  }

  /** The field of the motion between two pictures' brightness, into `out` of `fieldBytes`. */
  find(first: Uint8Array, second: Uint8Array, out: Uint8Array): void {
    const { kernels, size, levels } = this;
    [first, second].forEach((luma, p) => {
      new Uint8Array(this.memory.buffer, this.sources[p], luma.length).set(luma);
      const top = levels[0]!;
      kernels.shrink(
        this.sources[p]!,
        this.width,
        this.height,
        this.width,
        size.shrunk,
        top.at[p]!,
        top.stride,
      );
      levels.slice(1).forEach((to, i) => {
        const from = levels[i]!;
        kernels.shrink(from.at[p]!, from.width, from.height, from.stride, 2, to.at[p]!, to.stride);
      });
    });
    const finest = levels[FINEST]!;
    for (const way of [0, 1] as const) {
      const other = way === 0 ? 1 : 0;
      for (let l = levels.length - 1; l >= FINEST; l--) {
        const level = levels[l]!;
        const coarse = levels[l + 1];
        kernels.search(
          ...([level.at[way], level.at[other], level.width, level.height, level.stride] as const),
          ...([coarse?.patches[way] ?? 0, coarse?.width ?? 0, coarse?.height ?? 0] as const),
          ...([level.patches[way], 16, REACH, ITERATIONS] as const),
        );
      }
      const { at, width, height, stride, patches } = finest;
      kernels.densify(at[way], at[other], width, height, stride, patches[way], this.spare, this.sums);
      kernels.median(this.spare, width, height, this.dense[way]);
    }
    const cells = size.width * size.height;
    for (const way of [0, 1] as const) {
      const other = way === 0 ? 1 : 0;
      const { at, width, height, stride } = finest;
      kernels.check(
        ...([at[way], at[other], width, height, stride, this.dense[way], this.dense[other]] as const),
        this.field + (way === 0 ? PARTS.forward : PARTS.backward) * cells,
        this.field + (way === 0 ? PARTS.forwardMarks : PARTS.backwardMarks) * cells,
      );
      const grey = this.field + (way === 0 ? PARTS.first : PARTS.second) * cells;
      const bytes = new Uint8Array(this.memory.buffer);
      for (let y = 0; y < height; y++)
        bytes.copyWithin(grey + y * width, at[way] + y * stride, at[way] + y * stride + width);
    }
    out.set(new Uint8Array(this.memory.buffer, this.field, fieldBytes(size)));
  }
}
