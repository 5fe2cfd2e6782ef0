/** Kinds of unit in an H.264 stream (ITU-T H.264, table 7-1). */
const IDR_SLICE = 5;

/**
 * Whether an H.264 packet holds an IDR picture, at which decoders begin. Containers also call recovery points
 * keys (an open group of pictures begins with one): what follows those may need frames before them.
 * `lengthSize` is the bytes of the length before each unit; 0 for a stream with start codes.
 */
export function holdsIdr(data: Uint8Array, lengthSize: number): boolean {
  for (const kind of unitKinds(data, lengthSize)) if (kind === IDR_SLICE) return true;
  return false;
}

function* unitKinds(data: Uint8Array, lengthSize: number): Generator<number, void, void> {
  if (lengthSize > 0) {
    let at = 0;
    while (at + lengthSize < data.length) {
      let length = 0;
      for (let i = 0; i < lengthSize; i++) length = length * 256 + data[at + i]!;
      yield data[at + lengthSize]! & 31;
      at += lengthSize + length;
    }
    return;
  }
  for (let i = 0; i + 3 < data.length; i++)
    if (data[i] === 0 && data[i + 1] === 0 && data[i + 2] === 1) yield data[i + 3]! & 31;
}

/** Bytes of the length before each unit, from a file's decoder description; 0 where it has none. */
export function lengthSizeOf(description: AllowSharedBufferSource | undefined): number {
  if (description === undefined) return 0;
  const bytes = ArrayBuffer.isView(description)
    ? new Uint8Array(description.buffer, description.byteOffset, description.byteLength)
    : new Uint8Array(description);
  return (bytes[4]! & 3) + 1;
}
