import { BlobReader, ZipWriter, configure } from '@zip.js/zip.js';
import type { PictureSink, SinkOrder } from './sink';

configure({ useWebWorkers: false });

const JPEG_QUALITY = 0.95;

/** Numbered pictures in a zip, written as they come. */
export function framesSink({ settings, width, height, count, name, target }: SinkOrder): PictureSink {
  const png = settings.format === 'png-frames';
  const canvas = new OffscreenCanvas(width, height);
  const context = canvas.getContext('2d', { alpha: png })!;
  const zip = new ZipWriter(
    new WritableStream<Uint8Array<ArrayBuffer>>({ write: (part) => target.write(part) }),
    // They are packed already.
    { level: 0 },
  );
  const digits = Math.max(4, String(count).length);
  let n = 0;
  return {
    async add({ rgba }) {
      context.putImageData(new ImageData(new Uint8ClampedArray(rgba.buffer), width, height), 0, 0);
      const file = await canvas.convertToBlob(
        png ? { type: 'image/png' } : { type: 'image/jpeg', quality: JPEG_QUALITY },
      );
      await zip.add(
        `${name}-${String(++n).padStart(digits, '0')}.${png ? 'png' : 'jpg'}`,
        new BlobReader(file),
      );
    },
    async finish() {
      await zip.close();
    },
  };
}
