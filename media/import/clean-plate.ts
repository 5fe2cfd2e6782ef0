import { medianOf } from '@skipback/core/pixels/median';
import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface } from '@skipback/core/pixels/surface';
import type { ClipSource } from '../frames/clip-row';
import { readFrames } from '../frames/read-frames';
import { OpenClips } from '../frames/open-clips';
import { workingPlanes } from '../frames/working-planes';
import { Said } from '../worker-client';

/** Frames looked at, evenly over the clip; fewer where they would take more memory than this. */
const LOOKED_AT = 25;
const BUDGET_BYTES = 256 * 1024 * 1024;

/** The place that a clip shows without what moves through it, as a PNG of the clip's full size: the median of its frames. */
export async function cleanPlateOf(clip: ClipSource): Promise<Blob> {
  const total = clip.index.times.length;
  const clips = new OpenClips();
  try {
    const { orientation } = await clips.get(clip);
    const bytes = planesBytes(orientation.width, orientation.height);
    const count = Math.min(total, Math.max(3, Math.min(LOOKED_AT, Math.floor(BUDGET_BYTES / bytes))));
    const taken: { readonly y: Uint8Array; readonly width: number; readonly height: number }[] = [];
    const frames = Array.from({ length: count }, (_, i) => Math.floor(((i + 0.5) * total) / count));
    const keyOf = (frame: number) => clip.index.keys.findLast((k) => k <= frame) ?? 0;
    // Those of one group of pictures in one run: none is decoded twice.
    for (const key of new Set(frames.map(keyOf))) {
      const wanted = new Set(frames.filter((f) => keyOf(f) === key));
      const reading = { first: key, end: Math.max(...wanted) + 1, wanted: (n: number) => wanted.has(n) };
      const steps = readFrames(clips, clip, reading, (picture, open) =>
        workingPlanes(picture, open.orientation),
      );
      for await (const { picture } of steps) if (picture) taken.push(picture);
    }
    const [first] = taken;
    if (!first) throw new Said('No frame of this clip can be decoded: there is no clean plate of it.');
    const { width, height } = first;
    // Planes of a picture lie in one buffer.
    const whole = taken.map(({ y }) => new Uint8Array(y.buffer, y.byteOffset, planesBytes(width, height)));
    const surface = new Surface(width, height);
    surface.load(planesIn(medianOf(whole), width, height));
    const small = new OffscreenCanvas(width, height);
    small.getContext('2d')!.putImageData(new ImageData(surface.pixels, width, height), 0, 0);
    if (width === orientation.width && height === orientation.height)
      return await small.convertToBlob({ type: 'image/png' });
    // Of pixels that are not square a picture of square ones.
    const canvas = new OffscreenCanvas(orientation.width, orientation.height);
    canvas.getContext('2d')!.drawImage(small, 0, 0, orientation.width, orientation.height);
    return await canvas.convertToBlob({ type: 'image/png' });
  } finally {
    clips.close();
  }
}
