import { BlobReader, ZipWriter, configure } from '@zip.js/zip.js';
import { Abreast, packedAtOnce } from './abreast';
import type { PictureSink, SinkOrder } from './sink';

configure({ useWebWorkers: false });

const JPEG_QUALITY = 0.95;

/** Numbered pictures in a zip, packed beside each other and written as they come. */
export function framesSink({ settings, width, height, count, name, target }: SinkOrder): PictureSink {
  const png = settings.format === 'png-frames';
  const zip = new ZipWriter(
    new WritableStream<Uint8Array<ArrayBuffer>>({ write: (part) => target.write(part) }),
    // They are packed already.
    { level: 0 },
  );
  const digits = Math.max(4, String(count).length);
  const pack = (rgba: Uint8Array<ArrayBuffer>): Promise<Blob> => {
    const canvas = new OffscreenCanvas(width, height);
    const pixels = new ImageData(new Uint8ClampedArray(rgba.buffer), width, height);
    canvas.getContext('2d', { alpha: png })!.putImageData(pixels, 0, 0);
    return canvas.convertToBlob(png ? { type: 'image/png' } : { type: 'image/jpeg', quality: JPEG_QUALITY });
  };
  let n = 0;
  const packed = new Abreast<Blob>(
    packedAtOnce(width, height, navigator.hardwareConcurrency),
    async (file) => {
      const number = String(++n).padStart(digits, '0');
      await zip.add(`${name}-${number}.${png ? 'png' : 'jpg'}`, new BlobReader(file));
    },
  );
  return {
    add: ({ rgba }) => packed.add(pack(rgba)),
    async finish() {
      await packed.finish();
      await zip.close();
    },
  };
}
