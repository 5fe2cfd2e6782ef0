import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip, readNumbers } from './coded-clips';
import {
  addBoomerang,
  enter,
  expect,
  fromMenu,
  openCard,
  openReading,
  removeCard,
  render,
  setSpan,
  startWith,
  test,
} from './journey';
import { openDemo } from './stage';

test('checks say what is wrong and mend it in one action', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 130);
  await expect(page.getByText('Loop jumps at its end')).toBeVisible();
  const seam = async () => Number((await page.getByTestId('seam').textContent())!.replace('loop match ', ''));
  const all = page.getByRole('button', { name: /^All checks/ });
  await all.click();
  await expect.poll(seam).toBeGreaterThan(2.5);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add a return trip' }).click();
  await expect(page.getByText(/^Loop closes/).first()).toBeVisible();
  await all.click();
  await expect.poll(seam).toBeLessThan(2.5);
  await page.keyboard.press('Escape');
  await openCard(page, 'Boomerang');
  await page.getByLabel('Boomerang: Turn frame').selectOption('twice');
  await expect(all).toContainText('2 turn frames twice');
  await all.click();
  const findings = page.getByRole('group', { name: 'Checks' });
  await expect(findings.getByText('2 turn frames shown twice')).toBeVisible();
  await findings.getByRole('button', { name: 'Show the turn frame once' }).click();
  await expect(all).toContainText('Loop closes');
  await page.keyboard.press('Control+z');
  await expect(all).toContainText('2 turn frames twice');
});

test('slow speeds name the cleanest one; a clip read slower plays every frame once', async ({ page }) => {
  await startWith(page, await codedClip('bframes'), await codedClip('fast'));
  await page.getByRole('button', { name: 'Add a piece of fast-60.mp4' }).click();
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '20');
  await expect(page.getByText('Frames repeat: 50 % shows each once.')).toBeVisible();
  await page.getByRole('button', { name: /^All checks/ }).click();
  await expect(page.getByText('choppiest part: 12 new frames/s')).toBeVisible();
  // Along the result, walked by keys: 30 in the first piece, 12 in the slowed one; the playhead goes along.
  const pace = page.getByRole('slider', { name: 'New frames a second, along the result' });
  await pace.press('Home');
  await expect(pace).toHaveAttribute('aria-valuetext', /^frame 0: 30 new frames/);
  await pace.press('End');
  await expect(pace).toHaveAttribute('aria-valuetext', /^frame \d+: 1[123](\.\d)? new frames/);
  await expect(page.getByTestId('timecode')).not.toHaveText('00:00:00:00');
  await page.keyboard.press('Escape');
  await removeCard(page, 'Speed');
  await openReading(page);
  await page.getByLabel('Play clip at').selectOption('30');
  await expect(page.getByTestId('length')).toContainText('180 f');

  // How large files would be: compared, and chosen by keys; how good the file is, along it.
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByRole('button', { name: 'Compare file sizes', exact: true }).click();
  const sizes = page.getByRole('radiogroup', { name: 'File sizes' }).getByRole('radio');
  await expect(sizes).toHaveCount(4, { timeout: 60_000 });
  await sizes.nth(2).press('ArrowUp');
  await expect(page.getByLabel('Quality', { exact: true })).toHaveValue('good');
  await expect(sizes.nth(1)).toBeFocused();
  await render(page, 'webm-vp9', join(WORK, 'charted.webm'));
  const along = page.getByRole('slider', { name: 'Quality along the file' });
  await along.press('Home');
  await expect(along).toHaveAttribute('aria-valuetext', /^at 0\.00 s: (the same|\d+\.\d dB)$/);
  const least = Number(/([\d.]+) dB/.exec((await along.getAttribute('aria-valuetext'))!)?.[1] ?? 99);
  expect(least).toBeGreaterThan(36);
});

test('a frame is saved as a PNG at full size, and held', async ({ page }) => {
  await startWith(page, await codedClip('large'));
  await setSpan(page, 100, 130);
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight');
  const download = page.waitForEvent('download');
  await page.keyboard.press('p');
  const path = join(WORK, 'still.png');
  await (await download).saveAs(path);
  expect((await readFile(path)).readUInt32BE(16)).toBe(1280);
  expect(await readNumbers(path)).toEqual([107]);
  await page.keyboard.press('h');
  await expect(page.getByLabel('Hold: At')).toHaveValue('source 107');
  await expect(page.getByTestId('length')).toContainText('50 f');
});

test('the loop finder knows the swing of the lanterns', async ({ page }) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Add a piece of tram.webm' }).click();
  await setSpan(page, 2, 40);
  await fromMenu(page, 'the piece', 'Find loops near the span');
  const best = page.getByRole('group', { name: 'Found loops' }).getByRole('button').first();
  await expect(best.getByText(/^(59|60|61|119|120|121) f$/)).toBeVisible({ timeout: 30_000 });
  await best.click();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Span length')).toHaveValue(/^(59|60|61|119|120|121) f/);
});

test('a jump that no move means is a skip; splitting between pieces is a cut', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'once' });
  await page.getByRole('button', { name: 'More for Boomerang' }).click();
  await page.getByRole('menuitem', { name: 'Apply to a part' }).click();
  const all = page.getByRole('button', { name: /^All checks/ });
  await expect(all).toContainText('Loop jumps at its end');
  await all.click();
  const findings = page.getByRole('group', { name: 'Checks' });
  await expect(findings.getByText(/^Jumps at frame/)).toBeVisible();
  await findings.getByRole('button', { name: 'Show', exact: true }).last().click();
  await expect(page.getByTestId('timecode')).not.toHaveText('00:00:00:00');
  await findings.getByRole('button', { name: 'End going forward' }).click();
  await all.click();
  await expect(findings.getByText('Cuts are clean')).toBeVisible();
});
