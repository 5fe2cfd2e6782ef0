/** Pictures made of several source frames: every frame of a clip lights another column, whose brightness tells its weight. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, run } from './coded-clips';
import {
  addBoomerang,
  addLook,
  enter,
  expect,
  offerLooks,
  render,
  setSpan,
  startWith,
  test,
  up,
} from './journey';

const COLUMNS = 16;
const SIZE = { width: 320, height: 180 };

/** A clip whose frame n lights column n of sixteen, over and over. */
async function columnClip(name: string, rate: string, frames: number): Promise<string> {
  const path = join(WORK, name);
  const lit = `geq=lum='16+219*eq(floor(X/20)\\,mod(N\\,${COLUMNS}))':cb=128:cr=128`;
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', `nullsrc=s=320x180:r=${rate},format=yuv420p,${lit}`],
    ...['-frames:v', String(frames), '-c:v', 'libx264', '-qp', '4', '-g', '48', '-bf', '2'],
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
async function weightsOf(file: string): Promise<number[][]> {
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
const lit = (parts: readonly (readonly [frame: number, part: number])[]): number[] => {
  const total = parts.reduce((sum, [, part]) => sum + part, 0);
  const columns = Array.from({ length: COLUMNS }, () => 0);
  for (const [n, part] of parts) columns[n % COLUMNS]! += part / total;
  return columns;
};

async function addPiece(page: Page, clip: string, span: [number, number]): Promise<void> {
  await page.getByRole('button', { name: `Add a piece of ${clip}` }).click();
  await setSpan(page, ...span);
}

test('mix, shutter, smear and trail weigh source frames exactly: slow, fast, backward, over turns, at the clip’s ends', async ({
  page,
}) => {
  const [thirty, fast] = [
    await columnClip('lit-30.mp4', '30', 90),
    await columnClip('lit-120.mp4', '120', 96),
  ];
  await startWith(page, thirty, fast);
  const expected: number[][] = [];

  // Half speed from frame 0 on: before the first middle there is nothing to mix with.
  await setSpan(page, 0, 20);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '50 %');
  await page.getByLabel('Between frames', { exact: true }).selectOption('mix');
  for (let n = 0; n < 20; n++) {
    expected.push(n === 0 ? lit([[0, 1]]) : lit([[n - 1, 1], [n, 3]])); // prettier-ignore
    expected.push(lit([[n, 3], [n + 1, 1]])); // prettier-ignore
  }
  // Four times as fast over a whole turn of the shutter, there and back: means of exactly four.
  await addPiece(page, 'lit-30.mp4', [20, 60]);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '400 %');
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await enter(page, 'Shutter', '360');
  const fours = up(20, 59, 4).map((n) => lit(up(n, n + 3).map((f) => [f, 1])));
  expected.push(...fours, ...fours.toReversed());
  // Twice as long as a picture at full speed, to the clip's very ends.
  await addPiece(page, 'lit-30.mp4', [0, 90]);
  await enter(page, 'Shutter', '720°');
  for (const n of up(0, 89)) {
    const window = [[n - 1, 1], [n, 2], [n + 1, 1]] as const; // prettier-ignore
    expected.push(lit(window.filter(([f]) => f >= 0 && f < 90)));
  }
  // A hundred and twenty a second: every picture is the mean of the two in its middle, backward too.
  await addPiece(page, 'lit-120.mp4', [0, 96]);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '100 %');
  await page.getByLabel('Speed: Direction').selectOption('backward');
  await enter(page, 'Shutter', '180');
  for (const n of up(0, 23).toReversed()) expected.push(lit([[4 * n + 1, 1], [4 * n + 2, 1]])); // prettier-ignore
  // Smeared over what was seen, there and back: over the turn a frame that is seen twice weighs twice.
  await addPiece(page, 'lit-30.mp4', [40, 60]);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await offerLooks(page);
  await addLook(page, 'Smear');
  await enter(page, 'Smear: Back', '3');
  await enter(page, 'Smear: On', '0');
  await page.getByLabel('Smear: Counts frames of').selectOption('result');
  const seen = [...up(40, 59), ...up(40, 59).toReversed()];
  for (const i of seen.keys()) expected.push(lit(seen.slice(Math.max(0, i - 3), i + 1).map((f) => [f, 1])));
  // Copies of what was seen, each half as bright as the one before, lightening.
  await addPiece(page, 'lit-30.mp4', [20, 50]);
  await addLook(page, 'Trail');
  await enter(page, 'Trail: Copies', '3');
  await enter(page, 'Trail: Spacing', '3');
  await enter(page, 'Trail: Fainter by', '50');
  for (const n of up(20, 49)) {
    const columns = lit([[n, 1]]);
    for (const k of [1, 2, 3]) columns[(n - 3 * k) % COLUMNS] = 0.5 ** k;
    expected.push(columns);
  }
  await expect(page.getByTestId('length')).toContainText(`${expected.length} f`);

  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const made = await weightsOf(await render(page, 'webm-vp9', join(WORK, 'lit.webm')));
  expect(made).toHaveLength(expected.length);
  // What an encoder leaves of them at its finest.
  const off = made.flatMap((row, i) => row.map((w, column) => Math.abs(w - expected[i]![column]!)));
  console.log(`weights in the file are off by ${Math.max(...off).toFixed(3)} at most`);
  expect(Math.max(...off)).toBeLessThan(0.03);
  await expect(page.getByTestId('render-proof')).toContainText('drawn on');
});

test('mixing is offered where frames repeat, seen at once, undone, kept, and what new pieces begin with', async ({
  page,
}) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 10, 40);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '40 %');
  await expect(page.getByRole('button', { name: /^choppiest 12/ })).toBeVisible();
  await page.getByRole('button', { name: 'Mix between' }).click();
  await expect(page.getByLabel('Between frames', { exact: true })).toHaveValue('mix');
  await expect(page.getByRole('button', { name: /^choppiest/ })).toHaveCount(0);
  await expect(page.getByText(/Frames repeat/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^choppiest 12/ })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  // The shutter is driven like any value of a look.
  await page.getByRole('button', { name: 'What moves Shutter' }).click();
  await page.getByLabel('Shutter moves').selectOption('progress');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What moves Shutter' })).toContainText('on the way');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Between frames of new pieces').selectOption('mix');
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Between frames', { exact: true })).toHaveValue('mix', { timeout: 30_000 });
  await page.getByRole('button', { name: 'Add a piece of lit-30.mp4' }).click();
  await expect(page.getByLabel('Between frames', { exact: true })).toHaveValue('mix');
  await expect(page.getByLabel('Shutter', { exact: true })).toHaveValue('0°');
});
