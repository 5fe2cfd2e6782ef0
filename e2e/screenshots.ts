/** `npm run screenshots`: one current picture of each main view, from the demo, into docs/screenshots. */
import { join } from 'node:path';
import { expect } from './journey';
import { openDemo, openStage } from './stage';

const folder = join(import.meta.dirname, '..', 'docs', 'screenshots');
const stage = await openStage();
try {
  const { page } = await stage.newPage();
  const shoot = (name: string) => page.screenshot({ path: join(folder, `${name}.png`) });
  await shoot('welcome');
  await openDemo(page);
  await page.waitForTimeout(6000);
  await page.keyboard.press('Space');
  await page.waitForTimeout(3600);
  await page.keyboard.press('Space');
  await page.mouse.move(640, 500);
  await page.waitForTimeout(800);
  await shoot('bench');
  await page.getByRole('link', { name: 'Render' }).first().click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await download;
  await expect(page.getByTestId('render-proof')).toBeVisible();
  await page.mouse.move(10, 700);
  await shoot('render');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.waitForTimeout(1200);
  await shoot('shelf');
  await page.getByRole('button', { name: 'Open Lamplighter, every move' }).click();
  await page.waitForTimeout(9000);
  await page.mouse.click(990, 760);
  await page.waitForTimeout(2500);
  await page.mouse.move(990, 640);
  await page.waitForTimeout(600);
  await shoot('every-move');
  await page.mouse.click(1150, 760);
  await page.waitForTimeout(1500);
  await page.getByRole('button', { name: 'Find loops near the span' }).click();
  await page.getByRole('group', { name: 'Found loops' }).getByRole('button').first().waitFor();
  await page.waitForTimeout(500);
  await shoot('loops');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+?');
  await page.waitForTimeout(600);
  await shoot('help');
} finally {
  await stage.close();
}
