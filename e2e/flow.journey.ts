/** Pictures along the motion, and joins that dissolve. */
import { join } from 'node:path';
import { WORK, run } from './coded-clips';
import { addBoomerang, enter, expect, openReading, render, setSpan, startWith, test, up } from './journey';
import { SIZE, addPiece, columnClip, lit, weightsOf } from './lit-clips';

/** A clip of a white disc on grey that goes six pixels to the right a frame. */
async function discClip(name: string, frames: number): Promise<string> {
  const path = join(WORK, name);
  const disc = "geq=lum='60+150*lt(hypot(X-60-6*N\\,Y-90)\\,22)':cb=128:cr=128";
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', `nullsrc=s=320x180:r=30,format=yuv420p,${disc}`],
    ...['-frames:v', String(frames), '-c:v', 'libx264', '-qp', '4', '-g', '12', '-color_range', 'tv', path],
  ]);
  return path;
}

test('flow moves what moves: at half speed a disc is where it belongs in every picture, there and back, and stays one', async ({
  page,
}) => {
  await startWith(page, await discClip('disc.mp4', 36));
  await setSpan(page, 4, 24);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '50 %');
  await page.getByRole('button', { name: 'Motion flow' }).click();
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  const motion = page.getByRole('group', { name: 'Motion', exact: true });
  await expect(motion).toContainText(/all \d+ pictures of motion flow are made/, { timeout: 30_000 });
  await expect(motion).not.toContainText('lost');
  // At full speed over a whole turn of the shutter: drawn out along its way, six pixels a picture.
  await addPiece(page, 'disc.mp4', [4, 24]);
  await openReading(page);
  await page.getByLabel('In-between frames', { exact: true }).selectOption('flow');
  await enter(page, 'Shutter', '360');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const file = await render(page, 'webm-vp9', join(WORK, 'disc.webm'));
  const raw = await run('ffmpeg', [
    ...['-i', file, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
  ]);
  const { width, height } = SIZE;
  const seen = up(0, raw.length / (width * height) - 1).map((n) => {
    let [sum, at] = [0, 0];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const over = Math.max(0, raw[n * width * height + y * width + x]! - 90);
        sum += over;
        at += over * x;
      }
    // Pixels of the middle row that are neither ground nor disc: the edges.
    const row = raw.subarray((n * height + height / 2) * width, (n * height + height / 2 + 1) * width);
    const soft = row.filter((v) => v > 75 && v < 200).length;
    return { place: at / sum, white: sum, soft };
  });
  const there = up(0, 39).map((i) => 60 + 6 * (4 + i / 2));
  const drawnOut = up(4, 23).map((n) => 60 + 6 * n);
  const expected = [...there, ...there.toReversed(), ...drawnOut];
  expect(seen).toHaveLength(expected.length);
  expect(Math.max(...seen.map(({ place }, i) => Math.abs(place - expected[i]!)))).toBeLessThan(0.7);
  // Two discs mixed would be half as white, below what is counted here.
  const whites = seen.slice(0, 80).map((s) => s.white);
  expect(Math.min(...whites) / Math.max(...whites)).toBeGreaterThan(0.9);
  const median = (values: number[]) => values.toSorted((a, b) => a - b)[values.length >> 1]!;
  expect(median(seen.slice(0, 80).map((s) => s.soft))).toBeLessThanOrEqual(5);
  expect(median(seen.slice(80).map((s) => s.soft))).toBeGreaterThanOrEqual(8);
});

test('where motion is lost it is said, mixed by one press, and making can be stopped', async ({ page }) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 10, 40);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '25 %');
  await openReading(page);
  await page.getByLabel('In-between frames', { exact: true }).selectOption('flow');
  const motion = page.getByRole('group', { name: 'Motion', exact: true });
  await motion.getByRole('button', { name: 'Stop' }).click();
  await expect(motion).toContainText('on the screen only');
  await motion.getByRole('button', { name: 'Resume' }).click();
  await expect(motion).toContainText(/all \d+ pictures of motion flow are made/, { timeout: 30_000 });
  // Columns light up and go out where they are: nothing moves.
  await expect(motion).toContainText(/motion is lost in \d+/);
  await motion.getByRole('button', { name: 'Blend these' }).click();
  await expect(motion).toContainText(/blended between \d+ pairs/);
  await expect(motion).not.toContainText('lost');
  await page.keyboard.press('Control+z');
  await expect(motion).toContainText(/motion is lost in \d+/, { timeout: 30_000 });
  await page.keyboard.press('Control+Shift+z');
  await motion.getByRole('button', { name: 'Motion flow again' }).click();
  await expect(motion).not.toContainText('blended between');
});

test('a join dissolves by hand or by number: both sides run on in the file, weighed exactly, and what is missing is said', async ({
  page,
}) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 20, 40);
  await addPiece(page, 'lit-30.mp4', [60, 80]);
  const handle = page.getByRole('slider', { name: 'Join before piece 2' });
  await expect(handle).toHaveAttribute('aria-valuetext', 'cut');
  const { x, y, width, height } = (await handle.boundingBox())!;
  const pull = async (by: number) => {
    await page.mouse.move(x + width / 2, y + height / 2);
    await page.mouse.down();
    await page.mouse.move(x + width / 2 + by, y + height / 2, { steps: 4 });
  };
  await pull(150);
  await expect(page.getByTestId('live')).toContainText('dissolve');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(handle).toHaveAttribute('aria-valuetext', 'cut');
  await pull(-150);
  await page.mouse.up();
  await openReading(page);
  await expect(page.getByLabel('Dissolve in')).toHaveValue(/^\d+ f$/);
  await enter(page, 'Dissolve in', '8');
  await expect(handle).toHaveAttribute('aria-valuetext', '8 frames');

  // Of the same clip to the place just before its end: there is nothing to run on with.
  await addPiece(page, 'lit-30.mp4', [0, 30]);
  await enter(page, 'Dissolve in', '2 b');
  await expect(page.getByText('There is no song to count beats of: it is a cut.')).toBeVisible();
  await enter(page, 'Dissolve in', '6');
  await expect(
    page.getByText('lit-30.mp4 has 3 pictures too few here: its beginning is held.'),
  ).toBeVisible();
  await expect(page.getByTestId('length')).toContainText('70 f');

  const expected = [...up(20, 39), ...up(60, 79), ...up(0, 29)].map((n) => lit([[n, 1]]));
  for (let j = 0; j < 8; j++) expected[16 + j] = lit([[36 + j, 7.5 - j], [56 + j, j + 0.5]]); // oxfmt-ignore
  for (let j = 0; j < 6; j++) expected[37 + j] = lit([[77 + j, 5.5 - j], [Math.max(0, j - 3), j + 0.5]]); // oxfmt-ignore
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const made = await weightsOf(await render(page, 'webm-vp9', join(WORK, 'dissolved.webm')));
  expect(made).toHaveLength(expected.length);
  const off = made.flatMap((row, i) => row.map((w, column) => Math.abs(w - expected[i]![column]!)));
  expect(Math.max(...off)).toBeLessThan(0.03);
});
