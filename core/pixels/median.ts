/**
 * The median of pictures byte by byte: of a camera that stands still the place itself, without what moves through it as
 * long as nothing stays half of the time. All of one length; of an even number the lower middle. The first is written over.
 */
export function medianOf(pictures: readonly Uint8Array[]): Uint8Array {
  const [out] = pictures as [Uint8Array];
  const count = pictures.length;
  const middle = (count - 1) >> 1;
  const row = new Uint8Array(count);
  for (let i = 0; i < out.length; i++) {
    for (let n = 0; n < count; n++) {
      const v = pictures[n]![i]!;
      let at = n;
      // Sorted in as they come: neighbours are mostly alike, so that little has to move.
      while (at > 0 && row[at - 1]! > v) row[at] = row[--at]!;
      row[at] = v;
    }
    out[i] = row[middle]!;
  }
  return out;
}
