import type { Gather } from '../gather/gather';
import type { Layer, Surface } from '../pixels/surface';
import { bytesOf } from './cube';
import { treatmentById } from './registry';
import type { Drawn } from './resolve';
import type { Tables } from './treatment';

/**
 * Draws a row of treatments on a surface, in its order. `unit` is how many of its pixels one of the project's is;
 * `layers` are the pictures that the treatments name, one after the other.
 */
export function drawStack(
  surface: Surface,
  stack: readonly Drawn[],
  unit: number,
  tables: Tables,
  layers: readonly Layer[] = [],
): void {
  let from = 0;
  for (const drawn of stack) {
    const { look, drawing, share, mask } = drawn;
    const own = layers.slice(from, (from += layersOf(drawn).length));
    const draw = () =>
      drawing['madeOf']
        ? surface.lay(own[0]!)
        : treatmentById(look)?.draw(surface, drawing, unit, tables, own);
    if (mask) surface.within(mask, unit, share, draw);
    else surface.share(share, draw);
  }
}

const NONE: readonly Gather[] = [];

/** The pictures, of its own clip, that a treatment lays over the picture. */
export const layersOf = ({ drawing }: Drawn): readonly Gather[] =>
  (drawing['layers'] as readonly Gather[] | undefined) ?? NONE;

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
