import { toRgba } from '@skipback/core/pixels/convert';
import type { Framing } from '@skipback/core/project/schema';
import { Framer } from '../frames/framed';
import type { OpenClip } from '../frames/open-clips';

/** A picture at the screen's size. Its pixels go back to the screen's store when it is closed. */
export class ShownPicture {
  constructor(
    readonly image: ImageData,
    private readonly giveBack: (image: ImageData) => void,
  ) {}

  close(): void {
    this.giveBack(this.image);
  }
}

/** Pixel buffers kept for the next pictures, at most: fresh ones take longer than filling them. */
const MOST_SPARE = 16;

/** The visible canvas, and the making of pictures at its size: the same arithmetic as the file's. */
export class Screen {
  private readonly context: OffscreenCanvasRenderingContext2D;
  private framer: Framer;
  private spare: ImageData[] = [];
  /** Width of the project's picture, which the screen shows smaller or larger. */
  private projectWidth = 1280;

  constructor(private readonly canvas: OffscreenCanvas) {
    this.context = canvas.getContext('2d', { alpha: false })!;
    this.framer = this.newFramer();
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
    this.spare = [];
    this.framer = this.newFramer();
    return true;
  }

  private newFramer(): Framer {
    const { width, height } = this.canvas;
    return new Framer(width, height, width / this.projectWidth, true);
  }

  /** A decoded picture at screen size, upright, with square pixels, black around it. The decoded one stays the caller's. */
  async develop(picture: VideoFrame, clip: OpenClip, framing: Framing): Promise<ShownPicture> {
    const planes = await this.framer.frame(picture, clip, framing);
    const image = this.spare.pop() ?? new ImageData(planes.width, planes.height);
    toRgba(planes, image.data);
    return new ShownPicture(image, (used) => {
      const fits = used.width === this.canvas.width && used.height === this.canvas.height;
      if (fits && this.spare.length < MOST_SPARE) this.spare.push(used);
    });
  }

  show(picture: ShownPicture | undefined): void {
    if (picture) this.context.putImageData(picture.image, 0, 0);
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
