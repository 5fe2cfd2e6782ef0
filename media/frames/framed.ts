import { Placer } from '@skipback/core/pixels/place';
import { WORKING_COLOUR } from '@skipback/core/pixels/colour';
import { type Planes, planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Putter } from '@skipback/core/pixels/put';
import { placeInFrame } from '@skipback/core/steady/framing';
import { about, both } from '@skipback/core/steady/similar';
import type { OpenClip } from './open-clips';
import type { Placement } from './placement';
import { type Seen, blackOf, clearPlanes, seenPlanes, toWorking, workingPlanes } from './working-planes';

/** Places decoded pictures in frames of one size: for the file at its own, for the screen at that. */
export class Framer {
  private readonly placers = new Map<string, Placer>();

  constructor(
    readonly width: number,
    readonly height: number,
    /** Frame pixels to one of the project's. */
    private readonly scale: number,
    /** For the screen: quicker where a picture gets smaller, and its planes last only until the next picture. */
    private readonly forScreen = false,
  ) {}

  private source = new Uint8Array(0);
  private target: Planes | undefined;
  private putter: Putter | undefined;

  /** The picture in its frame: I420, BT.709 in limited range. The decoded one stays the caller's. */
  async frame(picture: VideoFrame, clip: OpenClip, { framing, held, clear }: Placement): Promise<Planes> {
    const { width: w, height: h } = picture.visibleRect!;
    // Pictures are framed one after the other: what was decoded into is free again by then.
    const own = this.forScreen || held !== undefined || w !== this.width || h !== this.height;
    if (own && this.source.length !== planesBytes(w, h)) this.source = new Uint8Array(planesBytes(w, h));
    const into = own ? this.source : undefined;
    const { planes, colour } = await this.read(picture, clip, clear, into);
    const black = blackOf(colour);
    if (held) {
      const frame = this.emptyFrame();
      const map = both(about({ x: 0, y: 0 }, { x: 0, y: 0 }, this.scale, 0), held.map);
      this.putter ??= new Putter(this.width, this.height, !this.forScreen);
      this.putter.put(planes, clip.orientation, map, held.edges, frame, black);
      return ours({ planes: frame, colour });
    }
    const box = placeInFrame(clip.orientation, this, framing, this.scale);
    const whole = box.x === 0 && box.y === 0 && box.width === this.width && box.height === this.height;
    if (whole && planes.width === this.width && planes.height === this.height)
      return ours({ planes, colour });
    const key = `${planes.width} ${planes.height} ${box.x} ${box.y} ${box.width} ${box.height}`;
    let placer = this.placers.get(key);
    if (!placer) this.placers.set(key, (placer = new Placer(planes, this, box, !this.forScreen)));
    const frame = this.emptyFrame();
    placer.place(planes, frame, black);
    return ours({ planes: frame, colour });
  }

  /** For the file in our colour, from all its bits; for the screen it is made smaller first, and brought to that then. */
  private async read(
    picture: VideoFrame,
    { orientation }: OpenClip,
    clear: boolean,
    into: Uint8Array | undefined,
  ): Promise<Seen> {
    if (this.forScreen && !clear) return seenPlanes(picture, orientation, into);
    const read = clear ? clearPlanes : workingPlanes;
    return { planes: await read(picture, orientation, into), colour: WORKING_COLOUR };
  }

  private emptyFrame(): Planes {
    const { width, height } = this;
    const fresh = () => planesIn(new Uint8Array(planesBytes(width, height)), width, height);
    return this.forScreen ? (this.target ??= fresh()) : fresh();
  }
}

/** Planes brought to the colour that is worked in. */
function ours(seen: Seen): Planes {
  toWorking(seen);
  return seen.planes;
}
