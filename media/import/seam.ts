import { pictureDifference, usualStep } from '@skipback/core/checks/likeness';
import { drawStack, tablesOf } from '@skipback/core/looks/draw';
import type { Drawn } from '@skipback/core/looks/resolve';
import { Surface } from '@skipback/core/pixels/surface';
import type { ClipSource } from '../frames/clip-row';
import { GREY, greyOf, readSmall, signaturesOf } from './small-frames';

/** Pictures are this many times as large while looks are drawn on them. */
const LARGER = 8;

/** What is drawn on the two frames of a seam. */
export interface SeamLooks {
  readonly before: readonly Drawn[];
  readonly after: readonly Drawn[];
  /** Colour tables by their names, in base64. */
  readonly tables: Readonly<Record<string, string>>;
  /** Width of the project's picture, pixels. */
  readonly projectWidth: number;
}

/** A frame with its looks, as a small grey picture. */
async function treatedSignature(
  clip: ClipSource,
  frame: number,
  stack: readonly Drawn[],
  { tables, projectWidth }: SeamLooks,
): Promise<Uint8Array> {
  const [width, height] = [GREY.width * LARGER, GREY.height * LARGER];
  const surface = new Surface(width, height);
  await readSmall(clip, { first: frame, end: frame + 1, width, height }, (pixels) =>
    surface.loadRgba(pixels),
  );
  drawStack(surface, stack, width / projectWidth, tablesOf(tables));
  const small = new Uint8ClampedArray(4 * GREY.width * GREY.height);
  for (let i = 0; i < small.length; i++) {
    const [x, y, c] = [(i >> 2) % GREY.width, Math.floor((i >> 2) / GREY.width), i & 3];
    let sum = 0;
    for (let dy = 0; dy < LARGER; dy++)
      for (let dx = 0; dx < LARGER; dx++)
        sum += surface.pixels[4 * ((y * LARGER + dy) * width + x * LARGER + dx) + c]!;
    small[i] = sum / LARGER ** 2;
  }
  const values = new Uint8Array(GREY.width * GREY.height);
  greyOf(small, values, 0);
  return values;
}

/**
 * How much the picture changes from one frame to another, in usual steps of the clip around them: about 1
 * looks like any other step, much more is a visible jump. With `looks` also how much it does with them.
 */
export async function seamBetween(
  clip: ClipSource,
  before: number,
  after: number,
  looks?: SeamLooks,
): Promise<{ plain: number; treated: number | undefined }> {
  const count = clip.index.times.length;
  const around = (frame: number) => signaturesOf(clip, Math.max(0, frame - 2), Math.min(count, frame + 3));
  const [a, b] = [await around(before), await around(after)];
  const pair = { firstFrame: 0, size: a.size, values: new Uint8Array(2 * a.size) };
  pair.values.set(
    a.values.subarray((before - a.firstFrame) * a.size, (before - a.firstFrame + 1) * a.size),
    0,
  );
  pair.values.set(
    b.values.subarray((after - b.firstFrame) * b.size, (after - b.firstFrame + 1) * b.size),
    a.size,
  );
  const step = Math.max(1e-4, usualStep(a), usualStep(b));
  const plain = pictureDifference(pair, 0, 1) / step;
  if (!looks) return { plain, treated: undefined };
  pair.values.set(await treatedSignature(clip, before, looks.before, looks), 0);
  pair.values.set(await treatedSignature(clip, after, looks.after, looks), a.size);
  return { plain, treated: pictureDifference(pair, 0, 1) / step };
}
