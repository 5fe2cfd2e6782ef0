import { FREE_FROM, sharedKernels } from './kernels/shared';

/** The weights of a value sum to this. */
export const ONE = 1 << 12;

/** For each target pixel in [first, end): where its source pixels begin, how many there are, their weights. */
export interface Taps {
  readonly first: number;
  readonly end: number;
  readonly starts: Int32Array;
  readonly reach: number;
  /** From one target pixel's weights to the next one's. */
  readonly pitch: number;
  readonly weights: Int16Array;
}

/** The pitch the kernel takes for a reach: a pair, or eights. */
export const pitchOf = (reach: number): number => (reach === 2 ? 2 : 8 * Math.ceil(reach / 8));

/** Both axes of one plane. */
export interface PlaneTaps {
  readonly across: Taps;
  readonly down: Taps;
}

/** Places in memory begin at a multiple of this, and are so much larger than needed. */
const ALIGNED = 64;

/** Writes that part of a plane of `toStride` values a row that the taps are for, out of one of `stride`. */
export function resize(
  from: Uint8Array,
  stride: number,
  to: Uint8Array,
  toStride: number,
  { across, down }: PlaneTaps,
): void {
  const [width, height] = [across.end - across.first, down.end - down.first];
  if (width <= 0 || height <= 0) return;
  // Between two and two of them, sums are kept as finely as fits; of more of them they are rounded.
  const four = across.reach === 2 && down.reach === 2 && stride >= 2 && from.length >= 2 * stride;
  let room = FREE_FROM;
  const place = (bytes: number) => {
    const at = room;
    room += ALIGNED * (Math.ceil(bytes / ALIGNED) + 1);
    return at;
  };
  const used = usedRows(down);
  // Weights of what is beyond the last row or value are nothing, but it is read.
  const source = place((used.count + down.reach) * stride + across.pitch);
  const target = place(width * height);
  const rows = place(4 * down.reach * (width + 8));
  const tables = [across.starts, across.weights, used.starts, down.weights].map((table) => ({
    table,
    at: place(table.byteLength),
  }));
  const { kernels, buffer } = sharedKernels(room);
  let at = source;
  for (const [first, end] of used.blocks) {
    const rowsOfIt = from.subarray(first * stride, end * stride);
    new Uint8Array(buffer, at, rowsOfIt.length).set(rowsOfIt);
    at += (end - first) * stride;
  }
  for (const { table, at } of tables) {
    const Words = table instanceof Int32Array ? Int32Array : Int16Array;
    // Fours are worked on at once: what follows the last begins nowhere.
    const there = new Words(buffer, at, table.length + 4);
    there.set(table);
    there.fill(0, table.length);
  }
  const [startsAcross, weightsAcross, startsDown, weightsDown] = tables.map(({ at }) => at) as [
    number,
    number,
    number,
    number,
  ];
  kernels.resize(
    ...([source, stride, target] as const),
    ...([startsAcross, weightsAcross, across.pitch, width] as const),
    ...([startsDown, weightsDown, down.reach, down.pitch, height] as const),
    ...([rows, four ? 4 : 6, four ? 0 : 1] as const),
  );
  if (width === toStride) return to.set(new Uint8Array(buffer, target, width * height), down.first * width);
  for (let row = 0; row < height; row++)
    to.set(new Uint8Array(buffer, target + row * width, width), (row + down.first) * toStride + across.first);
}

/** The rows of a source that are read, as blocks of rows in a row, and where the sources of each target row begin among them. */
function usedRows({ starts, reach }: Taps): {
  readonly blocks: readonly (readonly [first: number, end: number])[];
  readonly starts: Int32Array;
  readonly count: number;
} {
  const blocks: [number, number][] = [];
  let count = 0;
  const among = starts.map((start) => {
    const last = blocks.at(-1);
    if (last && start <= last[1]) {
      count += Math.max(0, start + reach - last[1]);
      last[1] = Math.max(last[1], start + reach);
    } else {
      blocks.push([start, start + reach]);
      count += reach;
    }
    return count - reach;
  });
  return { blocks, starts: among, count };
}
