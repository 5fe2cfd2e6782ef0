import { LUMA } from '@skipback/core/looks/colours';
import { movesDark } from '@skipback/core/looks/what-moves';
import type { ThumbnailSheet } from '@skipback/media/import/messages';
import { queryClient } from './query-client';

/** Pixels of a small picture that are looked at, and how many pictures of a clip. */
const [WIDTH, HEIGHT] = [48, 27];
const MOST = 24;

type Sheet = ThumbnailSheet & { readonly bitmap: ImageBitmap };

const known = new WeakMap<ImageBitmap, boolean>();

/**
 * Whether a clip shows dark things before something lighter: what moves in its small pictures against what is mostly
 * seen there, or, where that cannot be told, whether they are light on the whole. Undefined while they are not there.
 */
export function darkOnLight(mediaId: string): boolean | undefined {
  const sheet = queryClient.getQueryData<Sheet>(['thumbnails', mediaId]);
  if (!sheet || sheet.bitmap.width === 0) return undefined;
  const before = known.get(sheet.bitmap);
  if (before !== undefined) return before;
  const pictures = greys(sheet);
  if (!pictures) return undefined;
  const dark = movesDark(pictures) ?? mean(pictures) > 127;
  known.set(sheet.bitmap, dark);
  return dark;
}

const mean = (pictures: readonly Uint8Array[]): number =>
  pictures.reduce((sum, p) => sum + p.reduce((a, b) => a + b, 0) / p.length, 0) / pictures.length;

/** The brightness of some of the small pictures. */
function greys({ bitmap, frames, columns, cellWidth, cellHeight }: Sheet): Uint8Array[] | undefined {
  const c = new OffscreenCanvas(WIDTH, HEIGHT).getContext('2d', { willReadFrequently: true });
  if (!c || frames.length === 0) return undefined;
  const count = Math.min(MOST, frames.length);
  return Array.from({ length: count }, (_, i) => {
    const place = Math.floor(((i + 0.5) * frames.length) / count);
    const [x, y] = [(place % columns) * cellWidth, Math.floor(place / columns) * cellHeight];
    c.drawImage(bitmap, x, y, cellWidth, cellHeight, 0, 0, WIDTH, HEIGHT);
    const { data } = c.getImageData(0, 0, WIDTH, HEIGHT);
    return Uint8Array.from(
      { length: WIDTH * HEIGHT },
      (_, p) => LUMA[0] * data[4 * p]! + LUMA[1] * data[4 * p + 1]! + LUMA[2] * data[4 * p + 2]!,
    );
  });
}
