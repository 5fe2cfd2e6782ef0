/** A clip's own sound is where its picture is, whatever instants its file begins with: a flash and a beep, measured. */
import { join } from 'node:path';
import { WORK, run, whiteFrames } from './coded-clips';
import { enter, expect, render, startWith, test } from './journey';

const RATE = 30;
/** The picture frame of the flash. */
const FLASH = 24;

interface Case {
  readonly file: string;
  /** Second of the file at which the picture begins, and the sound. */
  readonly pictureS: number;
  readonly soundS: number;
  readonly encode: readonly string[];
}

const mp4 = ['-c:v', 'libx264', '-bf', '2', '-c:a', 'aac', '-b:a', '192k'];
const webm = ['-c:v', 'libvpx', '-b:v', '1M', '-c:a', 'libopus'];
const CASES: readonly Case[] = [
  { file: 'level.mp4', pictureS: 0, soundS: 0, encode: mp4 },
  { file: 'late-picture.mp4', pictureS: 0.5, soundS: 0, encode: mp4 },
  { file: 'late-both.mov', pictureS: 1.5, soundS: 1.5, encode: [...mp4, '-copyts'] },
  { file: 'late-sound.mp4', pictureS: 0, soundS: 0.4, encode: mp4 },
  { file: 'late-picture.webm', pictureS: 0.5, soundS: 0, encode: webm },
  { file: 'late-both.mkv', pictureS: 1.5, soundS: 1.2, encode: [...mp4, '-copyts'] },
  { file: 'late-picture.ts', pictureS: 0.4, soundS: 0, encode: [...mp4, '-f', 'mpegts'] },
  {
    file: 'xvid.avi',
    pictureS: 0,
    soundS: 0,
    encode: [
      '-enc_time_base:v',
      '1/30',
      '-c:v',
      'mpeg4',
      '-vtag',
      'XVID',
      '-bf',
      '2',
      '-q:v',
      '3',
      '-c:a',
      'mp3',
      '-b:a',
      '192k',
    ],
  },
];

/** A film that flashes white at frame `FLASH` of its picture, with a beep at the same instant. */
async function film({ file, pictureS, soundS, encode }: Case): Promise<string> {
  const path = join(WORK, file);
  const at = pictureS + FLASH / RATE - soundS;
  const flash = `between(N\\,${FLASH}\\,${FLASH + 2})`;
  await run('ffmpeg', [
    '-y',
    ...['-itsoffset', String(pictureS), '-f', 'lavfi', '-t', '3', '-i'],
    `nullsrc=s=320x180:r=${RATE},format=yuv420p,geq=lum='16+219*${flash}':cb=128:cr=128`,
    ...['-itsoffset', String(soundS), '-f', 'lavfi', '-t', '4', '-i'],
    `aevalsrc='if(between(t,${at},${at + 0.1}),0.6*sin(2*PI*1000*t),0)':d=4:s=48000`,
    ...['-map', '0:v', '-map', '1:a', '-fps_mode', 'passthrough', '-enc_time_base:v', '1/9000'],
    ...[...encode, path],
  ]);
  return path;
}

/** The second at which a file's sound first rises. */
async function beepS(file: string): Promise<number> {
  const raw = await run('ffmpeg', ['-i', file, '-ac', '1', '-ar', '48000', '-f', 'f32le', '-']);
  const samples = new Float32Array(raw.buffer, raw.byteOffset, Math.floor(raw.length / 4));
  return samples.findIndex((v) => Math.abs(v) > 0.15) / 48_000;
}

for (const one of CASES)
  test(`${one.file}: picture from ${one.pictureS} s on, sound from ${one.soundS} s`, async ({ page }) => {
    await startWith(page, await film(one));
    await enter(page, 'Span in', '0');
    await enter(page, 'Span out', '80');
    await page.getByRole('button', { name: 'Sound', exact: true }).click();
    await page.getByLabel('The clips’ own sound').check();
    await page.keyboard.press('Escape');
    const file = await render(page, 'mp4-h264', join(WORK, `placed-${one.file}.mp4`));
    const [flash] = await whiteFrames(file);
    expect(flash).toBe(FLASH);
    // Nearer than half a frame; the encoder's own delay is taken off by the reader.
    expect(Math.abs((await beepS(file)) - FLASH / RATE)).toBeLessThan(0.012);
  });
