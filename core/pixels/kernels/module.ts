import { KERNELS } from './bytes';

/** The functions of the kernels' sources beside this file; their meaning stands there. Pointers are byte offsets into `memory`. */
export interface Kernels {
  toRgba(y: number, u: number, v: number, out: number, width: number, height: number): void;
  fromRgba(rgba: number, y: number, u: number, v: number, width: number, height: number): void;
  mix(a: number, b: number, out: number, bytes: number, weight: number): void;
  fill(a: number, pixels: number, colour: number, weight: number): void;
  maskFill(a: number, pixels: number, mask: number, colour: number): void;
  lookUp(a: number, pixels: number, tables: number): void;
  matrix(a: number, pixels: number, rows: number): void;
  add(a: number, b: number, bytes: number): void;
  screen(a: number, b: number, bytes: number): void;
  multiply(a: number, b: number, bytes: number): void;
  affine(
    a: number,
    out: number,
    width: number,
    height: number,
    ax: bigint,
    bx: bigint,
    cx: bigint,
    ay: bigint,
    by: bigint,
    cy: bigint,
    edges: number,
    mask: number,
  ): void;
  shift(
    a: number,
    out: number,
    width: number,
    height: number,
    dx: number,
    dy: number,
    edges: number,
    mask: number,
  ): void;
  edges(
    a: number,
    out: number,
    width: number,
    height: number,
    reach: number,
    threshold: number,
    gain: number,
  ): void;
  meanOfTwo(
    a: number,
    out: number,
    width: number,
    height: number,
    dx0: number,
    dy0: number,
    dx1: number,
    dy1: number,
    up: number,
  ): void;
  boxAcross(a: number, out: number, width: number, height: number, radius: number): void;
  boxDown(a: number, out: number, width: number, height: number, radius: number, sums: number): void;
  cube(a: number, pixels: number, table: number, n: number): void;
  blend(a: number, b: number, bytes: number, kind: number, weight: number): void;
  mean(sources: number, stride: number, weights: number, count: number, out: number, bytes: number): void;
  shrink(
    from: number,
    width: number,
    height: number,
    fromStride: number,
    by: number,
    out: number,
    stride: number,
  ): void;
  surround(picture: number, width: number, height: number, stride: number): void;
  search(
    a: number,
    b: number,
    width: number,
    height: number,
    stride: number,
    coarse: number,
    coarseWidth: number,
    coarseHeight: number,
    out: number,
    scratch: number,
    reach: number,
    iterations: number,
  ): void;
  densify(
    a: number,
    b: number,
    width: number,
    height: number,
    stride: number,
    patches: number,
    out: number,
    sums: number,
  ): void;
  median(from: number, width: number, height: number, out: number): void;
  check(
    a: number,
    b: number,
    width: number,
    height: number,
    stride: number,
    own: number,
    other: number,
    motions: number,
    marks: number,
  ): void;
  clear(cells: number, costs: number, count: number): void;
  carry(
    motions: number,
    marks: number,
    width: number,
    height: number,
    share: number,
    side: number,
    cells: number,
    costs: number,
  ): void;
  judge(
    a: number,
    b: number,
    width: number,
    height: number,
    stride: number,
    share: number,
    cells: number,
    maps: number,
  ): number;
  warp(
    a: number,
    b: number,
    width: number,
    height: number,
    by: number,
    share: number,
    cells: number,
    cellsWidth: number,
    cellsHeight: number,
    out: number,
    row: number,
  ): void;
  recolour(y: number, u: number, v: number, width: number, height: number, tables: number): void;
  resize(
    from: number,
    stride: number,
    out: number,
    startsAcross: number,
    weightsAcross: number,
    pitchAcross: number,
    width: number,
    startsDown: number,
    weightsDown: number,
    reachDown: number,
    pitchDown: number,
    height: number,
    rows: number,
    shift: number,
    rounds: number,
  ): void;
  placePlane(
    from: number,
    width: number,
    height: number,
    out: number,
    outWidth: number,
    outHeight: number,
    ax: bigint,
    bx: bigint,
    cx: bigint,
    ay: bigint,
    by: bigint,
    cy: bigint,
    edges: number,
    beyond: number,
  ): void;
  ellipse(
    out: number,
    width: number,
    height: number,
    stride: number,
    cx: number,
    cy: number,
    cos: number,
    sin: number,
    rx: number,
    ry: number,
    grow: number,
    feather: number,
    inverted: number,
  ): void;
  rectangle(
    out: number,
    width: number,
    height: number,
    stride: number,
    cx: number,
    cy: number,
    cos: number,
    sin: number,
    rx: number,
    ry: number,
    grow: number,
    feather: number,
    inverted: number,
  ): void;
  polygon(
    out: number,
    width: number,
    height: number,
    stride: number,
    corners: number,
    count: number,
    grow: number,
    feather: number,
    inverted: number,
  ): void;
  maskMix(a: number, b: number, pixels: number, mask: number): void;
  differ(
    ya: number,
    ua: number,
    va: number,
    yb: number,
    ub: number,
    vb: number,
    width: number,
    height: number,
    out: number,
    low: number,
    gain: number,
  ): void;
  meanAcross(a: number, out: number, width: number, height: number, radius: number): void;
  meanDown(a: number, out: number, width: number, height: number, radius: number, sums: number): void;
  steepen(a: number, count: number, level: number, gain: number): void;
  spread(
    a: number,
    width: number,
    height: number,
    out: number,
    outWidth: number,
    outHeight: number,
    sx: number,
    cx: number,
    sy: number,
    cy: number,
    beyond: number,
    inverted: number,
    line: number,
  ): void;
  maskBoth(a: number, b: number, count: number): void;
  lay(a: number, b: number, pixels: number, kind: number, weight: number): void;
  takeAlpha(to: number, from: number, pixels: number): void;
  clearOutside(
    to: number,
    width: number,
    height: number,
    left: number,
    top: number,
    right: number,
    bottom: number,
  ): void;
  rowsAside(a: number, out: number, width: number, height: number, shifts: number): void;
  grain(a: number, pixels: number, seed: number, amount: number): void;
  apart(pairs: number, first: number, second: number, count: number): void;
  toBytes(words: number, out: number, count: number, shift: number): void;
  toTen(bytes: number, out: number, count: number): void;
  premultiply(rgba: number, pixels: number): void;
  turn(
    from: number,
    width: number,
    height: number,
    out: number,
    swaps: number,
    across: number,
    down: number,
  ): void;
  throughCube(
    y: number,
    u: number,
    v: number,
    outY: number,
    outU: number,
    outV: number,
    width: number,
    height: number,
    cube: number,
  ): void;
}

interface Memory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): number;
}

/** What is used of the platform, which browsers and Node share. */
const platform = globalThis as unknown as {
  atob(base64: string): string;
  WebAssembly: {
    Memory: new (size: { initial: number; maximum: number }) => Memory;
    Module: new (bytes: Uint8Array) => object;
    Instance: new (module: object, imports: object) => { readonly exports: unknown };
  };
};

/** Bytes of a page of memory, and pages there may be: a gibibyte. */
const PAGE = 65_536;
const MOST_PAGES = 16_384;

let translated: object | undefined;

/** A set of kernels with a memory of its own, at least so many bytes. */
export function loadKernels(bytes: number): { kernels: Kernels; memory: Memory } {
  const { Memory, Module, Instance } = platform.WebAssembly;
  translated ??= new Module(Uint8Array.from(platform.atob(KERNELS), (c) => c.charCodeAt(0)));
  const memory = new Memory({ initial: Math.ceil(bytes / PAGE) + 1, maximum: MOST_PAGES });
  const abort = () => {
    throw new Error('A kernel stopped: it was given what it cannot work on.');
  };
  const instance = new Instance(translated, { env: { memory, abort } });
  return { kernels: instance.exports as Kernels, memory };
}
