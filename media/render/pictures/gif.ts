import { Palette, onlyChanged } from '@skipback/core/pixels/dither';
import { GIFEncoder, quantize } from 'gifenc';
import { type PictureSink, type SinkOrder, wholeParts } from './sink';

/** Every so-manieth pixel of the samples goes into the search for a palette. */
const SAMPLED = 7;

/** An animated GIF that plays for ever: one palette for the file, and of each picture only what changed. */
export async function gifSink({ settings, width, height, target, samples }: SinkOrder): Promise<PictureSink> {
  // One index stands for what stays as it was.
  const colours = quantize(thinned(await samples()), settings.colours - 1);
  const palette = new Palette(colours);
  const same = colours.length;
  const table = [...colours, [0, 0, 0]];
  const gif = GIFEncoder({ auto: false });
  let before: Uint8Array | undefined;
  const flush = async () => {
    await target.write(gif.bytes() as Uint8Array<ArrayBuffer>);
    gif.reset();
  };
  gif.writeHeader();
  return {
    async add({ rgba, fromS, toS }) {
      const indices = palette.indexed(rgba, width, settings.dither);
      const changes = before && onlyChanged(indices, before, same);
      gif.writeFrame(changes?.out ?? indices, width, height, {
        ...(before
          ? { transparent: true, transparentIndex: same }
          : { first: true, palette: table, repeat: 0 }),
        // Hundredths of a second are all it knows.
        delay: 10 * wholeParts(fromS, toS, 100),
        dispose: 1,
      });
      before = indices;
      await flush();
    },
    async finish() {
      gif.finish();
      await flush();
    },
  };
}

function thinned(pictures: readonly Uint8Array[]): Uint8Array {
  const pixels = pictures.map((p) => Math.floor(p.length / 4 / SAMPLED));
  const out = new Uint8Array(4 * pixels.reduce((a, b) => a + b, 0));
  let at = 0;
  for (const [i, picture] of pictures.entries())
    for (let n = 0; n < pixels[i]!; n++, at += 4)
      out.set(picture.subarray(4 * n * SAMPLED, 4 * n * SAMPLED + 4), at);
  return out;
}
