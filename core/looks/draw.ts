import type { Gather } from '../gather/gather';
import type { Layer, Surface } from '../pixels/surface';
import { bytesOf } from '../base64';
import { treatmentById } from './registry';
import type { Drawn } from './resolve';
import type { Tables } from './treatment';

/**
 * Draws a row of treatments on a surface, in its order. `unit` is how many of its pixels one of the project's is;
 * `layers` are the pictures that the treatments name, one after the other; `matteOf` gives the points of one's matte.
 */
export function drawStack(
  surface: Surface,
  stack: readonly Drawn[],
  unit: number,
  tables: Tables,
  layers: readonly Layer[] = [],
  matteOf?: (drawn: Drawn) => Uint8Array | undefined,
): void {
  let from = 0;
  for (const drawn of stack) {
    const { look, drawing, share, mask } = drawn;
    const matte = drawn.matte && matteOf?.(drawn);
    if (drawn.matte && !matte) continue;
    const own = layers.slice(from, (from += layersOf(drawn).length));
    const draw = () =>
      drawing['madeOf']
        ? surface.lay(own[0]!)
        : treatmentById(look)?.draw(surface, drawing, unit, tables, own);
    if (mask || matte) surface.within({ mask, matte }, unit, share, draw);
    else surface.share(share, draw);
  }
}

const NONE: readonly Gather[] = [];

/** The pictures that a treatment lays over the picture, and last the plate of its matte. */
export function layersOf({ drawing, matte }: Drawn): readonly Gather[] {
  const own = (drawing['layers'] as readonly Gather[] | undefined) ?? NONE;
  return matte ? [...own, matte.plate] : own;
}

/** Colour tables by their keys, each read once. */
export function tablesOf(known: Readonly<Record<string, string>>): Tables {
  const read = new Map<string, Uint8Array>();
  return (key) => {
    const data = known[key];
    if (data === undefined) return undefined;
    let bytes = read.get(key);
    if (!bytes) read.set(key, (bytes = bytesOf(data)));
    return bytes;
  };
}
