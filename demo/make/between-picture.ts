/**
 * Draws docs/in-between.png: the same instant by repeat, mix and flow, where motion is clear (above) and where it is
 * not (below), beside the true picture. `npm run demo:between`; needs Debian's ffmpeg.
 */
import { execFileSync } from 'node:child_process';
import { fileURLToPath } from 'node:url';
import { AlongMotion } from '@skipback/core/flow/along';
import { fieldBytes } from '@skipback/core/flow/field';
import { MotionFinder } from '@skipback/core/flow/motion';
import { WHOLE } from '@skipback/core/gather/gather';
import { Averager } from '@skipback/core/pixels/average';
import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface } from '@skipback/core/pixels/surface';

const here = (path: string) => fileURLToPath(new URL(path, import.meta.url));
const [WIDTH, HEIGHT] = [1280, 720];
const CROP = { width: 300, height: 220 };
const GAP = 4;
const out = { width: 4 * CROP.width + 3 * GAP, height: 2 * CROP.height + GAP };
const sheet = new Uint8Array(4 * out.width * out.height).fill(255);
const surface = new Surface(WIDTH, HEIGHT);

/** Three frames of a clip in a row, I420; the middle one is what is made again. */
function three(clip: string, first: number): Uint8Array[] {
  const raw = execFileSync(
    'ffmpeg',
    [
      ...['-v', 'error', '-i', here(`../media/${clip}`), '-frames:v', '3'],
      ...['-vf', `select=gte(n\\,${first}),scale=${WIDTH}:${HEIGHT}`, '-fps_mode', 'passthrough'],
      ...['-pix_fmt', 'yuv420p', '-f', 'rawvideo', '-'],
    ],
    { maxBuffer: 2 ** 26 },
  );
  const bytes = planesBytes(WIDTH, HEIGHT);
  return [0, 1, 2].map((i) => new Uint8Array(raw.buffer, raw.byteOffset + i * bytes, bytes));
}

function put(picture: Uint8Array, at: { x: number; y: number }, column: number, row: number): void {
  surface.load(planesIn(picture, WIDTH, HEIGHT));
  const { pixels } = surface;
  for (let y = 0; y < CROP.height; y++) {
    const from = 4 * ((at.y + y) * WIDTH + at.x);
    const to = 4 * ((row * (CROP.height + GAP) + y) * out.width + column * (CROP.width + GAP));
    sheet.set(pixels.subarray(from, from + 4 * CROP.width), to);
  }
}

for (const [row, clip, first, at] of [
  [0, 'lantern.mp4', 60, { x: 470, y: 120 }],
  [1, 'pinwheels.webm', 60, { x: 480, y: 240 }],
] as const) {
  const [before, truth, after] = three(clip, first) as [Uint8Array, Uint8Array, Uint8Array];
  const finder = new MotionFinder(WIDTH, HEIGHT);
  const field = new Uint8Array(fieldBytes(finder.size));
  finder.find(before.subarray(0, WIDTH * HEIGHT), after.subarray(0, WIDTH * HEIGHT), field);
  const [mixed, moved] = [new Uint8Array(before.length), new Uint8Array(before.length)];
  new Averager().mean([before, after], [WHOLE / 2, WHOLE / 2], mixed);
  new AlongMotion(WIDTH, HEIGHT).picture(before, after, field, WHOLE / 2, moved);
  [before, mixed, moved, truth].forEach((picture, column) => put(picture, at, column, row));
}
execFileSync(
  'ffmpeg',
  [
    ...[
      '-v',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgba',
      '-s',
      `${out.width}x${out.height}`,
      '-i',
      '-',
    ],
    ...['-pix_fmt', 'rgb24', '-frames:v', '1', here('../../docs/in-between.png')],
  ],
  { input: sheet },
);
