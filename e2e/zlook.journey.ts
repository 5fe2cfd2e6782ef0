import { test, expect, startWith } from './journey';
import { openDemo } from './stage';
test('look', async ({ page }) => {
  await openDemo(page);
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/w/bench.png' });
  await page.keyboard.press('?');
  await page.waitForTimeout(500);
  await page.screenshot({ path: '/tmp/w/help.png' });
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/w/beats.png' });
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.waitForTimeout(1500);
  await page.screenshot({ path: '/tmp/w/render.png' });
});
