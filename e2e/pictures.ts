import { join } from 'node:path';
import { type Page, expect } from '@playwright/test';
import { WORK } from './coded-clips';

/** Renders a file and saves it with the button that says its size. */
export async function renderPictures(page: Page, format: string, name: string): Promise<string> {
  await page.getByLabel('File', { exact: true }).selectOption(format);
  await page.getByRole('button', { name: /^Render \d+ frames?/ }).click();
  const save = page.getByRole('button', { name: /^Save it, [\d.]+ MB$/ });
  await expect(save).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId('render-proof')).toHaveAttribute('data-as-ordered', 'true');
  const download = page.waitForEvent('download');
  await save.click();
  const path = join(WORK, name);
  await (await download).saveAs(path);
  return path;
}
