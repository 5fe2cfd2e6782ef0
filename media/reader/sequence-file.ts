import { entriesOf, unfold } from '../zip';
import type { PictureFile } from './picture-file';

/** Pictures a second of numbered pictures, until a clip is read at another rate. */
export const SEQUENCE_HZ = 30;
/** Pictures a sequence may have. */
const MOST_PICTURES = 20_000;
const PICTURE = /\.(png|jpe?g|webp|bmp)$/i;

/** The last number in a name; undefined where there is none. */
const numberIn = (name: string): number | undefined => {
  const found = /(\d+)\D*$/.exec(name.replace(/\.[^.]+$/, ''))?.[1];
  return found === undefined ? undefined : Number(found);
};

/** Names of numbered pictures in the order of their numbers; hidden ones and what is no picture left out. */
export function numbered<T>(items: readonly T[], nameOf: (item: T) => string): T[] {
  return items
    .map((item) => ({ item, name: nameOf(item).split('/').at(-1)!, path: nameOf(item) }))
    .filter(({ name, path }) => PICTURE.test(name) && !name.startsWith('.') && !path.includes('__MACOSX'))
    .map(({ item, name }) => ({ item, name, n: numberIn(name) }))
    .filter((p) => p.n !== undefined)
    .sort((a, b) => a.n! - b.n! || (a.name < b.name ? -1 : 1))
    .map((p) => p.item);
}

/** Numbers that are missing in a row of names. */
export function missingIn(names: readonly string[]): number {
  const numbers = names.map(numberIn).filter((n) => n !== undefined);
  return numbers.length === 0 ? 0 : numbers.at(-1)! - numbers[0]! + 1 - new Set(numbers).size;
}

/**
 * Opens a zip of numbered pictures as a clip; undefined where the file is no zip, or has none. All are shown at the size of the
 * first. Throws what the zip's reader says of a damaged one.
 */
export async function openSequenceFile(blob: Blob): Promise<PictureFile | undefined> {
  const begins = new Uint8Array(await blob.slice(0, 4).arrayBuffer());
  if (begins[0] !== 0x50 || begins[1] !== 0x4b || begins[2] !== 3 || begins[3] !== 4) return undefined;
  const entries = numbered(await entriesOf(blob, { entries: MOST_PICTURES }), (e) => e.filename);
  if (entries.length < 2) return undefined;
  const bitmapOf = async (n: number) =>
    createImageBitmap(await unfold(blob, entries[n]!), {
      premultiplyAlpha: 'none',
      colorSpaceConversion: 'default',
    });
  const first = await bitmapOf(0);
  const { width, height } = first;
  first.close();
  return {
    kind: 'picture',
    name: 'numbered pictures',
    count: entries.length,
    ...{ width, height, evenS: 1 / SEQUENCE_HZ, missing: missingIn(entries.map((e) => e.filename)) },
    async decode(n) {
      let bitmap = await bitmapOf(n);
      if (bitmap.width !== width || bitmap.height !== height) {
        const other = bitmap;
        bitmap = await createImageBitmap(other, { resizeWidth: width, resizeHeight: height });
        other.close();
      }
      try {
        return { picture: new VideoFrame(bitmap, { timestamp: 0 }), durationS: 1 / SEQUENCE_HZ };
      } finally {
        bitmap.close();
      }
    },
    close: () => undefined,
  };
}
