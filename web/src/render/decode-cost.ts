import type { CompiledProject } from '@skipback/core/project/compile';
import { planCost } from '@skipback/core/plan/decode-plan';
import { heldWhileRendering } from '@skipback/media/budgets';
import { ClipRow } from '@skipback/media/frames/clip-row';
import { resultOf } from '../state/compiled';
import type { LoadedClip } from '../state/library';

/** Result frames that are looked at: as many tell of all. */
const LOOKED_AT = 2000;
/** From so many decodes a frame on it is worth a word. */
const DEAR = 1.5;

/** How often each different frame is decoded for a file, and how many pictures are held at once meanwhile. */
export interface DecodeCost {
  readonly times: number;
  readonly held: number;
}

/**
 * What going backward through long groups of pictures costs where few of them fit in memory: undefined where each frame is
 * decoded about once. Of a result's own frames; those that are mixed in from beside them are not counted.
 */
export function decodeCost(
  compiled: CompiledProject,
  clips: readonly LoadedClip[],
  size: { readonly width: number; readonly height: number },
): DecodeCost | undefined {
  const { arrays, sources } = resultOf(compiled, clips);
  const row = new ClipRow(sources);
  const count = Math.min(LOOKED_AT, compiled.totalFrames);
  const wanted = Int32Array.from({ length: count }, (_, i) => {
    const start = row.starts[arrays.clipPlaces[i]!];
    return start === undefined ? -1 : start + arrays.clipFrames[i]!;
  }).filter((n) => n >= 0);
  if (wanted.length === 0) return undefined;
  const held = heldWhileRendering(size);
  const request = { wanted, loops: false, start: 0, keys: row.keys, clipStarts: row.starts, held: [] };
  const { decoded } = planCost({ ...request, capacity: held }, wanted.length);
  // What lies between a span and its key frame has to be decoded once whatever fits.
  const least = planCost({ ...request, capacity: wanted.length }, wanted.length).decoded;
  const times = decoded / least;
  return times >= DEAR ? { times, held } : undefined;
}

/** The cost in words. */
export const costWords = (
  { times, held }: DecodeCost,
  { width, height }: { readonly width: number; readonly height: number },
): string =>
  `Going backward takes longer at this size: ${held} pictures of ${width} by ${height} fit in memory at once, so each frame is decoded ${times.toFixed(1)} times. A smaller size is quicker.`;
