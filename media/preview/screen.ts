import { VideoSample } from 'mediabunny';
import type { Framing } from '@skipback/core/project/schema';
import { placeInFrame } from '../frames/place-in-frame';
import type { OpenClip } from '../frames/open-clips';

/** The visible canvas, and the making of pictures at its size. */
export class Screen {
  private readonly context: OffscreenCanvasRenderingContext2D;
  private draft: OffscreenCanvas;
  /** Width of the project's picture, which the screen shows smaller or larger. */
  private projectWidth = 1280;

  constructor(private readonly canvas: OffscreenCanvas) {
    this.context = canvas.getContext('2d', { alpha: false })!;
    this.draft = new OffscreenCanvas(canvas.width, canvas.height);
  }

  /** Bytes of one held picture. */
  get pictureBytes(): number {
    return this.canvas.width * this.canvas.height * 4;
  }

  /** Changes the size; false when it is that already. */
  resize(width: number, height: number, projectWidth: number): boolean {
    if (this.canvas.width === width && this.canvas.height === height && this.projectWidth === projectWidth)
      return false;
    this.projectWidth = projectWidth;
    this.canvas.width = width;
    this.canvas.height = height;
    this.draft = new OffscreenCanvas(width, height);
    return true;
  }

  /** A decoded picture at screen size, upright, with square pixels, black around it. The decoded one stays the caller's. */
  develop(picture: VideoFrame, clip: OpenClip, framing: Framing): ImageBitmap {
    const { draft } = this;
    const context = draft.getContext('2d', { alpha: false })!;
    const { orientation } = clip;
    const box = placeInFrame(orientation, draft, framing, draft.width / this.projectWidth);
    const sample = new VideoSample(picture.clone(), {
      rotation: orientation.rotation,
      flip: orientation.flip,
    });
    sample.draw(context, box.x, box.y, box.width, box.height);
    sample.close();
    return draft.transferToImageBitmap();
  }

  show(picture: ImageBitmap | undefined): void {
    if (picture) this.context.drawImage(picture, 0, 0);
    else this.context.clearRect(0, 0, this.canvas.width, this.canvas.height);
  }

  /** What is shown, as a small WebP. */
  poster(): Promise<Blob> {
    const width = Math.min(480, this.canvas.width);
    const height = Math.max(1, Math.round((width * this.canvas.height) / this.canvas.width));
    const small = new OffscreenCanvas(width, height);
    small.getContext('2d')!.drawImage(this.canvas, 0, 0, width, height);
    return small.convertToBlob({ type: 'image/webp', quality: 0.85 });
  }
}
