import { Abreast, packedAtOnce } from './abreast';
import { type Change, beginning, changeOf, ending, pictureParts } from './apng-parts';
import { type PictureSink, type SinkOrder, wholeParts } from './sink';

/** Milliseconds a picture may last, by what the format has room for. */
const MOST_MS = 65_535;

/** An animated PNG that plays for ever, without loss where it is opaque: of each picture what changed, packed beside others, written as it comes. */
export async function apngSink({ width, height, count, target }: SinkOrder): Promise<PictureSink> {
  await target.write(beginning(width, height, count));
  let before: Uint8Array<ArrayBuffer> | undefined;
  let place = 0;
  const packed = new Abreast<{ png: Uint8Array; change: Change; delayMs: number }>(
    packedAtOnce(width, height, navigator.hardwareConcurrency),
    async ({ png, change, delayMs }) => {
      const parts = pictureParts(png, change, delayMs, place);
      place = parts.place;
      await target.write(parts.bytes);
    },
  );
  const pack = async (change: Change): Promise<Uint8Array> => {
    const canvas = new OffscreenCanvas(change.width, change.height);
    canvas.getContext('2d')!.putImageData(new ImageData(change.rgba, change.width, change.height), 0, 0);
    return new Uint8Array(await (await canvas.convertToBlob({ type: 'image/png' })).arrayBuffer());
  };
  return {
    async add({ rgba, fromS, toS }) {
      const change = changeOf(rgba, before, width, height);
      before = rgba;
      const delayMs = Math.min(MOST_MS, wholeParts(fromS, toS, 1000));
      await packed.add(pack(change).then((png) => ({ png, change, delayMs })));
    },
    async finish() {
      await packed.finish();
      await target.write(ending());
    },
  };
}
