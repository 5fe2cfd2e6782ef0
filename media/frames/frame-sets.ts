import { type Gather, gatherKey } from '@skipback/core/gather/gather';
import { framesOf } from '@skipback/core/looks/draw';
import type { OtherSide, Recipes } from '@skipback/core/looks/recipes';
import type { Drawn } from '@skipback/core/looks/resolve';
import type { ClipRow } from './clip-row';

/** What a result's frames are made of, as numbers of a row of clips. */
export interface SetSource {
  /** For each result frame a place in a list of clips and a frame of it. */
  readonly clipPlaces: Int32Array;
  readonly clipFrames: Int32Array;
  readonly recipes: Recipes;
}

/** One picture before it is drawn: the frames it is made of, how, and its treatments with the frames they lay over it. */
export interface Side {
  readonly frames: readonly number[];
  readonly gather: Gather | undefined;
  readonly stack: readonly Drawn[];
  readonly layers: readonly number[];
}

/** All that goes into a result frame. */
export interface FrameParts extends Side {
  /** At a dissolve the other picture, its share in 32768ths, and what is drawn on both together. */
  readonly other:
    (Side & { readonly share: number; readonly over: Pick<Side, 'stack' | 'layers'> }) | undefined;
}

/** The source frames of every result frame, as the planner takes them. */
export class FrameSets {
  /** For each result frame the number of the frame it shows, or would show if nothing were mixed. */
  readonly numbers: Int32Array;
  private readonly any: boolean;
  /** For every stack of treatments the frames that it lays over a picture. */
  private readonly layers: readonly (readonly number[])[];
  /** Where the clips of other sides begin. */
  private readonly otherStarts: readonly number[];
  /** The text of each stack. */
  private readonly stackKeys: readonly string[];

  /** `clipIds` are what `clipPlaces` count. Throws where a clip is not in the row. */
  constructor(
    row: ClipRow,
    clipIds: readonly string[],
    private readonly source: SetSource,
  ) {
    const starts = clipIds.map((id) => row.numberOf(id, 0) ?? -1);
    const started = (start: number) => {
      if (start < 0) throw new RangeError('a result frame is of no clip');
      return start;
    };
    this.numbers = source.clipFrames.map((frame, i) => started(starts[source.clipPlaces[i]!] ?? -1) + frame);
    const { gathers, stacks, others } = source.recipes;
    this.otherStarts = others.map(({ clipId }, i) => (i === 0 ? 0 : started(row.numberOf(clipId, 0) ?? -1)));
    this.layers = stacks.map((stack) => stack.flatMap(framesOf));
    this.stackKeys = stacks.map((stack) => JSON.stringify(stack));
    this.any = gathers.length > 1 || others.length > 1 || this.layers.some((l) => l.length > 0);
  }

  get length(): number {
    return this.numbers.length;
  }

  /** All that goes into a result frame, in numbers of the row. */
  partsOf(position: number): FrameParts {
    const { recipes, clipFrames } = this.source;
    const number = this.numbers[position]!;
    const start = number - clipFrames[position]!;
    const own = this.side(number, start, recipes.gatherOf[position] ?? 0, recipes.stackOf[position] ?? 0);
    const other = this.otherAt(position);
    if (!other) return { ...own, other: undefined };
    const begins = this.otherStarts[recipes.otherOf[position]!]!;
    const over = {
      stack: recipes.stacks[other.over]!,
      layers: this.layers[other.over]!.map((f) => start + f),
    };
    const side = this.side(begins + other.frame, begins, other.gather, other.stack);
    return { ...own, other: { ...side, share: other.share, over } };
  }

  private side(number: number, start: number, gatherPlace: number, stackPlace: number): Side {
    const { gathers, stacks } = this.source.recipes;
    const gather = gatherPlace === 0 ? undefined : gathers[gatherPlace];
    return {
      frames: gather?.frames.map((f) => start + f) ?? [number],
      gather,
      stack: stacks[stackPlace]!,
      layers: this.layers[stackPlace]!.map((f) => start + f),
    };
  }

  private otherAt(position: number): OtherSide | undefined {
    const place = this.source.recipes.otherOf[position] ?? 0;
    return place === 0 ? undefined : this.source.recipes.others[place];
  }

  /** The numbers that go into a result frame, in the order in which `partsOf` has them. */
  framesOf(position: number): readonly number[] {
    if (!this.any) return [this.numbers[position]!];
    return allOf(this.partsOf(position));
  }

  /** Whether a result frame is a source frame as it is. */
  isPlain(position: number): boolean {
    const { stackOf, gatherOf, otherOf } = this.source.recipes;
    return !stackOf[position] && !gatherOf[position] && !otherOf[position];
  }

  /** Whether some of a result frame's picture is made along the motion. */
  moves(position: number): boolean {
    const { gathers, gatherOf } = this.source.recipes;
    const along = (place: number | undefined) => gathers[place ?? 0]!.along !== undefined;
    return along(gatherOf[position]) || along(this.otherAt(position)?.gather);
  }

  /** What a result frame is, in a text: equal texts, equal pictures. */
  keyOf(position: number): string {
    const { recipes } = this.source;
    const number = this.numbers[position]!;
    const start = number - this.source.clipFrames[position]!;
    const made = (n: number, from: number, place: number, stack: number) =>
      `${place === 0 ? n : gatherKey(recipes.gathers[place]!, from)} ${this.stackKeys[stack]}`;
    const own = made(number, start, recipes.gatherOf[position] ?? 0, recipes.stackOf[position] ?? 0);
    const other = this.otherAt(position);
    if (!other) return own;
    const begins = this.otherStarts[recipes.otherOf[position]!]!;
    const second = made(begins + other.frame, begins, other.gather, other.stack);
    return `${own} + ${other.share} ${second} ${this.stackKeys[other.over]}`;
  }

  /** Result frames in an order, for a plan: their frames in a row, and where each one's end. */
  inOrder(positions: ArrayLike<number>): { wanted: Int32Array; ends: Int32Array | undefined } {
    if (!this.any) return { wanted: Int32Array.from(positions, (p) => this.numbers[p]!), ends: undefined };
    const wanted: number[] = [];
    const ends = Int32Array.from(positions, (p) => {
      wanted.push(...this.framesOf(p));
      return wanted.length;
    });
    return { wanted: Int32Array.from(wanted), ends };
  }
}

const allOf = ({ frames, layers, other }: FrameParts): number[] => [
  ...frames,
  ...layers,
  ...(other ? [...other.frames, ...other.layers, ...other.over.layers] : []),
];
