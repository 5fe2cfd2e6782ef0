import type { Page } from '@playwright/test';
import { openDemo } from './stage';

/** Plays the demo's thirty seconds, cut quickly between five clips, for the first time, and prints how many of its frames were late. */
export async function printQuickCut(page: Page): Promise<void> {
  await openDemo(page);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, thirty seconds' }).click();
  await page
    .getByTestId('length')
    .filter({ hasText: /^900 f/ })
    .waitFor();
  await page.locator('body').press('Shift+L');
  // Until what is drawn once has been drawn.
  await page.waitForTimeout(10_000);
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  const told: string[] = [];
  for (const seconds of [6, 24]) {
    await page.waitForTimeout(1000 * seconds);
    told.push(
      /\d+ late of \d+/.exec((await page.getByTestId('stats').textContent()) ?? '')?.[0] ?? 'nothing',
    );
  }
  console.log(
    `The demo's thirty seconds, first round: ${told[0]} frames in its first six seconds, ${told[1]} in all of it`,
  );
}
