import { test } from './journey';
import { openDemo } from './stage';
test('look', async ({ page }) => {
  await openDemo(page);
  await page.waitForTimeout(2500);
  await page.screenshot({ path: '/tmp/w/a.png' });
  await page.getByRole('button', { name: 'Moves' }).click();
  await page.waitForTimeout(700);
  await page.screenshot({ path: '/tmp/w/b.png' });
  await page.keyboard.press('Control+k');
  await page.waitForTimeout(400);
  await page.keyboard.type('freeze');
  await page.waitForTimeout(400);
  await page.screenshot({ path: '/tmp/w/c.png' });
});
