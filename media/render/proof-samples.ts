import { planesBytes } from '@skipback/core/pixels/planes';
import type { RenderJob } from './messages';
import { planesOf } from './planes-of';

/** A picture that went into the encoder, small, to be held against what the finished file shows there. */
export interface GivenPicture {
  readonly atFrame: number;
  readonly small: Uint8Array;
  /** Some of its rows as they are, of films: to be measured how near the file comes to it. */
  readonly rows?: Uint8Array;
}

const WIDTH = 32;
const HEIGHT = 18;
/** Frames of a file that are looked at, besides those at its cuts. */
const SPREAD = 10;
const MOST = 24;

let canvas: OffscreenCanvas | undefined;

/** A picture's brightness, 32 by 18 values. */
export function smallGrey(picture: VideoFrame): Uint8Array {
  canvas ??= new OffscreenCanvas(WIDTH, HEIGHT);
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true })!;
  context.imageSmoothingQuality = 'high';
  // Where it is transparent it would show the one before.
  context.clearRect(0, 0, WIDTH, HEIGHT);
  context.drawImage(picture, 0, 0, WIDTH, HEIGHT);
  const { data } = context.getImageData(0, 0, WIDTH, HEIGHT);
  return Uint8Array.from(
    { length: WIDTH * HEIGHT },
    (_, i) => (data[4 * i]! * 54 + data[4 * i + 1]! * 183 + data[4 * i + 2]! * 19) >> 8,
  );
}

/** Bytes of a picture that are kept of its rows, about. */
const ROWS_BYTES = 512 << 10;

/** Evenly spread rows of a picture's planes, about half a megabyte: the same ones of every picture of a size. */
export async function rowsOf(picture: VideoFrame): Promise<Uint8Array> {
  const { width, height } = picture.visibleRect!;
  const bytes = await planesOf(picture);
  const every = Math.max(1, Math.ceil(planesBytes(width, height) / ROWS_BYTES));
  const [w, h] = [(width + 1) >> 1, (height + 1) >> 1];
  const rows = (from: number, stride: number, count: number) =>
    Array.from({ length: Math.ceil(count / every) }, (_, i) => {
      const start = from + i * every * stride;
      return bytes.subarray(start, start + stride);
    });
  const kept = [
    ...rows(0, width, height),
    ...rows(width * height, w, h),
    ...rows(width * height + w * h, w, h),
  ];
  const all = new Uint8Array(kept.reduce((sum, row) => sum + row.length, 0));
  let at = 0;
  for (const row of kept) {
    all.set(row, at);
    at += row.length;
  }
  return all;
}

/** How near two pictures' rows are, as PSNR in dB; 99 where they are equal, undefined where they are of other sizes. */
export function nearness(a: Uint8Array, b: Uint8Array): number | undefined {
  if (a.length !== b.length || a.length === 0) return undefined;
  let squares = 0;
  for (let i = 0; i < a.length; i++) squares += (a[i]! - b[i]!) ** 2;
  return squares === 0 ? 99 : 10 * Math.log10((255 * 255 * a.length) / squares);
}

/** What encoders make of a picture's brightness, by blurring and shifting levels. */
const BY_ENCODER = 8;

/** Whether two small pictures are of the same frame: on the mean no more apart than `most`. */
export function alike(a: Uint8Array, b: Uint8Array, most = BY_ENCODER): boolean {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!);
  return sum / a.length < most;
}

/** A picture is its neighbour where it is nearer to that by so much, dB. */
const CLEARLY_DB = 1;
/** Neighbours nearer to one another than this are not told apart: a coarse encoder may leave one as the other. */
const OTHER_DB = 26;

/** Whether rows that were read are of a neighbour rather than of the picture they stand for, where the two differ clearly. */
export const isNeighbour = (read: Uint8Array, own: Uint8Array, neighbour: Uint8Array): boolean => {
  if ((nearness(own, neighbour) ?? 99) > OTHER_DB) return false;
  const [mine, other] = [nearness(own, read), nearness(neighbour, read)];
  return mine !== undefined && other !== undefined && other > mine + CLEARLY_DB;
};

/**
 * The frames of a file to look at again: the first and last, some between, of a few the one after as well, and both sides
 * of its cuts.
 */
export function lookedAt(job: Pick<RenderJob, 'cuts'>, total: number): number[] {
  const spread = Array.from({ length: SPREAD }, (_, i) => Math.round((i * (total - 1)) / (SPREAD - 1)));
  const after = spread.filter((_, i) => i % 3 === 1).map((n) => n + 1);
  const cuts = job.cuts.flatMap((c) => [c - 1, c]);
  const all = [...new Set([...spread, ...after, ...cuts])].filter((n) => n >= 0 && n < total);
  return all.slice(0, MOST).sort((a, b) => a - b);
}
