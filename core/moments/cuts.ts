/**
 * Where a clip goes from one shot to another, told from small grey pictures of its frames. A pair of frames is a cut
 * where parts of one picture are found nowhere near in the other, while on both sides of it every frame goes on from the
 * one before. A flash is none: what was there before is there after it. Whips and shakes are none: their neighbours are
 * as far from each other. Likeness is correlation, which a change of light leaves as it is.
 */

/** Sizes of the pictures that are compared, pixels. */
export const SMALL = { width: 96, height: 54 } as const;

const SIZE = SMALL.width * SMALL.height;

/** Blocks that are looked for: their sides, how many, and their pixels. */
const BLOCK = { width: 12, height: 9 } as const;
const COLUMNS = SMALL.width / BLOCK.width;
const BLOCKS = COLUMNS * (SMALL.height / BLOCK.height);
const PIXELS = BLOCK.width * BLOCK.height;

/** Deviation, of 255 levels, below which a block shows nothing that could be found again. */
const EVEN = 5;
/** Correlation from which on a block is found, and from which on nothing better is looked for. */
const FOUND = 0.85;
const SAME = 0.97;
/** Pixels within which blocks are looked for first, and where they are not found there. */
const NEAR = 4;
const FAR = 14;

/** Parts of the picture that are lost over a cut within a shot, and over one to another shot, at least. */
const LEAST = 0.12;
const ANOTHER = 0.5;
/** A cut within a shot has lost so many times what its neighbours lose. */
const TIMES = 3;
const BESIDE = 0.05;
/** One to another shot has lost so much more than its neighbours. */
const MORE = 0.3;
/** Pairs on each side that are looked at: for a cut within a shot, and for one to another. */
const NEIGHBOURS = 4;
const NEAREST = 2;
/** Mean difference, of 255 levels, up to which a frame only repeats the one before. */
const REPEATED = 0.5;
/** Levels by which the mean changes in a flash at least. */
const FLASH = 12;
/** What comes back within so many seconds, or frames where that is more, has not gone. */
const BACK_S = 0.25;
const BACK_FRAMES = 3;

/** Pairs beside one that are passed at most in looking for such that do not only repeat. */
const PASSED = 3 * NEIGHBOURS;

/** Finds the cuts of a clip while its frames are read, one after the other. */
export class CutFinder {
  private readonly frames: Frames;
  private readonly found: number[] = [];
  private next = 1;
  private given = 0;

  /** For so many frames, at so many a second. */
  constructor(
    private readonly count: number,
    private readonly rateHz: number,
  ) {
    this.frames = new Frames(count);
  }

  /** The next frame's small grey picture, 0 to 255; without one it is taken to look like the one before, and no cut is told there. */
  take(picture: Uint8Array | undefined): void {
    const at = this.given++ * SIZE;
    const { values } = this.frames;
    if (picture) values.set(picture, at);
    else {
      this.frames.unread.add(this.given - 1);
      values.copyWithin(at, Math.max(0, at - SIZE), Math.max(0, at - SIZE) + SIZE);
    }
    const ahead = Math.max(PASSED, Math.round(BACK_S * this.rateHz)) + 1;
    this.findUpTo(this.given - ahead);
  }

  /** All cuts, each by the index of the first frame after it. */
  cuts(): readonly number[] {
    this.findUpTo(this.given);
    return this.found;
  }

  private findUpTo(end: number): void {
    for (; this.next < Math.min(end, this.count); this.next++)
      if (isCut(this.frames, this.next, this.rateHz)) this.found.push(this.next);
  }
}

/** Small pictures, and what was found out of them. */
class Frames {
  readonly values: Uint8Array;
  readonly unread = new Set<number>();
  private readonly blocks: (Blocks | undefined)[];
  private readonly steps: Float64Array;

  constructor(readonly count: number) {
    this.values = new Uint8Array(count * SIZE);
    this.blocks = Array.from({ length: count }, () => undefined);
    this.steps = new Float64Array(count).fill(-1);
  }

  private of(frame: number): Blocks {
    return (this.blocks[frame] ??= blocksOf(this.values, frame * SIZE));
  }

  /** What is lost from the frame before to this one: looked for nearby, and where much is not found there, farther away. */
  step(frame: number): number {
    if (this.steps[frame]! < 0) {
      const near = this.lost(frame - 1, frame, NEAR);
      this.steps[frame] = near < LEAST ? near : this.lost(frame - 1, frame, FAR);
    }
    return this.steps[frame]!;
  }

  /** The part of the blocks of two frames that show something and are not found in the other within `reach` pixels. */
  lost(a: number, b: number, reach: number): number {
    let [all, gone] = [0, 0];
    for (const [from, to] of [
      [a, b],
      [b, a],
    ] as const) {
      const blocks = this.of(from);
      for (let block = 0; block < BLOCKS; block++) {
        if (blocks.deviations[block]! < EVEN) continue;
        all++;
        if (!isFound(this.values, from * SIZE, to * SIZE, block, blocks, reach)) gone++;
      }
    }
    // Pictures that show next to nothing have next to nothing to lose.
    return gone / Math.max(all, BLOCKS / 2);
  }

  private difference(a: number, b: number): number {
    let sum = 0;
    for (let i = 0; i < SIZE; i++) sum += Math.abs(this.values[a * SIZE + i]! - this.values[b * SIZE + i]!);
    return sum / SIZE;
  }

  mean(frame: number): number {
    const { means } = this.of(frame);
    return means.reduce((sum, m) => sum + m, 0) / BLOCKS;
  }

  /** What is lost at the nearest `most` steps beside `frame`'s, before (`way` -1) or after it; frames that only repeat the one before are passed over. */
  beside(frame: number, way: -1 | 1, most: number): number[] {
    const found: number[] = [];
    for (let f = frame + way, seen = 0; found.length < most && seen < PASSED; f += way, seen++) {
      if (f < 1 || f >= this.count) break;
      if (this.difference(f - 1, f) > REPEATED) found.push(this.step(f));
    }
    return found;
  }
}

function isCut(frames: Frames, second: number, rateHz: number): boolean {
  const lost = frames.step(second);
  if (lost < LEAST) return false;
  const first = second - 1;
  if (frames.unread.has(first) || frames.unread.has(second)) return false;
  const sides = ([-1, 1] as const).map((way) => frames.beside(second, way, NEIGHBOURS));
  const jump = Math.abs(frames.mean(second) - frames.mean(first));
  if (lost >= ANOTHER) {
    // Of a whip both neighbours are lost; another cut may lie beside this one.
    const least = Math.max(
      ...sides.map((side) => Math.min(1, ...side.slice(0, NEAREST)) * Number(side.length > 0)),
    );
    if (lost < least + MORE) return false;
    return jump < FLASH || !comesBack(frames, second, lost, BACK_S * rateHz);
  }
  // Other cuts do not count as what is usual here.
  const usual = Math.max(0, ...sides.map((side) => meanOf(upToCut(side))));
  return lost >= TIMES * usual + BESIDE && jump < FLASH && !comesBack(frames, second, lost, BACK_FRAMES);
}

const meanOf = (values: readonly number[]): number =>
  values.length === 0 ? 0 : values.reduce((sum, v) => sum + v, 0) / values.length;

const upToCut = (side: readonly number[]): readonly number[] => {
  const end = side.findIndex((lost) => lost >= ANOTHER);
  return end < 0 ? side : side.slice(0, end);
};

/** Whether what is lost from one frame to the next is there again soon after, or was there shortly before. */
function comesBack(frames: Frames, second: number, lost: number, within: number): boolean {
  const most = Math.max(BACK_FRAMES, Math.round(within));
  for (let by = 1; by <= most; by++)
    for (const [a, b] of [
      [second - 1, second + by],
      [second - 1 - by, second],
    ] as const)
      if (a >= 0 && b < frames.count && frames.lost(a, b, FAR) < lost / 2) return true;
  return false;
}

/** What a picture's blocks are like. */
interface Blocks {
  readonly means: Float64Array;
  readonly deviations: Float64Array;
}

const cornerOf = (block: number): [x: number, y: number] => [
  (block % COLUMNS) * BLOCK.width,
  Math.floor(block / COLUMNS) * BLOCK.height,
];

function blocksOf(values: Uint8Array, at: number): Blocks {
  const [means, deviations] = [new Float64Array(BLOCKS), new Float64Array(BLOCKS)];
  for (let block = 0; block < BLOCKS; block++) {
    const [left, top] = cornerOf(block);
    let [sum, squares] = [0, 0];
    for (let y = top; y < top + BLOCK.height; y++)
      for (let x = left; x < left + BLOCK.width; x++) {
        const v = values[at + y * SMALL.width + x]!;
        sum += v;
        squares += v * v;
      }
    means[block] = sum / PIXELS;
    deviations[block] = Math.sqrt(Math.max(0, squares / PIXELS - means[block]! ** 2));
  }
  return { means, deviations };
}

/** Whether a block of the picture at `a` lies in the one at `b`, `reach` pixels away at most, nearest first. */
function isFound(
  values: Uint8Array,
  a: number,
  b: number,
  block: number,
  own: Blocks,
  reach: number,
): boolean {
  let best = correlation(values, a, b, block, own, 0, 0);
  for (let r = 1; r <= reach && best < SAME; r++)
    for (let dy = -r; dy <= r; dy++)
      // The rim of a square.
      for (let dx = -r; dx <= r; dx += Math.abs(dy) === r ? 1 : 2 * r)
        best = Math.max(best, correlation(values, a, b, block, own, dx, dy));
  return best >= FOUND;
}

/** The correlation of a block with what lies `dx`, `dy` from its place in the other picture; -1 where that is outside. */
function correlation(
  values: Uint8Array,
  a: number,
  b: number,
  block: number,
  own: Blocks,
  dx: number,
  dy: number,
): number {
  const [left, top] = cornerOf(block);
  const [x1, y1] = [left + dx, top + dy];
  if (x1 < 0 || y1 < 0 || x1 + BLOCK.width > SMALL.width || y1 + BLOCK.height > SMALL.height) return -1;
  let [sum, squares, product] = [0, 0, 0];
  for (let y = 0; y < BLOCK.height; y++) {
    const p = a + (top + y) * SMALL.width + left;
    const q = b + (y1 + y) * SMALL.width + x1;
    for (let x = 0; x < BLOCK.width; x++) {
      const v = values[q + x]!;
      sum += v;
      squares += v * v;
      product += v * values[p + x]!;
    }
  }
  const mean = sum / PIXELS;
  const spread = own.deviations[block]! * Math.sqrt(Math.max(0, squares / PIXELS - mean * mean));
  return spread < 1 ? 0 : (product / PIXELS - mean * own.means[block]!) / spread;
}
