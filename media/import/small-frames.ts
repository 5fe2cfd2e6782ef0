import type { Signatures } from '@skipback/core/checks/likeness';
import { VideoSample } from 'mediabunny';
import type { ClipSource } from '../frames/clip-row';
import { OpenClips } from '../frames/open-clips';
import { readFrames } from '../frames/read-frames';
import { SmallPictures } from '../frames/small-picture';

/** Pixels of the grey pictures that are compared. */
export const GREY = { width: 48, height: 27 } as const;

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
  const size = GREY.width * GREY.height;
  const values = new Uint8Array((end - first) * size);
  await readSmall(clip, { first, end, ...GREY }, (pixels, frame) => {
    greyOf(pixels, values, (frame - first) * size);
  });
  return { firstFrame: first, size, values };
}

/** A picture's red, green, blue and opaqueness as grey values, put into `values` from `at` on. */
export function greyOf(data: Uint8ClampedArray, values: Uint8Array, at: number): void {
  for (let i = 0; 4 * i < data.length; i++)
    values[at + i] = (data[4 * i]! * 54 + data[4 * i + 1]! * 183 + data[4 * i + 2]! * 19) >> 8;
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
