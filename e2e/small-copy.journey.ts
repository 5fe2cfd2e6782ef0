/** Clips too large to play: a small copy of the span is seen in their place, frame for frame, and never in the file. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, codedLuma, drawnClip, readNumbers, run, x264 } from './coded-clips';
import {
  addBoomerang,
  enter,
  expect,
  openReading,
  render,
  setSpan,
  startWith,
  test,
  times,
  turnOnce,
} from './journey';

const LARGE = {
  file: 'very-large.mp4',
  width: 1920,
  height: 1080,
  frames: 150,
  rate: '60',
  encode: x264('-bf', '2', '-g', '250', '-keyint_min', '250', '-sc_threshold', '0'),
};

/** Rows from the top that are a chequerboard of single pixels: half its size makes them grey. */
const FINE = 80;

function draw(n: number, luma: Buffer): void {
  codedLuma(LARGE, n, luma);
  for (let i = 0; i < FINE * LARGE.width; i++)
    luma[i] = (i + Math.floor(i / LARGE.width)) % 2 === 0 ? 70 : 170;
}

/** How far pixels of the fine rows of a file's first frame are from those beside them, on the mean. */
async function fineness(file: string): Promise<number> {
  const crop = `crop=${LARGE.width}:${FINE / 2}:0:${FINE / 4}`;
  const luma = await run('ffmpeg', [
    ...['-i', file, '-frames:v', '1', '-vf', crop, '-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
  ]);
  let sum = 0;
  for (let i = 1; i < luma.length; i++) sum += Math.abs(luma[i]! - luma[i - 1]!);
  return sum / luma.length;
}

/** The number of the frame on the screen. */
async function onScreen(page: Page): Promise<number> {
  const shot = join(WORK, 'small-copy.png');
  await page.getByTestId('picture').screenshot({ path: shot });
  return (await readNumbers(shot))[0]!;
}

async function decoded(page: Page): Promise<number> {
  const told = (await page.getByTestId('stats').textContent()) ?? '';
  return Number(/(\d+) decoded/.exec(told)![1]);
}

/** A jump far into the clip: what is on the screen for longer than a moment is the right frame, or is said not to be. */
async function saysWhatStandsIn(page: Page): Promise<void> {
  const said = page.getByText('another frame, until the right one is ready');
  await page.locator('body').press('s');
  await page.locator('body').press('Home');
  await expect.poll(() => onScreen(page)).toBe(0);
  await page.locator('body').press('End');
  let wrong = 0;
  while ((await onScreen(page)) !== LARGE.frames - 1 && wrong < 40) {
    if ((await said.count()) === 0) await page.waitForTimeout(100);
    else break;
    wrong++;
  }
  expect(wrong).toBeLessThan(5);
  await expect.poll(() => onScreen(page)).toBe(LARGE.frames - 1);
  await expect(said).toHaveCount(0);
}

test('a small copy of a span is offered for large pictures, shows the same frames, stays, goes with Storage, and no file is made of it', async ({
  page,
  stage,
}) => {
  await startWith(page, await drawnClip(LARGE, draw));
  await saysWhatStandsIn(page);
  await setSpan(page, 40, 60);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'once' });
  await expect(page.getByTestId('length')).toContainText('76 f');
  const shows = times(2, turnOnce(40, 60));
  const copy = page.getByRole('group', { name: 'Preview copy' });
  await expect(copy).toContainText('large: 1920 × 1080');
  await copy.getByRole('button', { name: 'Make a preview copy' }).click();
  await expect(copy).toContainText('preview copy in use', { timeout: 60_000 });
  await page.locator('body').press('Shift+L');
  await page.locator('body').press('s');
  await page.locator('body').press('Home');
  for (let position = 0; position < shows.length; position += 11) {
    await expect.poll(() => onScreen(page)).toBe(shows[position]);
    await page.locator('body').press('Shift+ArrowRight');
    await page.locator('body').press('ArrowRight');
  }
  // A frame behind the copy's end is the clip's own, and comes from the one key frame it has.
  const atOnce = await decoded(page);
  await setSpan(page, 40, 150);
  await expect(copy).toContainText('beyond the preview copy');
  await enter(page, 'Boomerang: Round trips', '1');
  await page.locator('body').press('s');
  await page.locator('body').press('Home');
  for (let n = 0; n < 9; n++) await page.locator('body').press('Shift+ArrowRight');
  await expect.poll(() => onScreen(page)).toBe(turnOnce(40, 150)[90]);
  expect(await decoded(page)).toBeGreaterThan(atOnce);

  // It stays with the project.
  await setSpan(page, 40, 60);
  await enter(page, 'Boomerang: Round trips', '2');
  await page.reload();
  await expect(copy).toContainText('preview copy in use');
  const file = await render(page, 'mp4-h264', join(WORK, 'of-large.mp4'));
  expect(await readNumbers(file)).toEqual(shows);
  expect(await fineness(file)).toBeGreaterThan(50);

  await page.goto(stage.address);
  await page.getByRole('button', { name: 'Storage' }).click();
  await page.getByRole('button', { name: 'Delete the preview copies' }).click();
  await expect(page.getByText('Preview copies of large clips')).toHaveCount(0);
  await page.getByRole('button', { name: 'Close' }).click();
  await page.goBack();
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(copy).toContainText('large: 1920 × 1080');
});

test('a copy lies where its clip does: turned, of pixels that are not square, of uneven times, small in the frame', async ({
  page,
  stage,
}) => {
  const whole = await drawnClip(LARGE, draw);
  for (const [name, args, framing] of [
    ['turned', ['-c', 'copy', '-metadata:s:v:0', 'rotate=90', '-frames:v', '40'], 'fit'],
    ['wide', [...x264('-vf', 'setsar=4/3'), '-frames:v', '40'], 'fill'],
    [
      'uneven',
      [...x264('-vf', "setpts='(N+floor(N/3))/80/TB'", '-fps_mode', 'passthrough'), '-frames:v', '40'],
      'centre',
    ],
  ] as const) {
    const path = join(WORK, `copied-${name}.mp4`);
    await run('ffmpeg', ['-y', '-i', whole, ...args, path]);
    await page.goto(stage.address);
    await startWith(page, path);
    await openReading(page);
    await page.getByLabel('Framing').selectOption(framing);
    await setSpan(page, 5, 30);
    await page.locator('body').press('s');
    await page.locator('body').press('Home');
    const seen = async () => {
      const shot = join(WORK, 'small-copy.png');
      await page.getByTestId('picture').screenshot({ path: shot });
      return run('ffmpeg', ['-i', shot, '-vf', 'scale=64:36', '-f', 'rawvideo', '-pix_fmt', 'gray', '-']);
    };
    // Once the still has come: nothing changes any more.
    const atRest = async () => {
      let last = await seen();
      for (let same = 0; same < 3;) {
        await page.waitForTimeout(400);
        const now = await seen();
        same = now.equals(last) ? same + 1 : 0;
        last = now;
      }
      return last;
    };
    const own = await atRest();
    const copy = page.getByRole('group', { name: 'Preview copy' });
    await copy.getByRole('button', { name: 'Make a preview copy' }).click();
    await expect(copy).toContainText('preview copy in use', { timeout: 60_000 });
    const copied = await atRest();
    const off = own.map((v, i) => Math.abs(v - copied[i]!));
    expect([name, own.length, off.reduce((a, b) => a + b, 0) / off.length < 3]).toEqual([
      name,
      64 * 36,
      true,
    ]);
  }
});
