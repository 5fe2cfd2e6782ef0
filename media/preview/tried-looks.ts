import { drawStack, tablesOf } from '@skipback/core/looks/draw';
import { ONE_FRAME } from '@skipback/core/looks/facts';
import { LookSchema } from '@skipback/core/looks/look';
import { TREATMENTS } from '@skipback/core/looks/registry';
import { resolveLooks } from '@skipback/core/looks/resolve';
import { Surface } from '@skipback/core/pixels/surface';

/** The picture's width that treatments' own values are meant for. */
const MEANT_FOR = 1280;

/** A picture, `width` pixels wide, as each treatment shows it with its own values; by the treatments' ids. */
export async function triedOn(image: ImageData, width: number): Promise<Record<string, ImageBitmap>> {
  const height = Math.max(2, Math.round((width * image.height) / image.width));
  const bitmap = await createImageBitmap(image, {
    resizeWidth: width,
    resizeHeight: height,
    resizeQuality: 'medium',
  });
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0);
  bitmap.close();
  const plain = context.getImageData(0, 0, width, height);
  const surface = new Surface(width, height);
  const tables = tablesOf({});
  const pictures: Record<string, ImageBitmap> = {};
  for (const { id, shownWith } of TREATMENTS) {
    const { drawn } = resolveLooks([LookSchema.parse({ id, look: id, values: shownWith })], ONE_FRAME);
    surface.loadRgba(plain.data);
    // Small as it is, lengths are drawn larger than they will be, so that they can be told.
    drawStack(surface, drawn[0]!, (2 * width) / MEANT_FOR, tables);
    pictures[id] = await createImageBitmap(
      new ImageData(new Uint8ClampedArray(surface.pixels), width, height),
    );
  }
  return pictures;
}
