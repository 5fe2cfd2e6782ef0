import { type Colour, SHARES, WORKING_COLOUR, differencesToRgb, sameColour } from './colour';
import { FREE_FROM, sharedKernels } from './kernels/shared';
import { type Planes, planesBytes, planesIn } from './planes';

/** Fixed point: one is this much. */
const ONE = 1 << 14;

/** What a value of one plane adds to one of another: a table over its 256 values, in fixed point. */
const table = (factor: number): Int32Array =>
  Int32Array.from({ length: 256 }, (_, c) => Math.round((c - 128) * factor * ONE));

/** The tables of the last colour asked for: clips come in long runs of one. */
let lastTables: { readonly from: Colour; readonly tables: readonly Int32Array[] } | undefined;

/** What brightness adds to brightness, each difference to it, and the differences to themselves and to one another. */
function tablesOf(from: Colour): readonly Int32Array[] {
  const { a, b, c, d, e, f } = between(from, WORKING_COLOUR);
  const [scaleY, baseY] = from.fullRange ? [219 / 255, 0] : [1, 16];
  const scaleC = from.fullRange ? 224 / 255 : 1;
  const yOfY = Int32Array.from({ length: 256 }, (_, y) =>
    Math.round(((y - baseY) * scaleY + 16) * ONE + ONE / 2),
  );
  // Differences are counted in 224ths, brightness in 219ths.
  const toBrightness = [a, b].map((factor) => table((factor * scaleC * 219) / 224));
  return [yOfY, ...toBrightness, ...[c, d, e, f].map((factor) => table(factor * scaleC))];
}

/**
 * Brings a picture's planes to BT.709 in limited range, in place. Grey stays grey in every matrix, so brightness
 * takes up a part of the differences and the differences one of each other: no way over red, green and blue is
 * needed. Integer arithmetic, rounded to the nearest.
 */
export function toWorkingColour(planes: Planes, from: Colour): void {
  if (!lastTables || !sameColour(lastTables.from, from)) lastTables = { from, tables: tablesOf(from) };
  const { tables } = lastTables;
  const { width, height } = planes;
  const begin = FREE_FROM + 4 * 256 * tables.length;
  const { kernels, buffer } = sharedKernels(begin + planesBytes(width, height));
  tables.forEach((table, i) => new Int32Array(buffer, FREE_FROM + 4 * 256 * i, 256).set(table));
  const there = planesIn(new Uint8Array(buffer, begin, planesBytes(width, height)), width, height);
  for (const plane of ['y', 'u', 'v'] as const) there[plane].set(planes[plane]);
  const { y, u, v } = there;
  kernels.recolour(y.byteOffset, u.byteOffset, v.byteOffset, width, height, FREE_FROM);
  for (const plane of ['y', 'u', 'v'] as const) planes[plane].set(there[plane]);
}

/** Factors from one matrix to another: y' = y + a u + b v, u' = c u + d v, v' = e u + f v, all as parts of one. */
function between(from: Colour, to: Colour) {
  const rgb = differencesToRgb(from.matrix);
  const { red, blue } = SHARES[to.matrix];
  const green = 1 - red - blue;
  // What a unit of each difference adds to red, green, blue and so to the new brightness.
  const a = green * rgb.greenOfCb + blue * rgb.blueOfCb;
  const b = red * rgb.redOfCr + green * rgb.greenOfCr;
  return {
    a,
    b,
    c: (rgb.blueOfCb - a) / (2 * (1 - blue)),
    d: (0 - b) / (2 * (1 - blue)),
    e: (0 - a) / (2 * (1 - red)),
    f: (rgb.redOfCr - b) / (2 * (1 - red)),
  };
}
