/** Buffers that pictures are read into on their way, kept for the next ones: fresh memory takes longer than reading. */
const kept: Uint8Array<ArrayBuffer>[] = [];
const MOST_KEPT = 3;

/** Works in a buffer of at least so many bytes, which is free again when that has ended. */
export async function inScratch<T>(
  bytes: number,
  work: (buffer: Uint8Array<ArrayBuffer>) => Promise<T>,
): Promise<T> {
  const at = kept.findIndex((b) => b.length >= bytes && b.length <= 2 * bytes);
  const buffer = at >= 0 ? kept.splice(at, 1)[0]! : new Uint8Array(bytes);
  try {
    return await work(buffer.subarray(0, bytes));
  } finally {
    kept.unshift(buffer);
    kept.splice(MOST_KEPT);
  }
}
