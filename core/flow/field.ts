/** Pixels repeated around a grey picture, as in the kernels. */
export const PAD = 24;
/** Width and height within which motion is looked for; larger pictures are made smaller first. */
const WORKING_WIDTH = 640;
const WORKING_HEIGHT = 360;
/** Pictures whose field would have a side shorter than this have no motion. */
const SMALLEST = 16;

/** Sizes of a picture's motion: it is known in cells of `by` x `by` pixels. */
export interface FieldSize {
  /** Pixels of the picture to one of those in which motion is looked for. */
  readonly shrunk: number;
  readonly by: number;
  readonly width: number;
  readonly height: number;
}

/** The sizes for a picture; undefined where it is too small for motion to be found. */
export function fieldSize(width: number, height: number): FieldSize | undefined {
  const shrunk = Math.max(1, Math.ceil(Math.max(width / WORKING_WIDTH, height / WORKING_HEIGHT)));
  const by = 2 * shrunk;
  const half = (size: number) => Math.ceil(Math.ceil(size / shrunk) / 2);
  const size = { shrunk, by, width: half(width), height: half(height) };
  return Math.min(size.width, size.height) < SMALLEST ? undefined : size;
}

/** Bytes of a field: for both directions motions and marks, and both pictures in grey at its size. */
export const fieldBytes = ({ width, height }: FieldSize): number => 12 * width * height;

/** Where the parts of a field lie, in cells from its start. */
export const PARTS = {
  forward: 0,
  backward: 4,
  forwardMarks: 8,
  backwardMarks: 9,
  first: 10,
  second: 11,
} as const;
