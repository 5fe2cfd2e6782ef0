/** Looks from the card to the file: where they apply, what they draw, in the picture and in what is rendered. */
import { join } from 'node:path';
import { WORK, codedClip, readNumbers, whiteFrames } from './coded-clips';
import {
  addBoomerang,
  addLook,
  condition,
  enter,
  expect,
  offerLooks,
  openCard,
  render,
  setSpan,
  startWith,
  test,
  up,
  WEAVE,
} from './journey';
import { openDemo } from './stage';

test('a flash on the first frames of backward parts is there and nowhere else, and follows every change', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 130);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'twice' });
  await offerLooks(page);
  await addLook(page, 'Flash');
  await condition(page, 'Flash', 'first', { frames: '3', way: 'backward' });
  await enter(page, 'Flash: Fades over', '0');
  await expect(page.getByRole('button', { name: /^Where Flash applies/ })).toHaveText(
    'first 3 frames of backward parts',
  );
  const rendered = async (name: string) => {
    const file = await render(page, 'mp4-h264', join(WORK, `flash-${name}.mp4`));
    await page.getByRole('link', { name: 'Weave' }).click();
    // The bench is there, and with it its keys.
    await expect(page.getByTestId('length')).toBeVisible();
    return file;
  };
  const first = await rendered('as-made');
  expect(await whiteFrames(first)).toEqual([30, 31, 32, 90, 91, 92]);
  // Everything else carries its number as before.
  const numbers = await readNumbers(first);
  expect(numbers.slice(0, 30)).toEqual(up(100, 129));
  expect(numbers.slice(33, 60)).toEqual(up(100, 126).reverse());
  await openCard(page, 'Boomerang');
  await enter(page, 'Boomerang: Round trips', '3');
  await setSpan(page, 110, 130);
  expect(await whiteFrames(await rendered('other-span'))).toEqual([20, 21, 22, 60, 61, 62, 100, 101, 102]);
  await enter(page, 'Boomerang: Backward speed', '200');
  expect(await whiteFrames(await rendered('faster-back'))).toEqual([20, 21, 22, 50, 51, 52, 80, 81, 82]);
  // Switched off it is gone; undo brings it back.
  await page.getByLabel('Flash on', { exact: true }).click();
  expect(await whiteFrames(await rendered('off'))).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Flash on', { exact: true })).toBeChecked();
  // A flash on the last frames alone leaves the loop closed; what it does to the seam is measured and said.
  const all = page.getByRole('button', { name: /^All checks/ });
  await all.click();
  await expect(page.getByTestId('seam')).toHaveText(/^loop match [\d.]+$/);
  await page.keyboard.press('Escape');
  await openCard(page, 'Flash');
  await condition(page, 'Flash', 'last', { frames: '2', way: 'backward' });
  await all.click();
  await expect(page.getByRole('group', { name: 'Checks' }).getByText('Loop closes')).toBeVisible();
  await expect(page.getByTestId('seam')).toHaveText(/^loop match [\d.]+, with looks [\d.]+$/);
  const [plain, treated] = (await page.getByTestId('seam').textContent())!.match(/[\d.]+/g)!.map(Number);
  expect(plain).toBeLessThan(2.5);
  expect(treated).toBeGreaterThan(4 * plain!);
});

test('equal pictures are drawn once: five trips with three looks cost those of one', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 120);
  await addBoomerang(page, { trips: 5, back: '100', turn: 'twice' });
  await offerLooks(page);
  for (const name of ['Split', 'Grade', 'Vignette']) await addLook(page, name);
  await render(page, 'mp4-h264', join(WORK, 'five-trips.mp4'));
  await expect(page.getByTestId('render-proof')).toContainText('drawn on 20 pictures, 20 reused');
  await expect(page.getByTestId('render-proof')).toContainText('40 pictures; the others repeat them');
  // What a cut list cannot carry is said.
  await expect(page.getByRole('group', { name: 'Cut lists' })).toContainText('Looks are not in it.');
});

test('a value is driven, its driver is undone, copied and saved; fast flashing is warned of until it is meant', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await offerLooks(page);
  // Its cards show the picture that is there, treated, as soon as it is there.
  const card = page.getByRole('group', { name: 'Looks', exact: true }).locator('canvas').first();
  await expect
    .poll(() =>
      card.evaluate((c) => (c as HTMLCanvasElement).getContext('2d')!.getImageData(70, 40, 1, 1).data[3]),
    )
    .toBe(255);
  await addLook(page, 'Punch');
  await page.getByRole('button', { name: 'What moves Punch: Zoom' }).click();
  await page.getByLabel('Punch: Zoom moves').selectOption('progress');
  await enter(page, 'Punch: Zoom, to', '180');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What moves Punch: Zoom' })).toContainText('start to end');
  await addLook(page, 'Strobe');
  await enter(page, 'Strobe: On for', '2');
  await enter(page, 'Strobe: Off for', '2');
  await expect(page.getByText('8 flashes a second')).toBeVisible();
  await page.getByRole('button', { name: 'Keep it like this' }).first().click();
  await expect(page.getByText('8 flashes a second')).toHaveCount(0);
  // What is there is there again.
  await expect(page.getByText('Saved')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('group', { name: 'Look Punch' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText('8 flashes a second')).toHaveCount(0);
  await page.getByRole('button', { name: /^Punch, everywhere/ }).click();
  await expect(page.getByRole('button', { name: 'What moves Punch: Zoom' })).toContainText('start to end');
  // In another order, and away again.
  const names = page.getByRole('group', { name: 'Looks of this piece' }).getByRole('group');
  await page.getByLabel('More for Strobe').click();
  await page.getByRole('menuitem', { name: 'Earlier in the list' }).click();
  await expect(names.first()).toHaveAccessibleName('Look Strobe');
  await page.getByLabel('More for Punch').click();
  await page.getByRole('menuitem', { name: 'Copy to the whole result' }).click();
  await expect(page.getByRole('group', { name: 'Looks of the whole result' }).getByRole('group')).toHaveCount(
    1,
  );
});

test('a driver’s keys are dragged in its lane, to joins and in value; V offers variations of the look', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 150);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await offerLooks(page);
  await addLook(page, 'Punch');
  await page.getByRole('button', { name: 'What moves Punch: Zoom' }).click();
  await page.getByLabel('Punch: Zoom moves').selectOption('keys');
  await page.keyboard.press('Escape');
  // By keys: the second one from frame 30 on, and more.
  const second = page.getByRole('slider', { name: 'Punch: Zoom, keyframe 2' });
  await expect(second).toHaveAttribute('aria-valuenow', '30');
  const valueOf = async () => Number((await second.getAttribute('aria-valuetext'))!.split(', ')[1]);
  const before = await valueOf();
  await second.press('Shift+ArrowRight');
  await second.press('ArrowUp');
  await expect(second).toHaveAttribute('aria-valuenow', '40');
  expect(await valueOf()).toBe(before + 1);
  // By hand: near the turn it is drawn to it; pulled down it is less; Escape puts back.
  const box = (await second.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const perFrame = (WEAVE - 32) / 100;
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 9.7 * perFrame, y, { steps: 5 });
  await expect(page.getByTestId('live')).toContainText('50 f');
  await expect(page.getByTestId('live')).toContainText('join');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(second).toHaveAttribute('aria-valuenow', '40');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 9.7 * perFrame, y + 12, { steps: 5 });
  await page.mouse.up();
  await expect(second).toHaveAttribute('aria-valuenow', '50');
  const lower = await valueOf();
  expect(lower).toBeLessThan(before);
  await page.keyboard.press('Control+z');
  await expect(second).toHaveAttribute('aria-valuenow', '40');
  // Pressed twice, the lane takes another key.
  await page.mouse.dblclick(x + 30 * perFrame, y + 4);
  await expect(page.getByRole('slider', { name: /^Punch: Zoom, key/ })).toHaveCount(3);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('slider', { name: /^Punch: Zoom, key/ })).toHaveCount(2);

  await openCard(page, 'Punch');
  await page.keyboard.press('v');
  const sheet = page.getByRole('dialog', { name: 'Variations of Punch' });
  await expect(sheet.getByRole('group', { name: 'Variations' }).getByRole('button')).toHaveCount(9);
  await expect(sheet.getByRole('progressbar')).toHaveCount(0, { timeout: 60_000 });
  const words = (await sheet.getByRole('button').nth(4).getAttribute('title'))!;
  await sheet.getByRole('button').nth(4).click();
  await expect(sheet).toHaveCount(0);
  expect(words).not.toBe('');
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.getByRole('button', { name: 'History', exact: true }).click();
  await expect(page.getByText('take a variation of Punch')).toBeVisible();
});

test('the demo of looks opens with its drivers, and plays', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, looks' }).click();
  await expect(page.getByTestId('length')).toContainText('533 f');
  // Two of its pieces one after the other, and in each every value that is driven.
  let driven = 0;
  for (const clip of ['drummer.mp4', 'tea.mp4']) {
    const title = page.getByText(clip, { exact: true });
    for (let i = 0; i < 80 && (await title.count()) === 0; i++) await page.keyboard.press('.');
    await expect(title).toBeVisible();
    const cards = page
      .getByRole('group', { name: 'Looks of this piece' })
      .getByRole('group', { name: /^Look / });
    for (let i = 0; i < (await cards.count()); i++) {
      await cards
        .nth(i)
        .getByRole('button', { name: /: its values$/ })
        .click();
      const drivers = cards
        .nth(i)
        .getByRole('button', { name: /^What moves/ })
        .filter({ hasText: /\w/ });
      for (let d = 0; d < (await drivers.count()); d++, driven++) {
        await drivers.nth(d).click();
        await expect(page.getByRole('group', { name: /^What moves/ })).toBeVisible();
        await page.keyboard.press('Escape');
        await expect(page.getByRole('group', { name: /^What moves/ })).toHaveCount(0);
      }
    }
  }
  expect(driven).toBe(4);
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  await expect(page.getByTestId('speed')).toContainText('backward');
});

test('a colour table is read from a .cube file, a broken one is refused with its sentence', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await offerLooks(page);
  await addLook(page, 'Grade');
  const choose = page.getByLabel('Grade: Colour table, choose a file');
  const file = (text: string) => ({ name: 'dusk.cube', mimeType: 'text/plain', buffer: Buffer.from(text) });
  await choose.setInputFiles(file('LUT_3D_SIZE 3\n0 0 0\n1 1 1\n'));
  await expect(page.getByRole('alert')).toContainText('should have 27 rows and has 2');
  await choose.setInputFiles(file('TITLE "Dusk"\r\nLUT_1D_SIZE 2\r\n0.1 0 0\r\n1 0.9 0.8\r\n'));
  await expect(page.getByRole('group', { name: 'Look Grade' })).toContainText('Dusk, one dimension');
});
