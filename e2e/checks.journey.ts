import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip, readNumbers } from './coded-clips';
import { addBoomerang, enter, expect, setSpan, startWith, test } from './journey';
import { openDemo } from './stage';

test('checks say what is wrong and mend it in one action', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 130);
  await expect(page.getByText('Loop skips at its end')).toBeVisible();
  const seam = async () => Number((await page.getByTestId('seam').textContent())!.replace('seam ', ''));
  await expect.poll(seam).toBeGreaterThan(2.5);
  await page.getByRole('button', { name: 'Add a way back' }).click();
  await expect(page.getByText('Loop closes', { exact: true })).toBeVisible();
  await expect.poll(seam).toBeLessThan(2.5);
  await page.getByLabel('Boomerang: Turn frame').selectOption('twice');
  const all = page.getByRole('button', { name: 'All checks: 1 finding' });
  await all.click();
  const findings = page.getByRole('group', { name: 'Findings' });
  await expect(findings.getByText('2 turn frames twice')).toBeVisible();
  await findings.getByRole('button', { name: 'Turn once' }).click();
  await expect(all).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(all).toBeVisible();
});

test('slow speeds name the cleanest one; a clip read slower plays every frame once', async ({ page }) => {
  await startWith(page, await codedClip('bframes'), await codedClip('fast'));
  await page.getByRole('button', { name: 'Add a piece of fast-60.mp4' }).click();
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '20');
  await expect(page.getByText('Frames repeat: 50 % shows each once.')).toBeVisible();
  await expect(page.getByText('choppiest 12/s')).toBeVisible();
  await page.getByRole('button', { name: 'Take Speed away' }).click();
  await page.getByLabel('Read the clip at').selectOption('30');
  await expect(page.getByTestId('length')).toContainText('180 f');
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
  await page.getByRole('button', { name: 'Find loops near the span' }).click();
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
  await page.getByRole('menuitem', { name: 'Limit to a part' }).click();
  await expect(page.getByRole('button', { name: /1 skip: show/ })).toBeVisible();
  await page.getByRole('button', { name: /1 skip: show/ }).click();
  await expect(page.getByTestId('timecode')).not.toHaveText('00:00:00:00');
  await page.getByRole('button', { name: /^All checks/ }).click();
  const findings = page.getByRole('group', { name: 'Findings' });
  await findings.getByRole('button', { name: 'Leave forward' }).click();
  await expect(page.getByText('No skips')).toBeVisible();
});
