import { gatherKey } from '@skipback/core/gather/gather';
import { framesOf } from '@skipback/core/looks/draw';
import type { Recipes } from '@skipback/core/looks/recipes';
import type { ClipRow } from './clip-row';

/** What a result's frames are made of, as numbers of a row of clips. */
export interface SetSource {
  /** For each result frame a place in a list of clips and a frame of it. */
  readonly clipPlaces: Int32Array;
  readonly clipFrames: Int32Array;
  readonly recipes: Pick<Recipes, 'gathers' | 'gatherOf' | 'stacks' | 'stackOf'>;
}

/** The source frames of every result frame, as the planner takes them. */
export class FrameSets {
  /** For each result frame the number of the frame it shows, or would show if nothing were mixed. */
  readonly numbers: Int32Array;
  private readonly any: boolean;
  /** For every stack of treatments the frames that it lays over a picture. */
  private readonly layers: readonly (readonly number[])[];

  /** `clipIds` are what `clipPlaces` count. Throws where a clip is not in the row. */
  constructor(
    row: ClipRow,
    clipIds: readonly string[],
    private readonly source: SetSource,
  ) {
    const starts = clipIds.map((id) => row.numberOf(id, 0) ?? -1);
    this.numbers = source.clipFrames.map((frame, i) => {
      const start = starts[source.clipPlaces[i]!] ?? -1;
      if (start < 0) throw new RangeError('a result frame is of no clip');
      return start + frame;
    });
    const { gathers, stacks } = source.recipes;
    this.layers = stacks.map((stack) => stack.flatMap(framesOf));
    this.any = gathers.length > 1 || this.layers.some((l) => l.length > 0);
  }

  get length(): number {
    return this.numbers.length;
  }

  /** The numbers that go into a result frame: what its picture is the mean of, then what is laid over that. */
  framesOf(position: number): readonly number[] {
    const number = this.numbers[position]!;
    const start = number - this.source.clipFrames[position]!;
    const own = this.gatherAt(position)?.frames.map((f) => start + f) ?? [number];
    const layers = this.layers[this.source.recipes.stackOf[position] ?? 0]!;
    return layers.length === 0 ? own : [...own, ...layers.map((f) => start + f)];
  }

  /** How many of them its picture is the mean of. */
  meanOf(position: number): number {
    return this.gatherAt(position)?.frames.length ?? 1;
  }

  /** How they are weighed, where there are several. */
  weightsOf(position: number): readonly number[] | undefined {
    return this.gatherAt(position)?.weights;
  }

  /** The instants of the pictures along the motion that it is the mean of, where it is made so. */
  alongOf(position: number): readonly number[] | undefined {
    return this.gatherAt(position)?.along;
  }

  /** What a result frame is made of, in a text: equal texts, equal pictures. */
  keyOf(position: number): string {
    const gather = this.gatherAt(position);
    if (!gather) return `${this.numbers[position]!}`;
    const start = this.numbers[position]! - this.source.clipFrames[position]!;
    return gatherKey(gather, start);
  }

  private gatherAt(position: number) {
    const place = this.source.recipes.gatherOf[position] ?? 0;
    return place === 0 ? undefined : this.source.recipes.gathers[place];
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
