import { type Gather, gatherKey } from '@skipback/core/gather/gather';
import { layersOf } from '@skipback/core/looks/draw';
import { type OtherSide, type Recipes, isTreated } from '@skipback/core/looks/recipes';
import type { Drawn } from '@skipback/core/looks/resolve';
import type { ClipRow } from './clip-row';

/** What a result's frames are made of, as numbers of a row of clips. */
export interface SetSource {
  /** For each result frame a place in a list of clips and a frame of it. */
  readonly clipPlaces: Int32Array;
  readonly clipFrames: Int32Array;
  readonly recipes: Recipes;
}

/** A picture of source frames: which, and how they make it; undefined where it is the one frame. */
export interface Made {
  readonly frames: readonly number[];
  readonly gather: Gather | undefined;
}

/** One picture before it is drawn: what it is made of, and its treatments with what they lay over it. */
export interface Side extends Made {
  readonly stack: readonly Drawn[];
  readonly layers: readonly Made[];
}

/** All that goes into a result frame. */
export interface FrameParts extends Side {
  /** At a dissolve the other picture, its share in 32768ths, and what is drawn on both together. */
  readonly other:
    | (Side & { readonly share: number; readonly over: Pick<Side, 'stack' | 'layers'> })
    | undefined;
}

/** The source frames of every result frame, as the planner takes them. */
export class FrameSets {
  /** For each result frame the number of the frame it shows, or would show if nothing were mixed. */
  readonly numbers: Int32Array;
  private readonly any: boolean;
  /** For every stack of treatments what it lays over a picture. */
  private readonly layers: readonly (readonly Gather[])[];
  /** Where the sources begin that they name. */
  private readonly broughtStarts = new Map<string, number>();
  /** Where the clips of other sides begin. */
  private readonly otherStarts: readonly number[];
  /** Texts of result frames, as far as they were asked for. */
  private readonly keys: string[] = [];
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
    this.layers = stacks.map((stack) => stack.flatMap(layersOf));
    for (const { of } of this.layers.flat())
      if (of !== undefined && !this.broughtStarts.has(of))
        this.broughtStarts.set(of, started(row.numberOf(of, 0) ?? -1));
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
      layers: this.layersAt(start, other.over),
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
      layers: this.layersAt(start, stackPlace),
    };
  }

  private layersAt(start: number, stackPlace: number): Made[] {
    return this.layers[stackPlace]!.map((gather) => {
      const from = gather.of === undefined ? start : this.broughtStarts.get(gather.of)!;
      return {
        frames: gather.frames.map((f) => from + f),
        gather: gather.frames.length > 1 ? gather : undefined,
      };
    });
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

  /** Whether every result frame is a source frame as it is. */
  get isAllPlain(): boolean {
    return !isTreated(this.source.recipes);
  }

  /** Whether some of a result frame's picture is made along the motion. */
  moves(position: number): boolean {
    const { gathers, gatherOf, stackOf } = this.source.recipes;
    const along = (gather: number | undefined, stack: number | undefined) =>
      gathers[gather ?? 0]!.along !== undefined || this.layers[stack ?? 0]!.some((l) => l.along);
    const other = this.otherAt(position);
    return (
      along(gatherOf[position], stackOf[position]) ||
      (other !== undefined && (along(other.gather, other.stack) || along(0, other.over)))
    );
  }

  /** What a result frame is, in a text: equal texts, equal pictures. */
  keyOf(position: number): string {
    return (this.keys[position] ??= this.keyMade(position));
  }

  private keyMade(position: number): string {
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

const framesIn = (layers: readonly Made[]): number[] => layers.flatMap((l) => l.frames);

const allOf = ({ frames, layers, other }: FrameParts): number[] => [
  ...frames,
  ...framesIn(layers),
  ...(other ? [...other.frames, ...framesIn(other.layers), ...framesIn(other.over.layers)] : []),
];
