import { VideoSample } from 'mediabunny';
import type { Framing } from '@skipback/core/project/schema';
import { placeInFrame } from '../frames/place-in-frame';
import type { OpenClip } from '../frames/open-clips';

/**
 * Pictures at the file's size. One that already has it, upright and with square pixels, keeps its
 * pixels as the decoder made them (no conversion), copied out of the decoder's own pool so that
 * hundreds may be held; any other is drawn into the frame.
 */
export class FullFrames {
  private readonly canvas: OffscreenCanvas;

  constructor(
    private readonly width: number,
    private readonly height: number,
    /** File pixels to one of the project's. */
    private readonly scale: number,
  ) {
    this.canvas = new OffscreenCanvas(width, height);
  }

  async develop(picture: VideoFrame, clip: OpenClip, framing: Framing): Promise<VideoFrame> {
    const { orientation } = clip;
    const untouched =
      picture.format !== null &&
      orientation.rotation === 0 &&
      !orientation.flip &&
      picture.displayWidth === this.width &&
      picture.displayHeight === this.height &&
      picture.visibleRect?.width === this.width &&
      picture.visibleRect.height === this.height;
    return untouched ? copyOut(picture) : this.draw(picture, clip, framing);
  }

  private draw(picture: VideoFrame, clip: OpenClip, framing: Framing): VideoFrame {
    const { canvas } = this;
    const context = canvas.getContext('2d', { alpha: false })!;
    context.fillRect(0, 0, canvas.width, canvas.height);
    const box = placeInFrame(clip.orientation, canvas, framing, this.scale);
    const { rotation, flip } = clip.orientation;
    const sample = new VideoSample(picture.clone(), { rotation, flip });
    sample.draw(context, box.x, box.y, box.width, box.height);
    sample.close();
    return new VideoFrame(canvas, { timestamp: 0, alpha: 'discard' });
  }
}

async function copyOut(picture: VideoFrame): Promise<VideoFrame> {
  const buffer = new ArrayBuffer(picture.allocationSize());
  const layout = await picture.copyTo(buffer);
  const init = {
    format: picture.format!,
    codedWidth: picture.visibleRect!.width,
    codedHeight: picture.visibleRect!.height,
    timestamp: 0,
    layout,
    colorSpace: picture.colorSpace,
    transfer: [buffer],
  };
  return new VideoFrame(buffer, init);
}

/** Bytes a picture holds. */
export function pictureBytes(picture: VideoFrame): number {
  return picture.format === null ? picture.codedWidth * picture.codedHeight * 4 : picture.allocationSize();
}
