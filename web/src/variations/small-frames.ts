import type { Gather } from '@skipback/core/gather/gather';
import { layersOf } from '@skipback/core/looks/draw';
import type { Drawn } from '@skipback/core/looks/resolve';
import type { DrawnMade } from '@skipback/media/pixels/draw-job';
import type { PixelPool } from '@skipback/media/pixels/pixel-pool';

/** What one frame of a small loop is made of, and what is drawn on it. */
export interface SmallFrame {
  readonly made: Gather;
  readonly stack: readonly Drawn[];
  readonly layers: readonly Gather[];
}

/** A frame as small loops draw it: what other clips bring in is not decoded for them. */
export function smallFrame(made: Gather, drawn: readonly Drawn[]): SmallFrame {
  const stack = drawn.filter((d) => layersOf(d).every((l) => l.of === undefined));
  return { made, stack, layers: stack.flatMap(layersOf) };
}

/** Source frames that a frame needs. */
export const framesOfSmall = ({ made, layers }: SmallFrame): number[] =>
  [made, ...layers].flatMap((g) => g.frames);

/**
 * Draws a frame from small pictures, `rgbaOf` giving their pixels by source frame; undefined while one of them is not there.
 * `unit` is how many of its pixels one of the project's is. Along the motion is mixed: as small as they are it is hardly seen.
 */
export function drawSmall(
  pool: PixelPool,
  frame: SmallFrame,
  rgbaOf: (frame: number) => Uint8Array | undefined,
  size: { readonly width: number; readonly height: number },
  unit: number,
): ReturnType<PixelPool['draw']> | undefined {
  const read = ({ frames, weights }: Gather): DrawnMade | undefined => {
    const sources: Uint8Array[] = [];
    for (const f of frames) {
      const picture = rgbaOf(f);
      if (!picture) return undefined;
      sources.push(picture);
    }
    return { sources, weights: frames.length > 1 ? weights : undefined };
  };
  const made = read(frame.made);
  if (!made) return undefined;
  return pool.draw({
    ...made,
    layers: frame.layers.flatMap((layer) => read(layer) ?? []),
    stack: frame.stack,
    ...{ from: 'rgba', into: 'rgba', ...size, coarseness: 1, unit },
  });
}
