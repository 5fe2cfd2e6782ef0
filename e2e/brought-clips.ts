/** Clips made to be brought in and laid over others, and the reading of their colours from any file. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, run } from './coded-clips';
import { columnClip } from './lit-clips';

/** A clip of 40 lit frames, 25 a second, with a beep in the first quarter of a second. */
export async function beepingClip(): Promise<string> {
  const path = join(WORK, 'beeping.mkv');
  await run('ffmpeg', [
    ...['-y', '-i', await columnClip('lit-25.mp4', '25', 40)],
    ...['-f', 'lavfi', '-i', "aevalsrc='if(lt(t,0.25),0.5*sin(2*PI*1000*t),0)':d=1.6:s=48000"],
    ...['-c:v', 'copy', '-c:a', 'libopus', '-shortest', path],
  ]);
  return path;
}

/** A white block of 40 by 40 that goes 4 pixels a frame before a dim ground, and comes back from the start. */
export async function blockClip(name = 'block.mp4', frames = 60): Promise<string> {
  const path = join(WORK, name);
  const block = `between(X\\,20+4*mod(N\\,60)\\,59+4*mod(N\\,60))*between(Y\\,70\\,109)`;
  await run('ffmpeg', [
    ...[
      '-y',
      '-f',
      'lavfi',
      '-i',
      `nullsrc=s=320x180:r=30,format=yuv420p,geq=lum='50+185*${block}':cb=128:cr=128`,
    ],
    ...['-frames:v', String(frames), '-c:v', 'libx264', '-qp', '4', '-colorspace', 'bt709'],
    ...['-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv', path],
  ]);
  return path;
}

/** The colours of all frames of a file. */
export async function colours(
  file: string,
): Promise<(n: number, x: number, y: number) => [number, number, number]> {
  const raw = await run('ffmpeg', [
    ...['-i', file, '-fps_mode', 'passthrough', '-vf', 'scale=in_color_matrix=bt709'],
    ...['-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'],
  ]);
  return (n, x, y) => {
    const at = 3 * (320 * (180 * n + y) + x);
    if (at + 3 > raw.length) throw new RangeError(`the file has no frame ${n}`);
    return [raw[at]!, raw[at + 1]!, raw[at + 2]!];
  };
}

export async function bringIn(page: Page, label: string, path: string): Promise<void> {
  const chooser = page.waitForEvent('filechooser');
  await page.getByLabel(label, { exact: true }).selectOption('a file');
  await (await chooser).setFiles(path);
}

/** Where the blocks of `clearClip` begin in a frame, pixels from the left. */
export const clearBlocks = (n: number) => ({ whole: 20 + 6 * n, half: 60 + 6 * n });

/**
 * An animated PNG of 24 frames, 25 a second, 320 by 180, with nothing in it but two orange blocks of 30 by 40 that go 6 pixels
 * a frame: one all there, one half.
 */
export async function clearClip(): Promise<string> {
  const path = join(WORK, 'clear-blocks.png');
  const block = (from: number) => `between(X\\,${from}+6*N\\,${from + 29}+6*N)*between(Y\\,70\\,109)`;
  const source = `nullsrc=s=320x180:r=25,format=rgba,geq=r=220:g=120:b=40:a='255*${block(20)}+128*${block(60)}'`;
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', source, '-frames:v', '24', '-f', 'apng', '-plays', '0', path],
  ]);
  return path;
}

/** How films that can be transparent are encoded. */
const CLEAR_FILMS = {
  webm: ['-vf', 'scale=out_color_matrix=bt709,format=yuva420p', '-c:v', 'libvpx', '-auto-alt-ref', '0'],
  mov: ['-vf', 'scale=out_color_matrix=bt709,format=yuva444p10le', '-c:v', 'prores_ks', '-profile:v', '4'],
} as const;

/** The same as a film with its transparency: VP8, which has it beside its picture, a key frame every eight; or ProRes. */
export async function clearFilm(kind: keyof typeof CLEAR_FILMS): Promise<string> {
  const path = join(WORK, `clear-film.${kind}`);
  await run('ffmpeg', [
    ...['-y', '-i', await clearClip(), ...CLEAR_FILMS[kind]],
    ...['-g', '8', '-b:v', '4M', '-crf', '6', '-colorspace', 'bt709', path],
  ]);
  return path;
}
