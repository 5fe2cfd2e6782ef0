import { MOST_CORNERS, type Mask } from '../regions/region';
import { drawMask } from './shape-mask';
import type { Box } from '../steady/framing';
import { type Similar, undone } from '../steady/similar';
import { type Kernels, loadKernels } from './kernels/module';
import { type Planes, halfOf } from './planes';

/** How another picture is laid over this one. */
export const BLENDS = ['darken', 'lighten', 'screen', 'add'] as const;
export type Blend = (typeof BLENDS)[number];

/** How a picture that may be partly transparent is laid on this one. */
export const LAYINGS = ['normal', 'add', 'screen', 'multiply', 'darken', 'lighten'] as const;

/** A picture laid on: see `Surface.laid`. */
export interface Laying {
  readonly blend: (typeof LAYINGS)[number];
  readonly share: number;
  /** How much of each point is there, as light and dark; the picture's colours are multiplied by it already. */
  readonly clear?: Layer | undefined;
  /** Outside of it nothing is there, pixels. */
  readonly box?: Box | undefined;
  /** Where it is put, if elsewhere. */
  readonly map?: Affine | undefined;
}

/** Another picture of the same size: in BT.709 limited range, or RGBA. */
export type Layer = Planes | Uint8Array;

/** Red, green and blue, 0 to 255. */
export type Rgb = readonly [number, number, number];

/** What is seen beyond a picture's edges. */
export type Edges = 'black' | 'stretched' | 'mirrored' | 'nothing';
const EDGES: Record<Edges, number> = { black: 0, stretched: 1, mirrored: 2, nothing: 3 };

/** Where a pixel is read: (ax x + bx y + cx, ay x + by y + cy), pixels. */
export interface Affine {
  readonly ax: number;
  readonly bx: number;
  readonly cx: number;
  readonly ay: number;
  readonly by: number;
  readonly cy: number;
}

/** Colour channels as bits of a pixel. */
export const CHANNELS = { red: 0x0000ff, green: 0x00ff00, blue: 0xff0000, all: 0xffffff } as const;

/** Bytes a lookup cube may have: 65 entries each way. */
const CUBE_BYTES = 3 * 65 ** 3;
/** Also room for the corners of a polygon. */
const TABLE_BYTES = 8 * MOST_CORNERS;
/** Neighbouring slots begin this much apart from what would make them fall on the same cache lines. */
const STAGGER = 256;

/**
 * A picture that treatments are drawn on: RGBA, eight bits, gamma-coded values as they are. Its memory is taken
 * once for a size; every operation works from one slot into another and never allocates.
 */
export class Surface {
  private readonly kernels: Kernels;
  private readonly memory: { readonly buffer: ArrayBuffer };
  private readonly bytes: number;
  private readonly slots: number[];
  private readonly y: number;
  private readonly u: number;
  private readonly v: number;
  private readonly mask: number;
  private readonly region: number;
  private readonly matte: number;
  private readonly table: number;
  private readonly cubeAt: number;
  private readonly sums: number;
  /** How many pictures of before are kept just now. */
  private kept = 0;
  private maskKey = '';
  private regionKey = '';
  private cubeKey = '';

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.bytes = 4 * width * height;
    const chroma = halfOf(width) * halfOf(height);
    let end = 4096;
    const take = (bytes: number) => {
      const at = end;
      end = Math.ceil((end + bytes) / 64) * 64 + STAGGER;
      return at;
    };
    // What is seen, what is drawn into, what was before a treatment, and one for what a treatment makes on the way.
    this.slots = Array.from({ length: 4 }, () => take(this.bytes));
    this.y = take(width * height);
    this.u = take(chroma);
    this.v = take(chroma);
    this.mask = take(width * height);
    this.region = take(width * height);
    this.matte = take(width * height);
    this.table = take(TABLE_BYTES);
    this.cubeAt = take(CUBE_BYTES);
    // Sums of columns, or a number a row.
    this.sums = take(Math.max(16 * width, 4 * height));
    const { kernels, memory } = loadKernels(end);
    this.kernels = kernels;
    this.memory = memory;
  }

  /** Bytes it takes. */
  get memoryBytes(): number {
    return this.memory.buffer.byteLength;
  }

  private get seen(): number {
    return this.slots[0]!;
  }
  private get other(): number {
    return this.slots[1]!;
  }

  private swap(): void {
    [this.slots[0], this.slots[1]] = [this.slots[1]!, this.slots[0]!];
  }

  /** The picture as it is now; good until the next operation. */
  get pixels(): Uint8ClampedArray<ArrayBuffer> {
    return new Uint8ClampedArray(this.memory.buffer, this.seen, this.bytes);
  }

  /** Takes a picture in BT.709 limited range. */
  load(picture: Planes): void {
    this.bring(picture, this.seen);
  }

  loadRgba(pixels: ArrayLike<number>): void {
    new Uint8Array(this.memory.buffer, this.seen, this.bytes).set(pixels);
  }

  /** Gives the picture in BT.709 limited range. */
  store(into: Planes): void {
    this.kernels.fromRgba(this.seen, this.y, this.u, this.v, this.width, this.height);
    into.y.set(new Uint8Array(this.memory.buffer, this.y, into.y.length));
    into.u.set(new Uint8Array(this.memory.buffer, this.u, into.u.length));
    into.v.set(new Uint8Array(this.memory.buffer, this.v, into.v.length));
  }

  /** Another picture laid over this one, by a share; first blurred along a line of (dx, dy) pixels, where one is given. */
  blend(layer: Layer, blend: Blend, share: number, line?: readonly [dx: number, dy: number]): void {
    this.bring(layer, this.onTheWay);
    if (line) {
      this.exchange();
      this.blurAlong(...line);
      this.exchange();
    }
    this.kernels.blend(this.seen, this.onTheWay, this.bytes, BLENDS.indexOf(blend), weightOf(share));
  }

  /** Another picture laid on this one, which may be partly transparent, sized, turned and moved. */
  laid(layer: Layer, { blend, share, clear, box, map }: Laying): void {
    const { width, height, kernels } = this;
    const own = this.onTheWay;
    this.bring(layer, own);
    if (clear) {
      this.bring(clear, this.other);
      kernels.takeAlpha(own, this.other, width * height);
    }
    if (box) kernels.clearOutside(own, width, height, box.x, box.y, box.x + box.width, box.y + box.height);
    if (map) this.moved(own, this.other, map, 'nothing', CHANNELS.all);
    kernels.lay(this.seen, map ? this.other : own, width * height, LAYINGS.indexOf(blend), weightOf(share));
  }

  /** What is seen against what a treatment made on the way. */
  private exchange(): void {
    [this.slots[0], this.slots[3]] = [this.onTheWay, this.slots[0]!];
  }

  private put(at: number, data: Uint8Array): void {
    new Uint8Array(this.memory.buffer, at, data.length).set(data);
  }

  private copy(from: number, to: number): void {
    new Uint8Array(this.memory.buffer).copyWithin(to, from, from + this.bytes);
  }

  /**
   * Carries something out and gives where the picture of before is. Inside another such the slot for what is made on the
   * way is taken for it: what needs that one too throws, instead of losing one of the two.
   */
  private keeping(draw: () => void): number {
    const before = this.slots[2 + this.kept]!;
    if (this.kept > 1) throw new RangeError('no slot is left for another picture of before');
    this.copy(this.seen, before);
    this.kept++;
    try {
      draw();
    } finally {
      this.kept--;
    }
    return before;
  }

  /** The slot for what a treatment makes on the way. */
  private get onTheWay(): number {
    if (this.kept > 1) throw new RangeError('the slot for what is made on the way is taken');
    return this.slots[3]!;
  }

  /** Carries something out and lets only a share of it be seen. */
  share(share: number, draw: () => void): void {
    if (share >= 1) return draw();
    const before = this.keeping(draw);
    this.kernels.mix(before, this.seen, this.seen, this.bytes, weightOf(share));
  }

  /**
   * Carries something out and lets it be seen, by a share, in a part of the picture: where a mask is, on the points of a
   * matte of a byte each, or where both are. `unit` is as for treatments.
   */
  within(
    { mask, matte }: { readonly mask?: Mask | undefined; readonly matte?: Uint8Array | undefined },
    unit: number,
    share: number,
    draw: () => void,
  ): void {
    const points = this.width * this.height;
    const before = this.keeping(draw);
    if (share < 1) this.kernels.mix(before, this.seen, this.seen, this.bytes, weightOf(share));
    const region = mask && this.maskAt(mask, unit);
    if (matte) {
      this.put(this.matte, matte);
      if (region !== undefined) this.kernels.maskBoth(this.matte, region, points);
    }
    this.kernels.maskMix(before, this.seen, points, matte ? this.matte : region!);
  }

  /** A mask's bytes, worked out where it is another one than before. */
  private maskAt(mask: Mask, unit: number): number {
    const key = `${unit} ${JSON.stringify(mask)}`;
    if (key === this.regionKey) return this.region;
    this.regionKey = key;
    const { kernels, memory, region, table } = this;
    const { width, height } = this;
    drawMask(mask, unit, { width, height, at: region, corners: table, kernels, memory });
    return region;
  }

  /** Another picture in place of this one. */
  lay(layer: Layer): void {
    this.bring(layer, this.seen);
  }

  private bring(layer: Layer, to: number): void {
    if (layer instanceof Uint8Array) return this.put(to, layer);
    this.put(this.y, layer.y);
    this.put(this.u, layer.u);
    this.put(this.v, layer.v);
    this.kernels.toRgba(this.y, this.u, this.v, to, this.width, this.height);
  }

  /** One colour over everything, by a share. */
  fill(colour: Rgb, share: number): void {
    this.kernels.fill(this.seen, this.width * this.height, packed(colour), weightOf(share));
  }

  /** One colour by a mask of a byte a pixel; `make` fills it where `key` says that it is another one. */
  fillMask(colour: Rgb, key: string, make: (mask: Uint8Array, width: number, height: number) => void): void {
    if (this.maskKey !== key) {
      make(new Uint8Array(this.memory.buffer, this.mask, this.width * this.height), this.width, this.height);
      this.maskKey = key;
    }
    this.kernels.maskFill(this.seen, this.width * this.height, this.mask, packed(colour));
  }

  /** Every value through its channel's table of 256. */
  tables(red: Uint8Array, green: Uint8Array, blue: Uint8Array): void {
    this.put(this.table, red);
    this.put(this.table + 256, green);
    this.put(this.table + 512, blue);
    this.kernels.lookUp(this.seen, this.width * this.height, this.table);
  }

  /** Colours through a matrix, row by row; factors from -7.9 to 7.9. */
  matrix(rows: readonly (readonly [number, number, number])[]): void {
    const fixed = new Int16Array(12);
    rows.forEach((row, r) =>
      row.forEach((f, c) => (fixed[4 * r + c] = Math.round(Math.min(7.9, Math.max(-7.9, f)) * 4096))),
    );
    this.put(this.table, new Uint8Array(fixed.buffer));
    this.kernels.matrix(this.seen, this.width * this.height, this.table);
  }

  /** Through a cube of `n` entries each way, three bytes each, red fastest. `key` says when it is another one. */
  cube(key: string, n: number, entries: Uint8Array): void {
    if (this.cubeKey !== key) {
      this.put(this.cubeAt, entries);
      this.cubeKey = key;
    }
    this.kernels.cube(this.seen, this.width * this.height, this.cubeAt, n);
  }

  /** The picture moved, sized and turned; with `channels` only these, the others stay where they are. */
  affine(map: Affine, edges: Edges, channels: number = CHANNELS.all): void {
    if (channels !== CHANNELS.all) this.copy(this.seen, this.other);
    this.moved(this.seen, this.other, map, edges, channels);
    this.swap();
  }

  /** Shifts up to 32,000 pixels; `placed` gives no farther ones for what a field takes. */
  private moved(from: number, to: number, map: Affine, edges: Edges, channels: number): void {
    const { width, height } = this;
    const mask = (channels | 0xff000000) >>> 0;
    if (map.ax === 1 && map.by === 1 && map.bx === 0 && map.ay === 0) {
      const [dx, dy] = [Math.round(map.cx * 65536), Math.round(map.cy * 65536)];
      return this.kernels.shift(from, to, width, height, dx, dy, EDGES[edges], mask);
    }
    const fixed = (value: number) => BigInt(Math.round(value * 65536));
    this.kernels.affine(
      ...([from, to, width, height, fixed(map.ax), fixed(map.bx), fixed(map.cx)] as const),
      ...([fixed(map.ay), fixed(map.by), fixed(map.cy), EDGES[edges]] as const),
      mask,
    );
  }

  /** Means over a line of (dx, dy) pixels, centred: passes that double what the ones before have gathered. */
  blurAlong(dx: number, dy: number): void {
    /**
     * How far the picture lies off by now, in halves of a pixel: a pass of an odd way puts it half a pixel aside, the next
     * such pass back. A line of an odd number of pixels ends in its middle; one of an even number has none.
     */
    const off = [0, 0];
    const from = (way: number, axis: 0 | 1): number => {
      const odd = way % 2 !== 0;
      // One way and the other in turn.
      const begins =
        odd && off[axis]! > 0 ? Math.ceil(-way / 2 - 0.5) : odd ? Math.floor(-way / 2 + 0.5) : -way / 2;
      off[axis] = off[axis]! + 2 * begins + way;
      return begins;
    };
    this.inPasses(Math.hypot(dx, dy), (share, up) => {
      const [x, y] = [Math.round(dx * share), Math.round(dy * share)];
      const [x0, y0] = [from(x, 0), from(y, 1)];
      this.kernels.meanOfTwo(
        ...([this.seen, this.other, this.width, this.height] as const),
        ...([x0, y0, x0 + x, y0 + y, up] as const),
      );
      this.swap();
    });
  }

  /** The same along rays from the middle: from (1 - amount / 2) to about (1 + amount / 2) times the size. */
  blurZoom(amount: number): void {
    const sized = (zoom: number) => placed(this, { zoom, degrees: 0, x: 0, y: 0 });
    this.affine(sized(1 - amount / 2), 'stretched');
    this.inPasses((amount * Math.hypot(this.width, this.height)) / 2, (share) => {
      this.moved(this.seen, this.other, sized(1 + amount * share), 'stretched', CHANNELS.all);
      this.kernels.mix(this.seen, this.other, this.seen, this.bytes, 128);
    });
  }

  /** Passes for a way of so many pixels: each takes half the share of the one before, until below a pixel. */
  private inPasses(pixels: number, pass: (share: number, up: 0 | 1) => void): void {
    let up: 0 | 1 = 0;
    for (let share = 0.5; pixels * share > 0.5; share /= 2) {
      pass(share, up);
      up = up === 0 ? 1 : 0;
    }
  }

  /** Every row aside by a whole number of pixels, right positive; its edges go on. */
  rowsAside(shifts: Int32Array): void {
    this.put(this.sums, new Uint8Array(shifts.buffer, shifts.byteOffset, 4 * this.height));
    this.kernels.rowsAside(this.seen, this.other, this.width, this.height, this.sums);
    this.swap();
  }

  /** Every pixel darker or lighter by up to `amount` of 255, another way for another seed. */
  grain(seed: number, amount: number): void {
    this.kernels.grain(this.seen, this.width * this.height, seed, Math.round(amount));
  }

  /** A round blur, by two boxes each way; `radius` pixels. */
  blurRound(radius: number): void {
    const whole = Math.round(radius / 2);
    if (whole < 1) return;
    const reach = Math.min(whole, 2000);
    for (let i = 0; i < 2; i++) {
      this.kernels.boxAcross(this.seen, this.other, this.width, this.height, reach);
      this.kernels.boxDown(this.other, this.seen, this.width, this.height, reach, this.sums);
    }
  }

  /** The picture's edges laid over it; how, `Outlining` says. */
  outline({ reach, threshold, gain, soft, colour, laid, map }: Outlining): void {
    const { width, height, kernels, bytes } = this;
    const lines = this.onTheWay;
    kernels.edges(this.seen, lines, width, height, reach, threshold, gain);
    const reachOfBlur = Math.min(2000, Math.round(soft / 2));
    if (reachOfBlur >= 1) {
      kernels.boxAcross(lines, this.other, width, height, reachOfBlur);
      kernels.boxDown(this.other, lines, width, height, reachOfBlur, this.sums);
    }
    if (colour) {
      this.put(
        this.table,
        Uint8Array.from({ length: 256 }, (_, e) => Math.round((e * colour[0]) / 255)),
      );
      this.put(
        this.table + 256,
        Uint8Array.from({ length: 256 }, (_, e) => Math.round((e * colour[1]) / 255)),
      );
      this.put(
        this.table + 512,
        Uint8Array.from({ length: 256 }, (_, e) => Math.round((e * colour[2]) / 255)),
      );
      kernels.lookUp(lines, width * height, this.table);
    } else kernels.multiply(lines, this.seen, bytes);
    let from = lines;
    if (map) {
      this.moved(lines, this.other, map, 'black', CHANNELS.all);
      from = this.other;
    }
    if (laid === 'add') kernels.add(this.seen, from, bytes);
    else if (laid === 'screen') kernels.screen(this.seen, from, bytes);
    else this.copy(from, this.seen);
  }
}

/** How edges are found and laid over a picture. */
export interface Outlining {
  /** Pixels over which a change counts. */
  readonly reach: number;
  /** Changes up to this, of 255, are passed over. */
  readonly threshold: number;
  /** Sixteenths. */
  readonly gain: number;
  /** Pixels of softness. */
  readonly soft: number;
  /** One colour; undefined for those of the picture. */
  readonly colour: Rgb | undefined;
  readonly laid: 'add' | 'screen' | 'alone';
  /** Where the edges lie, if elsewhere. */
  readonly map: Affine | undefined;
}

/** A share in 256ths. */
export const weightOf = (share: number): number => Math.round(256 * Math.min(1, Math.max(0, share)));

const packed = ([r, g, b]: Rgb): number => ((255 << 24) | (b << 16) | (g << 8) | r) >>> 0;

/** The map that shows a picture `zoom` times as large, turned by `degrees` and then moved by (x, y) pixels, about its middle. */
export function placed(
  { width, height }: { readonly width: number; readonly height: number },
  { zoom, degrees, x, y }: { zoom: number; degrees: number; x: number; y: number },
): Affine {
  const turn = (degrees * Math.PI) / 180;
  const [cos, sin] = [Math.cos(turn) / zoom, Math.sin(turn) / zoom];
  const [mx, my] = [(width - 1) / 2, (height - 1) / 2];
  const [tx, ty] = [mx + x, my + y];
  return {
    ax: cos,
    bx: sin || 0,
    cx: mx - cos * tx - sin * ty,
    ay: -sin || 0,
    by: cos,
    cy: my + sin * tx - cos * ty,
  };
}

/** The same as something is put, in pixels of a picture of which `unit` are one of its own. */
export function affineOf(map: Similar, unit: number): Affine {
  const back = undone(map);
  // Middles of pixels lie at halves.
  const middle = (a: number, b: number, c: number) => (a + b) / 2 + c * unit - 0.5;
  return {
    ...{ ax: back.a, bx: -back.b || 0, cx: middle(back.a, -back.b, back.x) },
    ...{ ay: back.b, by: back.a, cy: middle(back.b, back.a, back.y) },
  };
}
