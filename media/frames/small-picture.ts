import { Placer } from '@skipback/core/pixels/place';
import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface } from '@skipback/core/pixels/surface';
import { Framer } from './framed';
import type { OpenClip, Orientation } from './open-clips';

/** Points taken for each of a small picture, each way: all of a picture's would take longer than decoding it. */
const OVER = 3;

/**
 * Makes small pictures of a clip's frames, upright and whole, whatever a project makes of them. The browser's own
 * drawing takes several times as long where there is no graphics card.
 */
export class SmallPictures {
  private readonly framer: Framer;
  private readonly placer: Placer;
  private readonly surface: Surface;
  private readonly small;

  /** `width` and `height` in pixels; another shape than the clip's stretches it. */
  constructor(
    shape: Orientation,
    readonly width: number,
    readonly height: number,
  ) {
    const over = {
      width: OVER * width,
      height: Math.max(1, Math.round((OVER * width * shape.height) / shape.width)),
    };
    const all = { x: 0, y: 0, width, height };
    this.framer = new Framer(over.width, over.height, 1, true);
    this.placer = new Placer(over, all, all);
    this.surface = new Surface(width, height);
    this.small = planesIn(new Uint8Array(planesBytes(width, height)), width, height);
  }

  /** The picture's red, green, blue and opaqueness; good until the next one. The decoded one stays the caller's. */
  async read(picture: VideoFrame, clip: OpenClip): Promise<Uint8ClampedArray<ArrayBuffer>> {
    const framed = await this.framer.frame(picture, clip, { framing: 'fill', held: undefined, clear: false });
    this.placer.place(framed, this.small);
    this.surface.load(this.small);
    return this.surface.pixels;
  }
}
