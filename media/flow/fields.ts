import { fieldBytes, fieldSize } from '@skipback/core/flow/field';
import { WHOLE } from '@skipback/core/gather/gather';
import type { FrameSets } from '../frames/frame-sets';
import type { DrawJob } from '../pixels/draw-job';
import type { PixelPool } from '../pixels/pixel-pool';

/** Bytes of motion that are kept. */
export const FIELDS_BUDGET_BYTES = 96 * 1024 * 1024;

/** One picture between frames: its sources, their numbers in the row of clips, and its instants (`Gather.along`). */
export interface AlongJob {
  readonly first: number;
  readonly along: readonly number[];
}

/** What the job of a result frame says of motion; undefined where it has none, or none can be found. */
export async function alongJob(
  fields: Fields,
  sets: FrameSets,
  position: number,
  sources: readonly Uint8Array[],
): Promise<DrawJob['along']> {
  const instants = sets.alongOf(position);
  if (!instants) return undefined;
  const found = await fields.of({ first: sets.framesOf(position)[0]!, along: instants }, sources);
  return found && { instants, fields: found };
}

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
  /** Pairs whose motion was worked out. */
  found = 0;

  constructor(
    private readonly pool: PixelPool,
    private readonly width: number,
    private readonly height: number,
    budgetBytes = FIELDS_BUDGET_BYTES,
  ) {
    const size = fieldSize(width, height);
    this.most = size ? Math.max(4, Math.floor(budgetBytes / fieldBytes(size))) : 0;
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
    this.found++;
    const found = this.pool.motion(first, second, this.width, this.height);
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
}
