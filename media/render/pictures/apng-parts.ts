import { buf as crc32 } from 'crc-32';

/** The parts of PNG files that an animation of them is put together from (PNG specification, third edition, 5 and 11.3). */

const SIGNATURE = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];
/** RGBA of eight bits, packed and filtered as all PNG files are, not interlaced. */
const RGBA = [8, 6, 0, 0, 0];
const { max, min } = Math;

type Bytes = Uint8Array<ArrayBuffer>;

/** A chunk: length, type, data, checksum. */
function chunk(type: string, data: Uint8Array): Bytes {
  const bytes = new Uint8Array(12 + data.length);
  const view = new DataView(bytes.buffer);
  view.setUint32(0, data.length);
  for (let i = 0; i < 4; i++) bytes[4 + i] = type.charCodeAt(i);
  bytes.set(data, 8);
  view.setInt32(8 + data.length, crc32(bytes.subarray(4, 8 + data.length)));
  return bytes;
}

const numbers = (...values: number[]): Uint8Array => {
  const view = new DataView(new ArrayBuffer(4 * values.length));
  values.forEach((v, i) => view.setUint32(4 * i, v));
  return new Uint8Array(view.buffer);
};

const joined = (...parts: readonly ArrayLike<number>[]): Bytes => {
  const bytes = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
};

/** How an animation of so many pictures, which plays for ever, begins. */
export const beginning = (width: number, height: number, count: number): Bytes =>
  joined(SIGNATURE, chunk('IHDR', joined(numbers(width, height), RGBA)), chunk('acTL', numbers(count, 0)));

export const ending = (): Bytes => chunk('IEND', new Uint8Array(0));

/** Where a picture differs from the one before it, and how it is laid on that. */
export interface Change {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  /** Its pixels, RGBA. */
  readonly rgba: Uint8ClampedArray<ArrayBuffer>;
  /** Whether it lies over the one before, which shows through where nothing changed; it takes its place otherwise. */
  readonly over: boolean;
}

/** What has to be drawn for a picture to follow another; the whole of it where there is none before it. */
export function changeOf(rgba: Bytes, before: Bytes | undefined, width: number, height: number): Change {
  const whole = { x: 0, y: 0, width, height };
  if (!before) return { ...whole, rgba: new Uint8ClampedArray(rgba.buffer), over: false };
  const [now, was] = [rgba, before].map((b) => new Uint32Array(b.buffer, b.byteOffset, width * height));
  let [left, right, top, bottom, opaque] = [width, -1, height, -1, true];
  for (let y = 0; y < height; y++)
    for (let x = 0, i = y * width; x < width; x++, i++) {
      if (now![i] === was![i]) continue;
      left = min(left, x);
      right = max(right, x);
      top = min(top, y);
      bottom = y;
      opaque &&= rgba[4 * i + 3] === 255;
    }
  // Nothing did: a point of nothing over it.
  if (right < 0) return { x: 0, y: 0, width: 1, height: 1, rgba: new Uint8ClampedArray(4), over: true };
  const [w, h] = [right - left + 1, bottom - top + 1];
  const pixels = new Uint8ClampedArray(4 * w * h);
  const out = new Uint32Array(pixels.buffer);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const i = (top + y) * width + left + x;
      // What stays packs best as nothing.
      if (!opaque || now![i] !== was![i]) out[y * w + x] = now![i]!;
    }
  return { x: left, y: top, width: w, height: h, rgba: pixels, over: opaque };
}

/** A picture of the animation, from its change packed as a PNG; `place` of all chunks that are counted, which it gives on. */
export function pictureParts(
  png: Uint8Array,
  change: Change,
  delayMs: number,
  place: number,
): { readonly bytes: Bytes; readonly place: number } {
  const { x, y, width, height, over } = change;
  // Kept as what is behind it; laid over, or in place of that.
  const how = new Uint8Array([0, Number(over)]);
  const delay = new Uint8Array([delayMs >> 8, delayMs & 255, 1000 >> 8, 1000 & 255]);
  const control = chunk('fcTL', joined(numbers(place, width, height, x, y), delay, how));
  const data = packedPixels(png);
  return place === 0
    ? { bytes: joined(control, chunk('IDAT', data)), place: 1 }
    : { bytes: joined(control, chunk('fdAT', joined(numbers(place + 1), data))), place: place + 2 };
}

/** The packed pixels of a PNG of RGBA. Throws where it is of another kind. */
function packedPixels(png: Uint8Array): Bytes {
  const view = new DataView(png.buffer, png.byteOffset, png.length);
  if (RGBA.some((v, i) => png[24 + i] !== v)) throw new Error('the PNG is not of RGBA');
  const parts: Uint8Array[] = [];
  for (let at = SIGNATURE.length; at < png.length;) {
    const length = view.getUint32(at);
    if (String.fromCharCode(...png.subarray(at + 4, at + 8)) === 'IDAT')
      parts.push(png.subarray(at + 8, at + 8 + length));
    at += 12 + length;
  }
  return joined(...parts);
}
