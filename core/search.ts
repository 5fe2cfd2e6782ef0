/** The place of the last number not above `value` in an ascending row, of equal ones the last; 0 where all are above it. */
export function lastAtOrBefore(row: readonly number[], value: number): number {
  let low = 0;
  let high = row.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (row[middle]! <= value) low = middle;
    else high = middle - 1;
  }
  return low;
}
