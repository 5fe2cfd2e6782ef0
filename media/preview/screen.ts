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
  /** For pictures that were made smaller than the screen. */
  private small: OffscreenCanvas | undefined;
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

  /** Screen pixels to one of the project's. */
  get unit(): number {
    return this.canvas.width / this.projectWidth;
  }

  private newFramer(): Framer {
    const { width, height } = this.canvas;
    return new Framer(width, height, width / this.projectWidth, true);
  }

  /** A decoded picture at screen size, upright, with square pixels, black around it. The decoded one stays the caller's. */
  async develop(picture: VideoFrame, clip: OpenClip, framing: Framing): Promise<ShownPicture> {
    const planes = await this.framer.frame(picture, clip, framing);
    const shown = this.blank(planes.width, planes.height);
    toRgba(planes, shown.image.data);
    return shown;
  }

  /** A picture of pixels that are copied; it may be smaller than the screen, and fills it nevertheless. */
  pictureOf(pixels: Uint8ClampedArray, width: number, height: number): ShownPicture {
    const picture = this.blank(width, height);
    picture.image.data.set(pixels);
    return picture;
  }

  private blank(width: number, height: number): ShownPicture {
    const whole = width === this.canvas.width && height === this.canvas.height;
    const image = (whole ? this.spare.pop() : undefined) ?? new ImageData(width, height);
    return new ShownPicture(image, (used) => {
      const fits = used.width === this.canvas.width && used.height === this.canvas.height;
      if (fits && this.spare.length < MOST_SPARE) this.spare.push(used);
    });
  }

  show(picture: ShownPicture | undefined): void {
    const { width, height } = this.canvas;
    if (!picture) return this.context.clearRect(0, 0, width, height);
    const { image } = picture;
    if (image.width === width && image.height === height) return this.context.putImageData(image, 0, 0);
    this.small ??= new OffscreenCanvas(image.width, image.height);
    if (this.small.width !== image.width) this.small.width = image.width;
    if (this.small.height !== image.height) this.small.height = image.height;
    this.small.getContext('2d', { alpha: false })!.putImageData(image, 0, 0);
    this.context.drawImage(this.small, 0, 0, width, height);
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
