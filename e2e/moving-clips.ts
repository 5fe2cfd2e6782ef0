/**
 * A clip in which a textured board moves and turns before a still ground. The board carries the frame's number as a row
 * of cells, so that it can be read where the board should be, and only there.
 */
import { hash, texture } from '@skipback/core/flow/moving-textures';
import { drawnClip, run, x264 } from './coded-clips';

export const BOARD = { width: 176, height: 104 };
export const SIZE = { width: 640, height: 360 };
/** Cells of a number, and what one is large. */
const CELLS = 8;
const CELL = { width: 13, height: 16 };

/** Where the board is at a frame: its middle, and its turn in degrees, clockwise. */
export const boardAt = (n: number): { x: number; y: number; turn: number } => ({
  x: 320 + 130 * Math.sin(n / 9),
  y: 180 + 60 * Math.sin(n / 7 + 1),
  turn: 11 * Math.sin(n / 8),
});

/** Brightness of the board at a place from its middle. */
function boardLuma(x: number, y: number, n: number): number {
  const cell = Math.floor(x / CELL.width + CELLS / 2);
  if (Math.abs(y) < CELL.height / 2 && cell >= 0 && cell < CELLS)
    return ((n >> (CELLS - 1 - cell)) & 1) === 1 ? 225 : 25;
  const [i, j] = [Math.floor(x / 18), Math.floor(y / 18)];
  return 25 + 160 * hash(i, j, 5) + 45 * hash(Math.floor(x / 6), Math.floor(y / 6), 6);
}

export const MOVING = {
  file: 'moving-board-30.mp4',
  ...SIZE,
  frames: 90,
  rate: '30',
  encode: x264('-crf', '12', '-bf', '2', '-g', '60'),
};

export function movingClip(): Promise<string> {
  const { width, height } = SIZE;
  const ground = Uint8Array.from(
    { length: width * height },
    (_, i) => 60 + 90 * texture(i % width, Math.floor(i / width), 3, 17),
  );
  return drawnClip(MOVING, (n, out) => {
    const { x: bx, y: by, turn } = boardAt(n);
    const [c, s] = [Math.cos((turn * Math.PI) / 180), Math.sin((turn * Math.PI) / 180)];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [dx, dy] = [x + 0.5 - bx, y + 0.5 - by];
        const [u, v] = [c * dx + s * dy, c * dy - s * dx];
        const inside = Math.abs(u) < BOARD.width / 2 && Math.abs(v) < BOARD.height / 2;
        out[y * width + x] = inside ? boardLuma(u, v, n) : ground[y * width + x]!;
      }
  });
}

/** The brightness of all frames of a file, one after the other, 0 to 255. */
export async function lumaOf(file: string): Promise<(n: number, x: number, y: number) => number> {
  const raw = await run('ffmpeg', [
    '-i',
    file,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gray',
    '-',
  ]);
  const { width, height } = SIZE;
  const frames = raw.length / (width * height);
  return (n, x, y) => {
    if (n >= frames) throw new RangeError(`the file has ${frames} frames`);
    return raw[n * width * height + Math.floor(y) * width + Math.floor(x)]!;
  };
}

/** The number that stands about a place, turned by so many degrees; -1 where cells are neither black nor white. */
export function numberAt(
  luma: (x: number, y: number) => number,
  { x, y, scale, turn }: { x: number; y: number; scale: number; turn: number },
): number {
  const [c, s] = [Math.cos((turn * Math.PI) / 180) * scale, Math.sin((turn * Math.PI) / 180) * scale];
  let n = 0;
  for (let cell = 0; cell < CELLS; cell++) {
    // The four corners of what lies well inside a cell all have to agree.
    const at = (i: number, j: number) => {
      const [u, v] = [CELL.width * (cell - CELLS / 2 + 0.5 + 0.24 * i), CELL.height * 0.26 * j];
      return luma(x + c * u - s * v, y + s * u + c * v);
    };
    const corners = [at(-1, -1), at(1, -1), at(-1, 1), at(1, 1)];
    if (corners.every((v) => v > 165)) n = 2 * n + 1;
    else if (corners.every((v) => v < 85)) n = 2 * n;
    else return -1;
  }
  return n;
}
