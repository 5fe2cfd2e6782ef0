import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Framer } from '../frames/framed';
import type { OpenClip } from '../frames/open-clips';
import type { Placement } from '../frames/placement';

/** A source picture at the screen's size: I420, BT.709 in limited range. */
export class SourcePicture {
  constructor(
    readonly bytes: Uint8Array,
    readonly width: number,
    readonly height: number,
    private readonly giveBack: (bytes: Uint8Array) => void,
  ) {}

  close(): void {
    this.giveBack(this.bytes);
  }
}

/** A picture as it is shown; it may be smaller than the screen, and fills it nevertheless. */
export class ShownPicture {
  constructor(
    readonly image: ImageData,
    private readonly giveBack: () => void,
  ) {}

  close(): void {
    this.giveBack();
  }
}

/** Buffers kept for the next source pictures, at most: fresh ones take longer than filling them. */
const MOST_SPARE = 16;

/** The visible canvas, and the making of pictures at its size: the same arithmetic as the file's. */
export class Screen {
  private readonly context: OffscreenCanvasRenderingContext2D;
  private framer: Framer;
  private spare: Uint8Array[] = [];
  /** For pictures that were made smaller than the screen. */
  private small: OffscreenCanvas | undefined;
  /** Width of the project's picture, which the screen shows smaller or larger. */
  private projectWidth = 1280;

  constructor(
    private readonly canvas: OffscreenCanvas,
    /** Gives memory for a source picture. */
    private readonly newBytes: (length: number) => Uint8Array,
  ) {
    this.context = canvas.getContext('2d', { alpha: false })!;
    this.framer = this.newFramer();
  }

  /** Bytes of a picture as it is shown, and of one it is made of. */
  get pictureBytes(): number {
    return this.canvas.width * this.canvas.height * 4;
  }
  get sourceBytes(): number {
    return planesBytes(this.canvas.width, this.canvas.height);
  }

  get size(): { readonly width: number; readonly height: number } {
    return { width: this.canvas.width, height: this.canvas.height };
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
  async develop(picture: VideoFrame, clip: OpenClip, placement: Placement): Promise<SourcePicture> {
    const planes = await this.framer.frame(picture, clip, placement);
    const { width, height } = planes;
    const bytes = this.spare.pop() ?? this.newBytes(planesBytes(width, height));
    const held = planesIn(bytes, width, height);
    held.y.set(planes.y);
    held.u.set(planes.u);
    held.v.set(planes.v);
    return new SourcePicture(bytes, width, height, (used) => {
      if (used.length === this.sourceBytes && this.spare.length < MOST_SPARE) this.spare.push(used);
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
