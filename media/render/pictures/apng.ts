import UPNG from 'upng-js';
import { Said } from '../../worker-client';
import { type PictureSink, type SinkOrder, wholeParts } from './sink';

/** Bytes of pictures held at once, at most: the package makes the file from all of them. */
const MOST_BYTES = 400 << 20;

/** The package's palettes lose colours that lie only beside others; a last argument that its types leave out forbids them. */
const encode = UPNG.encode as (
  ...order: [...Parameters<typeof UPNG.encode>, withoutPalette: boolean]
) => ArrayBuffer;

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
      await target.write(encode(pictures, width, height, 0, delays, true));
    },
  };
}
