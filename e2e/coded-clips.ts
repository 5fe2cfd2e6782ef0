/**
 * Clips whose every frame carries its own number as a row of black and white cells, made with ffmpeg
 * when the journeys start, and the reading of those numbers from any file.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync } from 'node:fs';
import { link, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';

const FILES = join(import.meta.dirname, '.work');
/** Clips drawn once for all journeys. */
const CLIPS = join(FILES, 'clips');
/** What a journey writes: journeys that run beside each other never write to the same file. */
export const WORK = join(FILES, `journeys-${process.env['TEST_PARALLEL_INDEX'] ?? 'alone'}`);
for (const folder of [CLIPS, WORK]) mkdirSync(folder, { recursive: true });

const CELLS = 18;
const BITS = 16;

export interface ClipRecipe {
  readonly file: string;
  readonly width: number;
  readonly height: number;
  readonly frames: number;
  readonly rate: string;
  readonly encode: readonly string[];
}

const size = { width: 320, height: 180 };
export const x264 = (...more: string[]) => [
  '-c:v',
  'libx264',
  '-preset',
  'veryfast',
  '-crf',
  '20',
  '-pix_fmt',
  'yuv420p',
  ...more,
];

/** Presentation times of the uneven clip, seconds: steps of 1, 1 and 2 thirtieths. */
export const unevenTimes = (frames: number): number[] =>
  Array.from({ length: frames }, (_, n) => (n + Math.floor(n / 3)) / 30);

export const CODED = {
  bframes: {
    file: 'bframes-30.mp4',
    ...size,
    frames: 300,
    rate: '30',
    encode: x264('-bf', '3', '-g', '250', '-keyint_min', '250', '-sc_threshold', '0'),
  },
  large: {
    file: 'large-30.mp4',
    width: 1280,
    height: 720,
    frames: 250,
    rate: '30',
    encode: x264('-bf', '2', '-g', '250', '-keyint_min', '250', '-sc_threshold', '0'),
  },
  vp9: {
    file: 'vp9-30.webm',
    ...{ width: 640, height: 360 },
    frames: 200,
    rate: '30',
    encode: [
      '-c:v',
      'libvpx-vp9',
      '-deadline',
      'realtime',
      '-cpu-used',
      '8',
      '-crf',
      '24',
      '-b:v',
      '0',
      '-g',
      '120',
      '-pix_fmt',
      'yuv420p',
    ],
  },
  ntsc: { file: 'ntsc.mp4', ...size, frames: 200, rate: '30000/1001', encode: x264('-bf', '2', '-g', '60') },
  cinema: {
    file: 'cinema.mp4',
    ...size,
    frames: 120,
    rate: '24000/1001',
    encode: x264('-bf', '2', '-g', '48'),
  },
  quick: { file: 'quick-120.mp4', ...size, frames: 160, rate: '120', encode: x264('-bf', '0', '-g', '60') },
  fast: { file: 'fast-60.mp4', ...size, frames: 260, rate: '60', encode: x264('-bf', '2', '-g', '90') },
  uneven: {
    file: 'uneven.mp4',
    ...size,
    frames: 200,
    rate: '30',
    encode: x264(
      '-bf',
      '0',
      '-g',
      '60',
      '-vf',
      "setpts='(N+floor(N/3))/30/TB'",
      '-fps_mode',
      'passthrough',
      '-enc_time_base',
      '1/30',
      '-video_track_timescale',
      '30000',
    ),
  },
  odd: {
    file: 'odd.webm',
    width: 321,
    height: 181,
    frames: 60,
    rate: '25',
    encode: [
      '-c:v',
      'libvpx-vp9',
      '-deadline',
      'realtime',
      '-cpu-used',
      '8',
      '-b:v',
      '1M',
      '-pix_fmt',
      'yuv444p',
    ],
  },
  single: { file: 'single.mp4', width: 640, height: 360, frames: 1, rate: '25', encode: x264() },
  late: { file: 'late.mkv', ...size, frames: 100, rate: '25', encode: x264('-output_ts_offset', '3.2') },
} as const satisfies Record<string, ClipRecipe>;

/** Luma of one coded frame: a slowly moving ramp, and across its middle the cells of the number. */
export function codedLuma(recipe: ClipRecipe, n: number, out: Buffer): void {
  const { width, height } = recipe;
  const ramp = Uint8Array.from({ length: width + 128 }, (_, i) => 60 + (i % 128));
  for (let y = 0; y < height; y++) out.set(ramp.subarray((y + n * 3) % 128).subarray(0, width), y * width);
  const cells = Uint8Array.from({ length: width }, (_, x) =>
    cellIsWhite(Math.floor((x * CELLS) / width), n) ? 225 : 25,
  );
  const bottom = Math.floor(height * 0.65);
  for (let y = Math.floor(height * 0.35); y < bottom; y++) out.set(cells, y * width);
}

function cellIsWhite(cell: number, n: number): boolean {
  if (cell === 0) return true;
  if (cell === CELLS - 1) return (n.toString(2).split('1').length - 1) % 2 === 0;
  return ((n >> (BITS - cell)) & 1) === 1;
}

/** Makes a coded clip unless it is there already; gives its path. */
export const codedClip = (name: keyof typeof CODED): Promise<string> =>
  drawnClip(CODED[name], (n, out) => codedLuma(CODED[name], n, out));

/** Makes a clip whose brightness is drawn frame by frame, unless it is there already; gives its path. */
export async function drawnClip(
  recipe: ClipRecipe,
  draw: (n: number, luma: Buffer) => void,
): Promise<string> {
  const path = join(CLIPS, recipe.file);
  if ((await stat(path).catch(() => undefined))?.size) return path;
  // Whole, or not there: another journey may look for it meanwhile.
  const making = join(WORK, recipe.file);
  const input = [
    '-f',
    'rawvideo',
    '-pix_fmt',
    'yuv420p',
    '-s',
    `${recipe.width}x${recipe.height}`,
    '-r',
    recipe.rate,
    '-i',
    '-',
  ];
  const ffmpeg = spawn('ffmpeg', ['-y', '-loglevel', 'error', ...input, ...recipe.encode, making], {
    stdio: ['pipe', 'inherit', 'inherit'],
  });
  const luma = recipe.width * recipe.height;
  const chroma = 2 * Math.ceil(recipe.width / 2) * Math.ceil(recipe.height / 2);
  for (let n = 0; n < recipe.frames; n++) {
    const picture = Buffer.alloc(luma + chroma, 128);
    draw(n, picture);
    if (!ffmpeg.stdin.write(picture)) await once(ffmpeg.stdin, 'drain');
  }
  ffmpeg.stdin.end();
  const [code] = (await once(ffmpeg, 'close')) as [number];
  if (code !== 0) throw new Error(`ffmpeg could not make ${recipe.file}`);
  // Another may have made it meanwhile, and a page be reading it: a file that is there stays that file.
  await link(making, path).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST') throw error;
  });
  await rm(making);
  return path;
}

/** Runs ffmpeg or ffprobe and gives what it wrote. */
export async function run(program: 'ffmpeg' | 'ffprobe', args: readonly string[]): Promise<Buffer> {
  const child = spawn(program, ['-loglevel', 'error', ...args], { stdio: ['ignore', 'pipe', 'inherit'] });
  const parts: Buffer[] = [];
  child.stdout.on('data', (part: Buffer) => parts.push(part));
  const [code] = (await once(child, 'close')) as [number];
  if (code !== 0) throw new Error(`${program} failed: ${args.join(' ')}`);
  return Buffer.concat(parts);
}

/** The numbers in a file's frames, in order; -1 where a frame carries no whole number. */
export async function readNumbers(path: string): Promise<number[]> {
  const width = CELLS * 8;
  const height = 9;
  const filter = `scale=${width}:${height}:flags=area`;
  const raw = await run('ffmpeg', [
    '-i',
    path,
    '-map',
    '0:v:0',
    '-vf',
    filter,
    '-fps_mode',
    'passthrough',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gray',
    '-',
  ]);
  const frames = raw.length / (width * height);
  return Array.from({ length: frames }, (_, f) => {
    const row = f * width * height + 4 * width;
    const white = Array.from({ length: CELLS }, (_, cell) => raw[row + cell * 8 + 4]! > 125);
    let n = 0;
    for (let cell = 1; cell <= BITS; cell++) n = n * 2 + (white[cell] ? 1 : 0);
    return white.every((w, cell) => w === cellIsWhite(cell, n)) ? n : -1;
  });
}

/** Frame rate and length of a file's picture as ffprobe tells them. */
export async function probe(
  path: string,
): Promise<{ rate: string; durationS: number; codec: string; width: number; height: number }> {
  const text = await run('ffprobe', [
    '-select_streams',
    'v:0',
    '-show_entries',
    'stream=avg_frame_rate,codec_name,width,height:format=duration',
    '-of',
    'json',
    path,
  ]);
  const found = JSON.parse(text.toString()) as {
    streams: { avg_frame_rate: string; codec_name: string; width: number; height: number }[];
    format: { duration: string };
  };
  const stream = found.streams[0]!;
  return {
    rate: stream.avg_frame_rate,
    durationS: Number(found.format.duration),
    codec: stream.codec_name,
    width: stream.width,
    height: stream.height,
  };
}

/** A coded clip with a sound of its own. */
export async function soundingClip(name: string, sound: string): Promise<string> {
  const path = join(WORK, name);
  const clip = await codedClip('bframes');
  await run('ffmpeg', ['-y', '-i', clip, '-i', sound, '-c:v', 'copy', '-c:a', 'aac', '-b:a', '192k', path]);
  return path;
}

/** The frames of a file that are white all over. */
export async function whiteFrames(file: string): Promise<number[]> {
  const raw = await run('ffmpeg', [
    '-i',
    file,
    '-vf',
    'scale=8:8:flags=area',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gray',
    '-',
  ]);
  return Array.from({ length: raw.length / 64 }, (_, n) => n).filter((n) =>
    raw.subarray(64 * n, 64 * n + 64).every((v) => v > 230),
  );
}

/** What each picture of a file decodes to, as a text: equal texts, equal pictures. */
export async function pictureHashes(file: string): Promise<string[]> {
  const out = await run('ffmpeg', [
    '-i',
    file,
    '-map',
    '0:v',
    '-fps_mode',
    'passthrough',
    '-f',
    'framemd5',
    '-',
  ]);
  return out
    .toString()
    .split('\n')
    .filter((line) => /^0,/.test(line))
    .map((line) => line.split(',').at(-1)!.trim());
}
