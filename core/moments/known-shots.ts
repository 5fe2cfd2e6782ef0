/** Frames [first, end). */
export type Stretch = readonly [first: number, end: number];

/** What is known of a long clip's cuts: where it was looked for them, ascending and apart, and those that are there. */
export interface KnownShots {
  readonly read: readonly Stretch[];
  /** First frames after a cut, ascending. */
  readonly cuts: readonly number[];
}

export const NOTHING_READ: KnownShots = { read: [], cuts: [] };

/** The parts of a stretch that were not read, none longer than `most` frames. */
export function unread({ read }: KnownShots, [first, end]: Stretch, most: number): Stretch[] {
  const parts: Stretch[] = [];
  const add = (from: number, to: number) => {
    for (let at = from; at < to; at += most) parts.push([at, Math.min(to, at + most)]);
  };
  let at = first;
  for (const [from, to] of read) {
    if (to <= at || from >= end) continue;
    add(at, from);
    at = Math.max(at, to);
  }
  add(at, end);
  return parts;
}

/** What is known after a stretch was read, in which these cuts were found. */
export function withRead(known: KnownShots, stretch: Stretch, found: readonly number[]): KnownShots {
  const read: [number, number][] = [];
  for (const [first, end] of [...known.read, stretch].toSorted((a, b) => a[0] - b[0])) {
    const last = read.at(-1);
    if (last && first <= last[1]) last[1] = Math.max(last[1], end);
    else read.push([first, end]);
  }
  return { read, cuts: [...new Set([...known.cuts, ...found])].toSorted((a, b) => a - b) };
}
