import { type Signatures, pictureDifference, usualStep } from '@skipback/core/checks/likeness';
import { VideoSample } from 'mediabunny';
import { ClipRow, type ClipSource } from '../frames/clip-row';
import { OpenClips } from '../frames/open-clips';
import { keyBefore } from '@skipback/core/plan/decode-plan';

const WIDTH = 48;
const HEIGHT = 27;

/** Draws frames [first, end) of a clip, one after another, upright, at a size (null: the clip's own; without a height: its shape). */
async function drawFrames(
  clip: ClipSource,
  first: number,
  end: number,
  size: { width: number; height?: number } | null,
  take: (context: OffscreenCanvasRenderingContext2D, frame: number) => void,
): Promise<OffscreenCanvas> {
  const clips = new OpenClips();
  try {
    const { orientation } = await clips.get(clip);
    const width = size?.width ?? orientation.width;
    const canvas = new OffscreenCanvas(
      width,
      size?.height ?? Math.max(1, Math.round((width * orientation.height) / orientation.width)),
    );
    const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
    const runs = clips.runsOf(new ClipRow([clip]), { decoded: 0, open: 0 }, (picture) => {
      if (picture.timestamp < first) return true;
      const sample = new VideoSample(picture.clone(), {
        rotation: orientation.rotation,
        flip: orientation.flip,
      });
      sample.draw(context, 0, 0, canvas.width, canvas.height);
      sample.close();
      return true;
    });
    // A frame that cannot be decoded leaves the one before it on the canvas.
    for await (const { frame } of runs(keyBefore(clip.index.keys, first), end - 1))
      if (frame >= first) take(context, frame);
    return canvas;
  } finally {
    clips.close();
  }
}

/** Small grey pictures of frames [first, end), for comparing. */
export async function signaturesOf(clip: ClipSource, first: number, end: number): Promise<Signatures> {
  const size = WIDTH * HEIGHT;
  const values = new Uint8Array((end - first) * size);
  await drawFrames(clip, first, end, { width: WIDTH, height: HEIGHT }, (context, frame) => {
    const { data } = context.getImageData(0, 0, WIDTH, HEIGHT);
    for (let i = 0; i < size; i++)
      values[(frame - first) * size + i] =
        (data[4 * i]! * 54 + data[4 * i + 1]! * 183 + data[4 * i + 2]! * 19) >> 8;
  });
  return { firstFrame: first, size, values };
}

/**
 * How much the picture changes from one frame to another, in usual steps of the clip around them: about 1
 * looks like any other step, much more is a visible jump.
 */
export async function seamBetween(clip: ClipSource, before: number, after: number): Promise<number> {
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
  return pictureDifference(pair, 0, 1) / Math.max(1e-4, usualStep(a), usualStep(b));
}

/** Every `step`-th of frames [first, end), `width` pixels wide, in the clip's own shape. The caller closes them. */
export async function smallOf(
  clip: ClipSource,
  { first, end, step, width }: { first: number; end: number; step: number; width: number },
): Promise<ImageBitmap[]> {
  const pictures: Promise<ImageBitmap>[] = [];
  await drawFrames(clip, first, end, { width }, (context, frame) => {
    if ((frame - first) % step === 0) pictures.push(createImageBitmap(context.canvas));
  });
  return Promise.all(pictures);
}

/** One frame at the clip's full size, as a PNG. */
export async function stillOf(clip: ClipSource, frame: number): Promise<Blob> {
  const canvas = await drawFrames(clip, frame, frame + 1, null, () => undefined);
  return canvas.convertToBlob({ type: 'image/png' });
}
