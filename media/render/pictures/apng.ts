import UPNG from 'upng-js';
import { Said } from '../../worker-client';
import { type PictureSink, type SinkOrder, wholeParts } from './sink';

/** Bytes of pictures held at once, at most: the package makes the file from all of them. */
const MOST_BYTES = 400 << 20;

/** An animated PNG that plays for ever, without loss. */
export function apngSink({ width, height, count, target }: SinkOrder): PictureSink {
  const bytes = 4 * width * height * count;
  if (bytes > MOST_BYTES)
    throw new Said(
      `An APNG of ${count} pictures of ${width}×${height} needs ${Math.round(bytes / 1e6)} MB at once; ${Math.round(MOST_BYTES / 1e6)} is the most. Choose a smaller size, fewer pictures a second, or PNG pictures.`,
    );
  const pictures: ArrayBuffer[] = [];
  const delays: number[] = [];
  return {
    add({ rgba, fromS, toS }) {
      pictures.push(rgba.slice().buffer);
      delays.push(wholeParts(fromS, toS, 1000));
      return Promise.resolve();
    },
    async finish() {
      await target.write(UPNG.encode(pictures, width, height, 0, delays));
    },
  };
}
