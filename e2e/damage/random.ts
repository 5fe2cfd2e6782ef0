/** Numbers that look like chance and are the same for a seed (mulberry32, Ettinger 2017): each in [0, 1). */
export function seeded(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A whole number in [from, to). */
export const between = (random: () => number, from: number, to: number): number =>
  from + Math.floor(random() * Math.max(1, to - from));

export const oneOf = <T>(random: () => number, row: readonly T[]): T => row[between(random, 0, row.length)]!;
