import { type Planes, blacken, halfOf } from './planes';
import { type PlaneTaps, type Taps, ONE, pitchOf, resize } from './resize';

/** Where a picture lies in a frame, in whole pixels of the frame; it may reach over the edges. */
export interface Place {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Weights along one axis: a triangle as wide as a target pixel where the picture gets smaller by more than a
 * half, else between the two nearest. `sourceAt` gives the source's continuous place (pixel centres at .5) of a
 * target pixel's centre. Weights of a pixel sum to one exactly; beyond the source its last pixel goes on.
 */
function tapsFor(
  first: number,
  end: number,
  sourceSize: number,
  shrink: number,
  sourceAt: (d: number) => number,
): Taps {
  const radius = shrink > 1.5 ? shrink : 1;
  const reach = Math.ceil(radius) * 2;
  const starts = new Int32Array(end - first);
  const pitch = pitchOf(reach);
  const weights = new Int16Array((end - first) * pitch);
  for (let d = first; d < end; d++) {
    const centre = sourceAt(d) - 0.5;
    const begin = Math.floor(centre - radius) + 1;
    const raw = Array.from({ length: reach }, (_, k) =>
      Math.max(0, 1 - Math.abs(begin + k - centre) / radius),
    );
    const sum = raw.reduce((a, b) => a + b, 0);
    const start = Math.min(Math.max(0, begin), Math.max(0, sourceSize - reach));
    const own = weights.subarray((d - first) * pitch, (d - first) * pitch + reach);
    raw.forEach((w, k) => {
      const pixel = Math.min(sourceSize - 1, Math.max(0, begin + k));
      own[Math.min(reach - 1, pixel - start)]! += Math.round((w / sum) * ONE);
    });
    // What rounding left over goes to the heaviest.
    const heaviest = own.indexOf(own.reduce((a, b) => Math.max(a, b)));
    own[heaviest]! += ONE - own.reduce((a, b) => a + b, 0);
    starts[d - first] = start;
  }
  return { first, end, starts, reach, pitch, weights };
}

/** Places pictures of one size in frames of another; the weights are worked out once. */
export class Placer {
  private readonly luma: PlaneTaps;
  private readonly chroma: PlaneTaps;

  constructor(
    private readonly source: { readonly width: number; readonly height: number },
    frame: { readonly width: number; readonly height: number },
    place: Place,
    /** Takes a whole target pixel's worth of a picture that gets smaller; else only the nearest, which is quicker. */
    smooth = true,
  ) {
    const axis = (size: number, target: number, at: number, extent: number, halves: boolean): Taps => {
      const perPixel = size / extent;
      const scale = halves ? 2 : 1;
      const first = Math.max(0, Math.floor(at / scale));
      const end = Math.min(halves ? halfOf(target) : target, Math.ceil((at + extent) / scale));
      return tapsFor(
        first,
        Math.max(first, end),
        halves ? halfOf(size) : size,
        smooth ? perPixel : 1,
        (d) => ((d + 0.5) * scale - at) * (perPixel / scale),
      );
    };
    const both = (halves: boolean): PlaneTaps => ({
      across: axis(source.width, frame.width, place.x, place.width, halves),
      down: axis(source.height, frame.height, place.y, place.height, halves),
    });
    this.luma = both(false);
    this.chroma = both(true);
  }

  /** Draws a picture into a frame, black around it; `black` is what brightness is there. */
  place(picture: Planes, frame: Planes, black?: number): void {
    blacken(frame, black);
    const [w, h] = [halfOf(this.source.width), halfOf(frame.width)];
    resize(picture.y, this.source.width, frame.y, frame.width, this.luma);
    resize(picture.u, w, frame.u, h, this.chroma);
    resize(picture.v, w, frame.v, h, this.chroma);
  }
}
