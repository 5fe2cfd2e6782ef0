/** Whole files that are broken afterwards, small, and odd ones that nothing is wrong with. */
import { mkdir, readFile, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { BlobReader, BlobWriter, ZipWriter } from '@zip.js/zip.js';
import { WORK, run } from '../coded-clips';

export interface WholeFile {
  readonly name: string;
  readonly ending: string;
  readonly path: string;
}

const FOLDER = join(WORK, 'damage');

const picture = (size: string, rate: string, seconds: string) => [
  ...['-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=${rate}:duration=${seconds}`],
];
const tone = ['-f', 'lavfi', '-i', 'sine=440:duration=3:sample_rate=44100'];
const h264 = ['-c:v', 'libx264', '-preset', 'veryfast', '-g', '30', '-bf', '2', '-pix_fmt', 'yuv420p'];
const film = [...picture('192x108', '30', '3'), ...tone];

const MADE: readonly (readonly [name: string, args: readonly string[]])[] = [
  ['film.mp4', [...film, ...h264, '-c:a', 'aac', '-movflags', '+faststart']],
  ['film-end.mp4', [...film, ...h264, '-c:a', 'aac']],
  ['pieces.mp4', [...film, ...h264, '-c:a', 'aac', '-movflags', 'frag_keyframe+empty_moov']],
  ['film.mov', [...film, ...h264, '-c:a', 'pcm_s16le']],
  ['film.mkv', [...film, ...h264, '-c:a', 'libopus']],
  ['stream.ts', [...film, ...h264, '-c:a', 'aac']],
  [
    'film.webm',
    [
      ...film,
      '-c:v',
      'libvpx-vp9',
      '-deadline',
      'realtime',
      '-cpu-used',
      '8',
      '-g',
      '30',
      '-c:a',
      'libopus',
      '-cluster_time_limit',
      '500',
    ],
  ],
  [
    'film-8.webm',
    [...film, '-c:v', 'libvpx', '-deadline', 'realtime', '-cpu-used', '8', '-c:a', 'libvorbis'],
  ],
  ['moving.gif', picture('96x54', '10', '1')],
  ['moving.png', [...picture('96x54', '10', '1'), '-f', 'apng', '-plays', '0']],
  ['still.jpg', [...picture('192x108', '1', '1'), '-frames:v', '1']],
  ['still.webp', [...picture('192x108', '1', '1'), '-frames:v', '1']],
  ['song.wav', tone],
  ['song.mp3', tone],
  ['song.flac', tone],
  ['song.ogg', [...tone, '-c:a', 'libopus']],
  ['song.m4a', [...tone, '-c:a', 'aac']],
];

/** Files with nothing wrong but what they are. */
const ODD: readonly (readonly [name: string, args: readonly string[]])[] = [
  ['eight.mp4', [...picture('8x8', '30', '1'), ...h264]],
  ['wide.mp4', [...picture('8192x64', '5', '1'), ...h264]],
  [
    'huge.webp',
    [...picture('8192x8192', '1', '1'), '-frames:v', '1', '-quality', '10', '-compression_level', '0'],
  ],
  ['large.mp4', [...picture('8192x4320', '1', '2'), ...h264]],
  ['ten-seconds-a-frame.mp4', [...picture('64x36', '0.1', '40'), ...h264]],
  ['thousand.mp4', [...picture('64x36', '1000', '1'), ...h264]],
  [
    'one-group.mp4',
    [...picture('64x36', '250', '40'), ...h264, '-g', '10000', '-keyint_min', '10000', '-sc_threshold', '0'],
  ],
];

const have = new Map<string, Promise<WholeFile>>();

function made(name: string, args: readonly string[]): Promise<WholeFile> {
  let known = have.get(name);
  if (!known) {
    known = (async () => {
      const path = join(FOLDER, name);
      await mkdir(FOLDER, { recursive: true });
      await run('ffmpeg', ['-y', ...args, path]);
      return { name, ending: name.split('.').at(-1)!, path };
    })();
    have.set(name, known);
  }
  return known;
}

/** Numbered pictures in a zip. */
async function numbered(): Promise<WholeFile> {
  const folder = join(FOLDER, 'numbers');
  await mkdir(folder, { recursive: true });
  await run('ffmpeg', ['-y', ...picture('96x54', '10', '1'), join(folder, 'shot-%04d.png')]);
  const zip = new ZipWriter(new BlobWriter('application/zip'), { level: 0 });
  for (const name of (await readdir(folder)).sort())
    await zip.add(name, new BlobReader(new Blob([new Uint8Array(await readFile(join(folder, name)))])));
  const path = join(FOLDER, 'shots.zip');
  await writeFile(path, Buffer.from(await (await zip.close()).arrayBuffer()));
  return { name: 'shots.zip', ending: 'zip', path };
}

/** Cut lists of clips that are not there. */
async function lists(): Promise<WholeFile[]> {
  const seconds = [0, 1, 2, 3, 4, 5];
  const edl = `TITLE: QUAY\nFCM: NON-DROP FRAME\n\n${seconds
    .map(
      (n) =>
        `00${n}  PIER     V     C        00:00:0${n}:00 00:00:0${n + 1}:00 00:00:0${n}:00 00:00:0${n + 1}:00\n`,
    )
    .join('')}`;
  const time = (value: number) => ({ OTIO_SCHEMA: 'RationalTime.1', rate: 30, value });
  const range = (n: number) => ({ OTIO_SCHEMA: 'TimeRange.1', start_time: time(n), duration: time(30) });
  const clips = seconds.map((n) => ({
    OTIO_SCHEMA: 'Clip.2',
    name: 'pier.mp4',
    source_range: range(30 * n),
  }));
  const track = { OTIO_SCHEMA: 'Track.1', kind: 'Video', children: clips };
  const timeline = { OTIO_SCHEMA: 'Timeline.1', tracks: { OTIO_SCHEMA: 'Stack.1', children: [track] } };
  return [await written('list.edl', edl), await written('list.otio', JSON.stringify(timeline, null, 1))];
}

async function written(name: string, content: string | Buffer): Promise<WholeFile> {
  await mkdir(FOLDER, { recursive: true });
  const path = join(FOLDER, name);
  await writeFile(path, content);
  return { name, ending: name.split('.').at(-1)!, path };
}

/** The open project of a page as a file. */
export async function savedProject(page: Page): Promise<WholeFile> {
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const path = join(FOLDER, 'whole.skipback.zip');
  await (await saved).saveAs(path);
  return { name: 'whole.skipback.zip', ending: 'skipback.zip', path };
}

export async function wholeFiles(): Promise<WholeFile[]> {
  const files: WholeFile[] = [];
  for (const [name, args] of MADE) files.push(await made(name, args));
  return [...files, await numbered(), ...(await lists())];
}

export async function oddFiles(): Promise<WholeFile[]> {
  const files: WholeFile[] = [];
  for (const [name, args] of ODD) files.push(await made(name, args));
  const bare: readonly (readonly [string, Buffer])[] = [
    ['nothing.mp4', Buffer.alloc(0)],
    ['one-byte.webm', Buffer.from([0x1a])],
    ['zeros.mp4', Buffer.alloc(300_000)],
    ['words.mov', Buffer.from('This is a letter and no film.\n'.repeat(400))],
    ['page.mp4', Buffer.from('<!doctype html><title>404</title><script>alert(1)</script>')],
    ['<img src=x onerror=alert(1)>.mp4', Buffer.from('no film')],
  ];
  for (const [name, bytes] of bare) {
    const file = await written(name.replace(/[^\w.=<> ()-]/g, '_'), bytes);
    files.push({ ...file, name });
  }
  return files;
}
