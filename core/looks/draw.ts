import type { Surface } from '../pixels/surface';
import { bytesOf } from './cube';
import { treatmentById } from './registry';
import type { Drawn } from './resolve';
import type { Tables } from './treatment';

/** Draws a row of treatments on a surface, in its order. `unit` is how many of its pixels one of the project's is. */
export function drawStack(surface: Surface, stack: readonly Drawn[], unit: number, tables: Tables): void {
  for (const { look, drawing, share } of stack)
    surface.share(share, () => treatmentById(look)?.draw(surface, drawing, unit, tables));
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
