import type { Page } from '@playwright/test';
import { codedClip } from './coded-clips';
import { addBoomerang, enter, expect, fromMenu, setSpan, startWith, test } from './journey';

const length = (page: Page) => page.getByTestId('length');

test('resting on a move loops what it would do, without adding it', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  const picture = page.getByText('Boomerang, tried out. Click to keep it.');
  await page.getByRole('button', { name: /^Add Boomerang/ }).hover();
  await expect(picture).toBeVisible();
  await expect(length(page)).toContainText('60 f');
  await page.mouse.move(640, 250);
  await expect(picture).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Undo' })).toBeEnabled();
  await page.getByRole('button', { name: /^Add Boomerang/ }).click();
  await expect(length(page)).toContainText('236 f');
});

test('variations play in a sheet; the one picked is one step of undo', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'once' });
  await fromMenu(page, 'Boomerang', /^Variations/);
  const sheet = page.getByRole('group', { name: 'Variations', exact: true });
  await expect(sheet.getByRole('button')).toHaveCount(9);
  const words = () => sheet.getByRole('button').nth(3).textContent();
  const before = await words();
  await page.getByRole('button', { name: 'Show others' }).click();
  await expect.poll(words).not.toBe(before);
  await sheet.getByRole('button').nth(3).click();
  await expect(sheet).toHaveCount(0);
  await expect(length(page)).not.toContainText('236 f');
  await page.keyboard.press('Control+z');
  await expect(length(page)).toContainText('236 f');
});

test('two versions are flipped with one key, and the history is stepped through', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await page.locator('body').press('x');
  await expect(page.getByRole('button', { name: 'Version B' })).toHaveAttribute('aria-pressed', 'true');
  await enter(page, 'Boomerang: Round trips', '3');
  await expect(length(page)).toContainText('360 f');
  for (const frames of ['120 f', '360 f', '120 f', '360 f']) {
    await page.keyboard.press('x');
    await expect(length(page)).toContainText(frames);
  }
  await page.keyboard.press('Shift+H');
  const history = page.getByRole('group', { name: 'History' });
  // Which version is shown is part of it: A again, after B was changed.
  await expect(history.getByRole('button').first()).toContainText('show A');
  await expect(history.getByRole('button').nth(1)).toContainText('change Boomerang, round trips');
  // From place to place while it is open: it says where one is, and goes on from there.
  const added = history.getByRole('button', { name: /add Boomerang/ });
  const newest = history.getByRole('button').nth(1);
  for (const [entry, frames] of [
    [added, '236 f'],
    [newest, '360 f'],
    [added, '236 f'],
  ] as const) {
    await entry.click();
    await expect(length(page)).toContainText(frames);
    await expect(entry).toHaveAttribute('aria-current', 'step');
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+Shift+z');
  await expect(length(page)).not.toContainText('236 f');
});

test('playing keeps near what is selected, at half speed when asked', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'twice' });
  await page.getByRole('group', { name: /^Weave/ }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('.');
  await page.keyboard.press('.');
  await expect(page.getByRole('group', { name: 'Selected segment' })).toContainText('segment 2 of 4');
  await page.keyboard.press('n');
  await enter(page, 'Frames around what is selected', '5');
  await page.keyboard.press('Shift+Space');
  await page.keyboard.press('Space');
  const frameNow = async () =>
    Number(/frame (\d+) of/.exec((await page.getByRole('group', { name: 'Readouts' }).textContent())!)![1]);
  await expect.poll(frameNow).toBeGreaterThan(61);
  const seen: number[] = [];
  const began = Date.now();
  while (Date.now() - began < 6000) {
    seen.push(await frameNow());
    await page.waitForTimeout(60);
  }
  expect(Math.min(...seen)).toBeGreaterThanOrEqual(55);
  expect(Math.max(...seen)).toBeLessThanOrEqual(124);
  // 70 frames at half of 30 a second last 4.7 seconds: within six it came round once, not twice.
  const turns = seen.filter((f, i) => i > 0 && f < seen[i - 1]! - 20).length;
  expect(turns).toBeGreaterThanOrEqual(1);
  expect(turns).toBeLessThanOrEqual(2);
  await page.keyboard.press('n');
  await page.keyboard.press('j');
  await expect.poll(frameNow).toBeLessThan(56);
});

test('a clip that is lost keeps its pieces, and is found again by choosing the file', async ({ page }) => {
  const path = await codedClip('bframes');
  await startWith(page, path);
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.evaluate(async () => {
    const root = await navigator.storage.getDirectory();
    for await (const name of (root as unknown as { keys(): AsyncIterable<string> }).keys())
      await root.removeEntry(name, { recursive: true });
  });
  await page.reload();
  await expect(page.getByText(/is not in this browser any more/)).toBeVisible();
  await page.getByLabel('Choose the file of bframes-30.mp4').setInputFiles(path);
  await expect(page.getByText(/is not in this browser any more/)).toHaveCount(0);
  await expect(length(page)).toContainText('120 f');
});

test('a hint names the cleanest slow speed and takes it', async ({ page }) => {
  await startWith(page, await codedClip('bframes'), await codedClip('fast'));
  await page.getByRole('button', { name: 'Add a piece of fast-60.mp4' }).click();
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '10');
  await expect(
    page.getByText(/frames repeat 5x here: 50 % is this clip's cleanest slow speed/),
  ).toBeVisible();
  await page.getByRole('button', { name: 'Use 50 %' }).click();
  await expect(page.getByLabel('Speed: Speed')).toHaveValue('50 %');
  await expect(page.getByText(/frames repeat/)).toHaveCount(0);
});
