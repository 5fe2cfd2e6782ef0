/** Clips whose frames light columns, so that the brightness of each tells a frame's weight in a picture; and the reading of them. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, run } from './coded-clips';
import { setSpan, up } from './journey';

export const COLUMNS = 16;
export const SIZE = { width: 320, height: 180 };

/** How many columns on the next frame's is: everywhere as far, so that nothing is a cut. */
const STEP = 7;

/** The column that a frame lights. */
export const columnOf = (frame: number): number => (STEP * frame) % COLUMNS;

/** A clip whose frames light one of sixteen columns each, over and over; `times`: when each begins, in milliseconds, as a sum. */
export async function columnClip(
  name: string,
  rate: string,
  frames: number,
  times?: string,
): Promise<string> {
  const path = join(WORK, name);
  const lit = `geq=lum='16+219*eq(floor(X/20)\\,mod(${STEP}*N\\,${COLUMNS}))':cb=128:cr=128`;
  await run('ffmpeg', [
    ...[
      '-y',
      '-f',
      'lavfi',
      '-i',
      `nullsrc=s=320x180:r=${rate},format=yuv420p,${lit}${times ? `,settb=1/1000,setpts='${times}'` : ''}`,
    ],
    ...(times
      ? ['-fps_mode', 'passthrough', '-enc_time_base', '1/1000', '-video_track_timescale', '1000']
      : []),
    ...['-frames:v', String(frames), '-c:v', 'libx264', '-qp', '4', '-g', '48', '-bf', times ? '0' : '2'],
    ...[
      '-colorspace',
      'bt709',
      '-color_primaries',
      'bt709',
      '-color_trc',
      'bt709',
      '-color_range',
      'tv',
      path,
    ],
  ]);
  return path;
}

/** For every frame of a file how much each column is lit, 0 to 1. */
export async function weightsOf(file: string): Promise<number[][]> {
  const raw = await run('ffmpeg', [
    ...['-i', file, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
  ]);
  const { width, height } = SIZE;
  const wide = width / COLUMNS;
  return up(0, raw.length / (width * height) - 1).map((n) =>
    up(0, COLUMNS - 1).map((column) => {
      let sum = 0;
      // Its middle: at its edges an encoder is least sure.
      for (let y = 20; y < height - 20; y++)
        for (let x = column * wide + 5; x < (column + 1) * wide - 5; x++)
          sum += raw[n * width * height + y * width + x]!;
      return sum / ((height - 40) * (wide - 10)) / 255;
    }),
  );
}

/** Frames in parts, as the columns they light. */
export const lit = (parts: readonly (readonly [frame: number, part: number])[]): number[] => {
  const total = parts.reduce((sum, [, part]) => sum + part, 0);
  const columns = Array.from({ length: COLUMNS }, () => 0);
  for (const [n, part] of parts) columns[columnOf(n)]! += part / total;
  return columns;
};

export async function addPiece(page: Page, clip: string, span: [number, number]): Promise<void> {
  await page.getByRole('button', { name: `Add a piece of ${clip}` }).click();
  await setSpan(page, ...span);
}
