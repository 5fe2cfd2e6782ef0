import { fieldBytes, fieldSize } from '@skipback/core/flow/field';
import { WHOLE } from '@skipback/core/gather/gather';
import { budgets } from '../budgets';
import type { FrameParts, Made, Side } from '../frames/frame-sets';
import type { DrawJob, DrawnMade, DrawnSide } from '../pixels/draw-job';
import type { FieldShelf } from './field-shelf';
import type { PixelPool } from '../pixels/pixel-pool';

/**
 * The pictures that a result frame's job takes, of those of its frames in the order of `FrameSets.framesOf`; with the
 * motion between them where `fields` are given, and mixed where not.
 */
export async function jobOf(
  parts: FrameParts,
  pictures: readonly Uint8Array[],
  fields: Fields | undefined,
): Promise<DrawnSide & Pick<DrawJob, 'other'>> {
  let taken = 0;
  const picture = async ({ frames, gather }: Made): Promise<DrawnMade> => {
    const sources = pictures.slice(taken, (taken += frames.length));
    if (!gather?.along || !fields) return { sources, weights: gather?.weights };
    const found = await fields.of({ first: frames[0]!, along: gather.along }, sources);
    const along = found && { instants: gather.along, fields: found };
    return { sources, weights: gather.weights, along };
  };
  // One after the other, as their frames lie.
  const all = async (layers: readonly Made[]): Promise<DrawnMade[]> => {
    const drawn: DrawnMade[] = [];
    for (const layer of layers) drawn.push(await picture(layer));
    return drawn;
  };
  const side = async (made: Side): Promise<DrawnSide> => ({
    ...(await picture(made)),
    stack: made.stack,
    layers: await all(made.layers),
    content: contentOf(made),
  });
  const own = await side(parts);
  if (!parts.other) return own;
  const { share, over } = parts.other;
  const other = await side(parts.other);
  const content = `${share} ${own.content} ${other.content}`;
  return {
    ...own,
    other: { ...other, share, over: { stack: over.stack, layers: await all(over.layers), content } },
  };
}

const contentOf = ({ frames, gather }: Made): string =>
  gather ? `${frames.join()}:${gather.weights.join()}:${gather.along?.join() ?? ''}` : `${frames[0]}`;

/** One picture between frames: the number of its first source in the row of clips, and its instants (`Gather.along`). */
export interface AlongJob {
  readonly first: number;
  readonly along: readonly number[];
}

/** The pictures along the motion that go into a result frame. */
export const alongIn = ({ other, ...own }: FrameParts): AlongJob[] =>
  [own, ...own.layers, ...(other ? [other, ...other.layers, ...other.over.layers] : [])].flatMap(
    ({ frames, gather }) => (gather?.along ? [{ first: frames[0]!, along: gather.along }] : []),
  );

/** The pairs whose motion a picture needs, by their places in its sources. */
export function pairsOf(along: readonly number[]): number[] {
  return [...new Set(along.flatMap((a) => (a % WHOLE === 0 ? [] : [Math.floor(a / WHOLE)])))];
}

/**
 * The motion between pairs of frames, worked out once for all trips and both directions and kept while there is room:
 * what was used last stays. Pairs go by the number of their first frame in the row of clips.
 */
export class Fields {
  private readonly kept = new Map<number, Promise<Uint8Array>>();
  private readonly there = new Set<number>();
  private readonly most: number;
  private readonly bytes: number;
  /** Pairs whose motion was worked out, and those that lay on the shelf. */
  found = 0;
  read = 0;

  constructor(
    private readonly pool: PixelPool,
    private readonly width: number,
    private readonly height: number,
    /** Where fields are kept for the next visit, and under which text a pair's is, by its number. */
    private readonly visits?: { readonly shelf: FieldShelf; readonly keyOf: (number: number) => string },
    budgetBytes = budgets.fields,
  ) {
    const size = fieldSize(width, height);
    this.bytes = size ? fieldBytes(size) : 0;
    this.most = size ? Math.max(4, Math.floor(budgetBytes / this.bytes)) : 0;
  }

  /** Whether a picture's motion is there already, or there is none to be found. */
  has({ first, along }: AlongJob): boolean {
    return this.most === 0 || pairsOf(along).every((p) => this.there.has(first + p));
  }

  /**
   * The fields of a picture between its sources, which lie in a row; empty where it needs none of a pair. Undefined for
   * pictures too small for motion.
   */
  async of(
    { first, along }: AlongJob,
    sources: readonly Uint8Array[],
  ): Promise<readonly (Uint8Array | undefined)[] | undefined> {
    if (this.most === 0) return undefined;
    const pairs = pairsOf(along);
    return Promise.all(
      sources
        .slice(1)
        .map((second, p) => (pairs.includes(p) ? this.pair(first + p, sources[p]!, second) : undefined)),
    );
  }

  private async pair(number: number, first: Uint8Array, second: Uint8Array): Promise<Uint8Array> {
    const known = this.kept.get(number);
    if (known) {
      this.kept.delete(number);
      this.kept.set(number, known);
      return known;
    }
    const found = this.look(number, first, second);
    this.kept.set(number, found);
    for (const oldest of this.kept.keys()) {
      if (this.kept.size <= this.most) break;
      this.kept.delete(oldest);
      this.there.delete(oldest);
    }
    try {
      const field = await found;
      if (this.kept.get(number) === found) this.there.add(number);
      return field;
    } catch (error) {
      this.kept.delete(number);
      throw error;
    }
  }

  private async look(number: number, first: Uint8Array, second: Uint8Array): Promise<Uint8Array> {
    const key = this.visits?.keyOf(number);
    const lay = key && (await this.visits?.shelf.get(key));
    if (lay && lay.length === this.bytes) {
      this.read++;
      const field = this.pool.sourceBytes(lay.length);
      field.set(lay);
      return field;
    }
    this.found++;
    const field = await this.pool.motion(first, second, this.width, this.height);
    if (key) this.visits?.shelf.put(key, field);
    return field;
  }
}
