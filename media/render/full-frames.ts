import { type Planes, blacken, planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Framer } from '../frames/framed';
import type { OpenClip } from '../frames/open-clips';
import type { Placement } from '../frames/placement';
import { isWorking } from '../frames/working-planes';

/** How every picture of a file says its colour. */
export const FILE_COLOUR: VideoColorSpaceInit = {
  matrix: 'bt709',
  primaries: 'bt709',
  transfer: 'bt709',
  fullRange: false,
};

/**
 * Pictures at the file's size, all in one colour space: I420, BT.709, limited range. One that is that already,
 * of this size, upright and with square pixels, keeps its pixels as the decoder made them, copied out of the
 * decoder's own pool so that hundreds may be held; any other is converted and placed by our own arithmetic.
 */
export class FullFrames {
  private readonly framer: Framer;
  /** Pictures that went through as the decoder made them, and those that were made anew. */
  readonly counts = { untouched: 0, made: 0 };

  constructor(
    private readonly width: number,
    private readonly height: number,
    /** File pixels to one of the project's. */
    scale: number,
  ) {
    this.framer = new Framer(width, height, scale);
  }

  async develop(picture: VideoFrame, clip: OpenClip, placement: Placement): Promise<VideoFrame> {
    const { orientation } = clip;
    const untouched =
      !placement.held &&
      !placement.clear &&
      isWorking(picture) &&
      orientation.rotation === 0 &&
      !orientation.flip &&
      picture.displayWidth === this.width &&
      picture.displayHeight === this.height &&
      picture.visibleRect?.width === this.width &&
      picture.visibleRect.height === this.height;
    if (untouched) {
      this.counts.untouched++;
      return copyOut(picture);
    }
    this.counts.made++;
    return frameOf(await this.framer.frame(picture, clip, placement));
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
    colorSpace: FILE_COLOUR,
    transfer: [buffer],
  };
  return new VideoFrame(buffer, init);
}

/** A picture of planes that lie in one buffer; the buffer goes with it. */
function frameOf({ width, height, y }: Planes): VideoFrame {
  const init = {
    format: 'I420' as const,
    codedWidth: width,
    codedHeight: height,
    timestamp: 0,
    colorSpace: FILE_COLOUR,
    transfer: [y.buffer as ArrayBuffer],
  };
  return new VideoFrame(y.buffer as ArrayBuffer, init);
}

/** A black picture, in the file's colour. */
export function blackFrame({ width, height }: { width: number; height: number }): VideoFrame {
  const planes = planesIn(new Uint8Array(planesBytes(width, height)), width, height);
  blacken(planes);
  return frameOf(planes);
}

/** Bytes a picture holds. */
export function pictureBytes(picture: VideoFrame): number {
  return picture.format === null ? picture.codedWidth * picture.codedHeight * 4 : picture.allocationSize();
}
