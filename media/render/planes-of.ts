import { planesBytes } from '@skipback/core/pixels/planes';
import { workingPlanes } from '../frames/working-planes';

/** A picture's planes in I420, rows without gaps; those of I420A have what is there of each point after them. */
export async function planesOf(picture: VideoFrame): Promise<Uint8Array> {
  const { width, height } = picture.visibleRect!;
  if (picture.format !== 'I420' && picture.format !== 'I420A') {
    // Some browsers give what they decode in another layout, or in other colours.
    const bytes = new Uint8Array(planesBytes(width, height));
    await workingPlanes(picture, { rotation: 0, flip: false, width, height }, bytes);
    return bytes;
  }
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const colours = width * height + 2 * w * h;
  const clear = picture.format === 'I420A';
  const bytes = new Uint8Array(clear ? colours + width * height : colours);
  await picture.copyTo(bytes, {
    layout: [
      { offset: 0, stride: width },
      { offset: width * height, stride: w },
      { offset: width * height + w * h, stride: w },
      ...(clear ? [{ offset: colours, stride: width }] : []),
    ],
  });
  return bytes;
}
