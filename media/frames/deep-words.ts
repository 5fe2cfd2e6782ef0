import type { DeepPlanes } from '@skipback/core/pixels/high-range';
import { halfOf, planesBytes } from '@skipback/core/pixels/planes';
import { inScratch } from './scratch';

/** Bits of a value, where a picture has more than eight. */
export function deepBits({ format }: VideoFrame): number | undefined {
  const bits = /P1([02])$/.exec(format ?? '');
  return bits ? 10 + 2 * Number(bits[1] === '2') : undefined;
}

/** Planes of a picture of more than eight bits, 4:2:0, one after the other in `words`. */
export interface DeepPicture extends DeepPlanes {
  readonly words: Uint16Array;
}

/** Reads a picture of more than eight bits; what `use` gets is good until it returns. */
export async function inDeep(picture: VideoFrame, use: (deep: DeepPicture) => void): Promise<void> {
  const { width, height } = picture.visibleRect!;
  const [across, down] = [halfOf(width), halfOf(height)];
  const [luma, chroma] = [width * height, across * down];
  const count = planesBytes(width, height);
  const given = (words: Uint16Array) =>
    use({
      ...{ width, height, bits: deepBits(picture)!, words },
      y: words.subarray(0, luma),
      u: words.subarray(luma, luma + chroma),
      v: words.subarray(luma + chroma, count),
    });
  const wordsIn = (buffer: Uint8Array, length: number) =>
    new Uint16Array(buffer.buffer, buffer.byteOffset, length);
  if (/^I420P/.test(picture.format!))
    return inScratch(2 * count, async (buffer) => {
      await picture.copyTo(buffer, {
        layout: [
          { offset: 0, stride: 2 * width },
          { offset: 2 * luma, stride: 2 * across },
          { offset: 2 * (luma + chroma), stride: 2 * across },
        ],
      });
      given(wordsIn(buffer, count));
    });
  // Differences of every second row, and every second one of it, where there are more.
  const [stepX, stepY] = /^I444/.test(picture.format!)
    ? [2, 2]
    : /^I422/.test(picture.format!)
      ? [1, 2]
      : [1, 1];
  await inScratch(picture.allocationSize(), async (bytes) => {
    const layout = await picture.copyTo(bytes);
    await inScratch(2 * count, async (buffer) => {
      const words = wordsIn(buffer, count);
      const plane = (n: number, at: number, w: number, h: number, byX: number, byY: number) => {
        const { offset, stride } = layout[n]!;
        for (let y = 0; y < h; y++) {
          const begin = bytes.byteOffset + offset + y * byY * stride;
          const row = new Uint16Array(bytes.buffer, begin, (w - 1) * byX + 1);
          if (byX === 1) words.set(row, at + y * w);
          else for (let x = 0; x < w; x++) words[at + y * w + x] = row[x * byX]!;
        }
      };
      plane(0, 0, width, height, 1, 1);
      plane(1, luma, across, down, stepX, stepY);
      plane(2, luma + chroma, across, down, stepX, stepY);
      given(words);
    });
  });
}
