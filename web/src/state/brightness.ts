import { LUMA } from '@skipback/core/looks/colours';
import { queryClient } from './query-client';

/** Pixels of the sheet of small pictures that are looked at, each way. */
const SAMPLE = 32;

const known = new WeakMap<ImageBitmap, number>();

/** How bright a clip's pictures are on the whole, 0 to 1, by its small pictures; undefined while those are not there. */
export function brightnessOf(mediaId: string): number | undefined {
  const bitmap = queryClient.getQueryData<{ readonly bitmap: ImageBitmap }>(['thumbnails', mediaId])?.bitmap;
  const c = bitmap && bitmap.width > 0 && new OffscreenCanvas(SAMPLE, SAMPLE).getContext('2d');
  if (!bitmap || !c) return undefined;
  const before = known.get(bitmap);
  if (before !== undefined) return before;
  c.drawImage(bitmap, 0, 0, SAMPLE, SAMPLE);
  const { data } = c.getImageData(0, 0, SAMPLE, SAMPLE);
  let [sum, seen] = [0, 0];
  for (let i = 0; i < data.length; i += 4) {
    // The sheet’s last row may be partly empty.
    if (data[i + 3] === 0) continue;
    sum += LUMA[0] * data[i]! + LUMA[1] * data[i + 1]! + LUMA[2] * data[i + 2]!;
    seen++;
  }
  const light = seen > 0 ? sum / seen / 255 : undefined;
  if (light !== undefined) known.set(bitmap, light);
  return light;
}
