/** What hands do on Beats and with a song, for the journeys. */
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK } from './coded-clips';
import { expect, settled } from './journey';
import { clickTrack } from './songs';

export const RATE = 30;
/** 125 beats a minute, from 0.4 s on. */
export const BEATS = Array.from({ length: 40 }, (_, i) => 0.4 + i * 0.48);

export async function addSong(page: Page, path: string): Promise<void> {
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByLabel('Choose a song').setInputFiles(path);
  await expect(page.getByTestId('beats-count')).not.toHaveText(/^0 beats/, { timeout: 60_000 });
}

export const tempo = (page: Page) => page.getByLabel('Tempo', { exact: true });
export const toWeave = async (page: Page) => {
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByRole('slider', { name: 'Song, first frame' })).toBeVisible();
};

/** The song's beats as the page has them, seconds. */
export async function gridOf(page: Page): Promise<number[]> {
  await page.getByRole('link', { name: 'Beats' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save markers' }).click();
  const path = join(WORK, 'markers.csv');
  await (await download).saveAs(path);
  const lines = (await readFile(path, 'utf8')).trim().split('\n').slice(1);
  return lines.map((l) => Number(l.split(',')[0]));
}

/** Adds the click track of `BEATS` to the open project and goes back to the weave. */
export async function withClicks(page: Page): Promise<void> {
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  await toWeave(page);
}

/** Chooses a result frame: from the first on, by the keys. */
export async function goTo(page: Page, frame: number): Promise<void> {
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < Math.floor(frame / 10); i++) await page.keyboard.press('Shift+ArrowRight');
  for (let i = 0; i < frame % 10; i++) await page.keyboard.press('ArrowRight');
}

/** Until a sheet that was closed has faded, it lies over everything. */
export const sheetGone = (page: Page): Promise<void> =>
  expect(page.locator('.MuiPopover-root')).toHaveCount(0);

/** Opens what is heard, does something there and closes it. */
export async function inSound(page: Page, what: () => Promise<void>): Promise<void> {
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await settled(page);
  await what();
  await page.keyboard.press('Escape');
  await sheetGone(page);
}
