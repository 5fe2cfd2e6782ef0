import { type Similar, sizeOf, undone } from '../steady/similar';
import { type Kernels, loadKernels } from './kernels/module';
import { Placer } from './place';
import { type Planes, halfOf, planesBytes, planesIn } from './planes';

/** A picture that gets smaller by more than this is made smaller first. */
const SHRINKS = 1.5;

/** Puts pictures into frames of one size: sized, turned and moved by parts of a pixel. Its memory is taken once for a size of pictures. */
export class Putter {
  private kernels: Kernels | undefined;
  private memory: { readonly buffer: ArrayBuffer } = { buffer: new ArrayBuffer(0) };
  private room = 0;
  private readonly shrinkers = new Map<string, Placer>();
  private small = new Uint8Array(0);

  constructor(
    readonly width: number,
    readonly height: number,
    /** Takes all of a picture's pixels where it gets smaller; else only the nearest, which is quicker. */
    private readonly smooth: boolean,
  ) {}

  /**
   * A picture into a frame. `map` leads from pixels of a picture `shown` large, square ones, to those of the frame; the
   * planes may have other numbers of them. Beyond its edges it is black, of that brightness, or mirrored.
   */
  put(
    picture: Planes,
    shown: { readonly width: number; readonly height: number },
    map: Similar,
    edges: 'black' | 'mirrored',
    into: Planes,
    black = 16,
  ): void {
    const perFramePixel = 1 / sizeOf(map);
    const from = this.smooth && perFramePixel > SHRINKS ? this.smaller(picture, perFramePixel) : picture;
    const [sx, sy] = [from.width / shown.width, from.height / shown.height];
    const kernels = this.loaded(from);
    const back = undone(map);
    const [source, target] = [this.start, this.start + this.room];
    const plane = (data: Uint8Array, out: Uint8Array, by: 1 | 2, beyond: number) => {
      const half = (size: number) => (by === 2 ? halfOf(size) : size);
      const fixed = (value: number) => BigInt(Math.round(value * 65536));
      // Middles of pixels lie at halves; those of colour stand for two by two.
      const cx = ((back.a - back.b) * by * 0.5 + back.x) * sx;
      const cy = ((back.b + back.a) * by * 0.5 + back.y) * sy;
      new Uint8Array(this.memory.buffer, source, data.length).set(data);
      kernels.placePlane(
        ...([source, half(from.width), half(from.height)] as const),
        ...([target, half(this.width), half(this.height)] as const),
        ...([fixed(back.a * sx), fixed(-back.b * sx), fixed(cx / by - 0.5)] as const),
        ...([fixed(back.b * sy), fixed(back.a * sy), fixed(cy / by - 0.5)] as const),
        edges === 'black' ? 0 : 2,
        beyond,
      );
      out.set(new Uint8Array(this.memory.buffer, target, out.length));
    };
    plane(from.y, into.y, 1, black);
    plane(from.u, into.u, 2, 128);
    plane(from.v, into.v, 2, 128);
  }

  private readonly start = 4096;

  private loaded({ width, height }: Planes): Kernels {
    const bytes = 64 * Math.ceil(Math.max(width * height, this.width * this.height) / 64) + 256;
    if (!this.kernels || bytes > this.room) {
      this.room = bytes;
      const { kernels, memory } = loadKernels(this.start + 2 * bytes);
      this.kernels = kernels;
      this.memory = memory;
    }
    return this.kernels;
  }

  private smaller(picture: Planes, by: number): Planes {
    const [width, height] = [picture.width, picture.height].map((s) => Math.max(2, Math.round(s / by))) as [
      number,
      number,
    ];
    const key = `${picture.width} ${picture.height} ${width} ${height}`;
    let shrinker = this.shrinkers.get(key);
    if (!shrinker) {
      // A size that goes on changing would gather weights without end.
      if (this.shrinkers.size > 8) this.shrinkers.clear();
      shrinker = new Placer(picture, { width, height }, { x: 0, y: 0, width, height });
      this.shrinkers.set(key, shrinker);
    }
    const bytes = planesBytes(width, height);
    if (this.small.length !== bytes) this.small = new Uint8Array(bytes);
    const to = planesIn(this.small, width, height);
    shrinker.place(picture, to);
    return to;
  }
}
