import { type Signatures, pictureDifference, usualStep } from '@skipback/core/checks/likeness';
import { drawStack, tablesOf } from '@skipback/core/looks/draw';
import type { Drawn } from '@skipback/core/looks/resolve';
import { Surface } from '@skipback/core/pixels/surface';
import { VideoSample } from 'mediabunny';
import type { ClipSource } from '../frames/clip-row';
import { OpenClips } from '../frames/open-clips';
import { readFrames } from '../frames/read-frames';
import { SmallPictures } from '../frames/small-picture';

const WIDTH = 48;
const HEIGHT = 27;
/** Pictures are this many times as large while looks are drawn on them. */
const LARGER = 8;

/**
 * Reads those of frames [first, end) of a clip that are `wanted`, one after another, upright, `width` pixels wide and
 * as high as said, or as its shape makes them. The pixels (RGBA) are good until the next.
 */
export async function readSmall(
  clip: ClipSource,
  { first, end, width, height: asked }: { first: number; end: number; width: number; height?: number },
  take: (pixels: Uint8ClampedArray<ArrayBuffer>, frame: number, height: number) => unknown,
  wanted: (frame: number) => boolean = () => true,
): Promise<void> {
  const clips = new OpenClips();
  try {
    const { orientation } = await clips.get(clip);
    const height = asked ?? Math.max(1, Math.round((width * orientation.height) / orientation.width));
    const small = new SmallPictures(orientation, width, height);
    const blank = new Uint8ClampedArray(4 * width * height);
    const steps = readFrames(clips, clip, { first, end, wanted }, (picture, open) =>
      small.read(picture, open),
    );
    for await (const { frame, picture } of steps) await take(picture ?? blank, frame, height);
  } finally {
    clips.close();
  }
}

/** Small grey pictures of frames [first, end), for comparing. */
export async function signaturesOf(clip: ClipSource, first: number, end: number): Promise<Signatures> {
  const size = WIDTH * HEIGHT;
  const values = new Uint8Array((end - first) * size);
  await readSmall(clip, { first, end, width: WIDTH, height: HEIGHT }, (pixels, frame) => {
    greyOf(pixels, values, (frame - first) * size);
  });
  return { firstFrame: first, size, values };
}

/** A picture's red, green, blue and opaqueness as grey values, put into `values` from `at` on. */
export function greyOf(data: Uint8ClampedArray, values: Uint8Array, at: number): void {
  for (let i = 0; 4 * i < data.length; i++)
    values[at + i] = (data[4 * i]! * 54 + data[4 * i + 1]! * 183 + data[4 * i + 2]! * 19) >> 8;
}

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
  const [width, height] = [WIDTH * LARGER, HEIGHT * LARGER];
  const surface = new Surface(width, height);
  await readSmall(clip, { first: frame, end: frame + 1, width, height }, (pixels) =>
    surface.loadRgba(pixels),
  );
  drawStack(surface, stack, width / projectWidth, tablesOf(tables));
  const small = new Uint8ClampedArray(4 * WIDTH * HEIGHT);
  for (let i = 0; i < small.length; i++) {
    const [x, y, c] = [(i >> 2) % WIDTH, Math.floor((i >> 2) / WIDTH), i & 3];
    let sum = 0;
    for (let dy = 0; dy < LARGER; dy++)
      for (let dx = 0; dx < LARGER; dx++)
        sum += surface.pixels[4 * ((y * LARGER + dy) * width + x * LARGER + dx) + c]!;
    small[i] = sum / LARGER ** 2;
  }
  const values = new Uint8Array(WIDTH * HEIGHT);
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

/** Every `step`-th of frames [first, end), `width` pixels wide, in the clip's own shape. The caller closes them. */
export async function smallOf(
  clip: ClipSource,
  { first, end, step, width }: { first: number; end: number; step: number; width: number },
): Promise<ImageBitmap[]> {
  const pictures: Promise<ImageBitmap>[] = [];
  await readSmall(
    clip,
    { first, end, width },
    (pixels, _, height) =>
      pictures.push(createImageBitmap(new ImageData(new Uint8ClampedArray(pixels), width, height))),
    (frame) => (frame - first) % step === 0,
  );
  return Promise.all(pictures);
}

/** One frame at the clip's full size, as a PNG. */
export async function stillOf(clip: ClipSource, frame: number): Promise<Blob> {
  const clips = new OpenClips();
  try {
    const { orientation } = await clips.get(clip);
    const canvas = new OffscreenCanvas(orientation.width, orientation.height);
    const context = canvas.getContext('2d', { alpha: false })!;
    const steps = readFrames(clips, clip, { first: frame, end: frame + 1 }, (picture) => {
      const sample = new VideoSample(picture.clone(), {
        rotation: orientation.rotation,
        flip: orientation.flip,
      });
      sample.draw(context, 0, 0, canvas.width, canvas.height);
      sample.close();
    });
    await steps.next();
    await steps.return();
    return await canvas.convertToBlob({ type: 'image/png' });
  } finally {
    clips.close();
  }
}
