import { type Repeated, repeatsIn } from '@skipback/core/plan/repeats';
import type { FrameSets } from '../frames/frame-sets';
import type { RenderJob } from './messages';

/** Frames a period lasts at least to be encoded once: every repetition begins with a key frame, which is large. */
export const LEAST_PERIOD = 24;
/** Bytes of packets that are kept to be repeated, at most; what comes to more is encoded as often as it is shown. */
const MOST_KEPT_BYTES = 256 << 20;

/** What of a file is encoded, and how often it is written. */
export interface EncodePlan {
  /** The result's stretches; those that repeat are encoded once. */
  readonly runs: readonly Repeated[];
  /** How often the whole result's packets are written. */
  readonly loops: number;
  /** Result frames in the order in which they are encoded. */
  readonly positions: Int32Array;
  /** Places in `positions` that have to be key frames: where a run begins, and the result's cuts. */
  readonly keys: ReadonlySet<number>;
  /** Whether packets have to be kept. */
  readonly keeps: boolean;
}

/** Plans a file: each period that repeats is encoded once, if its packets can be kept. `bytesPerFrame` is what a frame comes to. */
export function encodePlan(
  { settings, cuts, repeats }: Pick<RenderJob, 'settings' | 'cuts' | 'repeats'>,
  sets: FrameSets,
  bytesPerFrame: number,
): EncodePlan {
  const count = sets.length;
  const plainly = [{ first: 0, period: count, times: 1 }];
  const fits = (frames: number) => repeats !== 'encoded' && frames * bytesPerFrame < MOST_KEPT_BYTES;
  const found = repeats === 'encoded' ? plainly : repeatsIn(contentOf(sets), LEAST_PERIOD);
  const kept = found.reduce((sum, r) => sum + (r.times > 1 ? r.period : 0), 0);
  const runs = fits(kept) ? found : plainly;
  const loopOnce = settings.loops > 1 && count >= LEAST_PERIOD && fits(count);
  const encodedLoops = loopOnce ? 1 : settings.loops;
  const once = runs.flatMap((r) => Array.from({ length: r.period }, (_, i) => r.first + i));
  const positions = Int32Array.from({ length: once.length * encodedLoops }, (_, i) => once[i % once.length]!);
  const isCut = new Set(cuts);
  const begins = new Set(runs.map((r) => r.first));
  const keys = new Set<number>();
  positions.forEach((p, i) => {
    if (isCut.has(p) || (begins.has(p) && runs.length > 1) || p === 0) keys.add(i);
  });
  return {
    runs: Array.from({ length: encodedLoops }, () => runs).flat(),
    loops: loopOnce ? settings.loops : 1,
    positions,
    keys,
    keeps: loopOnce || runs.some((r) => r.times > 1),
  };
}

/** For every frame of the file the place in `positions` of the one it shows. */
export function encodedPlaces({ runs }: EncodePlan): (frame: number) => number {
  const row: number[] = [];
  let begins = 0;
  for (const { period, times } of runs) {
    for (let t = 0; t < times; t++) for (let i = 0; i < period; i++) row.push(begins + i);
    begins += period;
  }
  return (frame) => row[frame % row.length]!;
}

/** A number for every result frame, equal where their pictures are. */
function contentOf(sets: FrameSets): ArrayLike<number> {
  if (sets.isAllPlain) return sets.numbers;
  const known = new Map<string, number>();
  return Int32Array.from({ length: sets.length }, (_, i) => {
    const key = sets.keyOf(i);
    const place = known.get(key) ?? known.size;
    known.set(key, place);
    return place;
  });
}
