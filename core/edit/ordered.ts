/** A stretch whose end lies after its beginning. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/**
 * A stretch with one of its edges at `at`: where that would turn it round, the other edge gives way and the stretch is one
 * long, as far as `total` allows. `gaveWay` is whether it did.
 */
export function withEdge(
  { from, to }: Stretch,
  edge: 'from' | 'to',
  at: number,
  total = Infinity,
): Stretch & { readonly gaveWay: boolean } {
  if (edge === 'from') {
    const begins = Math.max(0, Math.min(at, total - 1));
    return { from: begins, to: Math.max(to, begins + 1), gaveWay: to <= begins };
  }
  const ends = Math.max(1, Math.min(at, total));
  return { from: Math.min(from, ends - 1), to: ends, gaveWay: from >= ends };
}
