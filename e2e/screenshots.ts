/** `npm run screenshots`: one current picture of each main view, from the demo, into docs/screenshots. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WEAVE, enter, expect, fromMenu, openCard, removeCard } from './journey';
import { openDemo, openStage } from './stage';

const folder = join(import.meta.dirname, '..', 'docs', 'screenshots');
/** Clicks on the result strip, at a share of its width. */
async function onResult(page: Page, share: number): Promise<void> {
  const end = (await page
    .getByRole('slider', { name: /^End of segment/ })
    .first()
    .boundingBox())!;
  await page.mouse.click(WEAVE * share, end.y + end.height / 2);
}

/** The forms of the weave, each with something made by hand in it, taken back afterwards. */
async function byHand(page: Page, shoot: (name: string) => Promise<unknown>): Promise<void> {
  const value = async (label: string, text: string) => {
    await enter(page, label, text);
  };
  await page.getByRole('button', { name: 'Graph', exact: true }).click();
  for (const place of [2, 4, 6]) {
    await page.getByRole('slider', { name: `Point ${place}`, exact: true }).focus();
    await value('Point: soft before', '20');
    await value('Point: soft after', '10');
  }
  await page.getByRole('slider', { name: 'Point 4', exact: true }).focus();
  await page.keyboard.press('Shift+ArrowDown');
  await page.keyboard.press('Shift+ArrowDown');
  await page.mouse.move(640, 250);
  await page.waitForTimeout(900);
  await shoot('curve');
  await removeCard(page, 'Curve');
  await page.getByRole('button', { name: 'Speeds', exact: true }).click();
  await page.mouse.dblclick(400, 600);
  await page.mouse.dblclick(690, 600);
  await page.getByRole('slider', { name: 'Speed 2, percent' }).focus();
  await value('Change of speed: percent', '250');
  await value('Change of speed: ends after', '14');
  await page.mouse.move(480, 440);
  await page.waitForTimeout(900);
  await shoot('speed');
  await removeCard(page, 'Ramp');
  await removeCard(page, 'Boomerang');
  await page.getByRole('button', { name: 'Grid', exact: true }).click();
  await page.getByRole('button', { name: 'Add a Pattern' }).click();
  await value('Grid: Steps', '16');
  await page.getByLabel('Pattern: Steps as text').click();
  await value('Pattern: Steps', '1> 1< 1> 2> 2< 2> 3= 3> @144> @144< @144> @144= 4> 4< 4> .');
  await page.waitForTimeout(1500);
  await page.keyboard.press('Space');
  await page.mouse.move(640, 250);
  await page.waitForTimeout(2600);
  await shoot('steps');
  await fromMenu(page, 'Pattern', /^Variations/);
  await page.getByRole('slider', { name: 'How wild' }).waitFor();
  await page.waitForTimeout(4000);
  await shoot('variations');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+H');
  const history = page.getByRole('group', { name: 'History' });
  await history.hover();
  await page.mouse.wheel(0, 100_000);
  await history.getByRole('button', { name: /as it was opened/ }).click();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Threads', exact: true }).click();
}

const stage = await openStage();
try {
  const { page } = await stage.newPage();
  const shoot = (name: string) => page.screenshot({ path: join(folder, `${name}.png`) });
  await expect(page.locator('[data-loops=dressed]')).toHaveCount(4, { timeout: 90_000 });
  await page.waitForTimeout(900);
  await shoot('welcome');
  await openDemo(page);
  // Until the clips and their pictures are there.
  await expect(page.getByText(/^[\d.]+\/s \d+s/)).toHaveCount(5, { timeout: 120_000 });
  await expect(page.getByText('reading', { exact: true })).toHaveCount(0, { timeout: 120_000 });
  await page.waitForTimeout(3000);
  await page.keyboard.press('Space');
  await page.waitForTimeout(3600);
  await page.keyboard.press('Space');
  await page.mouse.move(480, 440);
  await page.waitForTimeout(800);
  await shoot('bench');
  await byHand(page, shoot);
  await page.getByRole('link', { name: 'Render' }).first().click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await download;
  await expect(page.getByTestId('render-proof')).toBeVisible();
  await page.mouse.move(10, 700);
  await page.waitForTimeout(1500);
  await shoot('render');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.waitForTimeout(1200);
  await page.locator('[data-loops=dressed]').first().waitFor({ timeout: 60_000 });
  await page.waitForTimeout(900);
  await shoot('shelf');
  await page.getByRole('button', { name: 'Open Lamplighter, looks' }).click();
  await page.waitForTimeout(3000);
  await page.keyboard.press('a');
  for (let i = 0; i < 6; i++) await page.keyboard.press('Shift+ArrowRight');
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
  await page.getByRole('button', { name: /^Split, .*: open its values/ }).click();
  await page.mouse.move(480, 440);
  await page.waitForTimeout(9000);
  await shoot('looks');
  await onResult(page, 480 / 1280);
  await page.waitForTimeout(1500);
  await page.getByRole('button', { name: /^Outline, .*: open its values/ }).click();
  await page.mouse.move(480, 440);
  await page.waitForTimeout(1500);
  await page.getByRole('button', { name: 'What moves Outline: Glow' }).click();
  await page.waitForTimeout(4000);
  await shoot('driver');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.waitForTimeout(1200);
  await page.getByRole('button', { name: 'Open Lamplighter, in between' }).click();
  await page.waitForTimeout(9000);
  // The lantern flies, along its motion and with copies behind it.
  await onResult(page, 738 / 1280);
  await page.waitForTimeout(12_000);
  await page.mouse.move(480, 440);
  await page.waitForTimeout(1000);
  await shoot('flow');
  await page.getByRole('button', { name: 'Moves', exact: true }).click();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.waitForTimeout(1200);
  await page.getByRole('button', { name: 'Open Lamplighter, held and carried' }).click();
  await page.waitForTimeout(6000);
  // A tinted copy's region, carried by the drummer's head, on the picture.
  await onResult(page, 716 / 1280);
  await openCard(page, 'Tint');
  await page.getByRole('button', { name: 'Edit on the picture' }).click();
  await page.mouse.move(480, 440);
  await page.waitForTimeout(4000);
  await shoot('region');
  await page.keyboard.press('Escape');
  // The runner's trail behind the post, with the burst of lines over it.
  await onResult(page, 1130 / 1280);
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await page.getByRole('button', { name: /^Add Overlay\./ }).click();
  await page.getByLabel('Overlay: Picture of', { exact: true }).selectOption('ours leak.webm');
  await page.getByRole('button', { name: 'Place it on the picture' }).waitFor();
  await page.mouse.move(480, 440);
  await page.waitForTimeout(9000);
  await shoot('overlay');
  await removeCard(page, 'Overlay');
  await page.getByRole('button', { name: 'Moves', exact: true }).click();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.waitForTimeout(1200);
  await page.getByRole('button', { name: 'Open Lamplighter, thirty seconds' }).click();
  await page.waitForTimeout(13_000);
  await onResult(page, 760 / 1280);
  await page.waitForTimeout(1500);
  await page.keyboard.press('Shift+B');
  await page.mouse.move(480, 440);
  // The notice of the looped bars goes.
  await page.waitForTimeout(6000);
  await shoot('on-the-music');
  await page.keyboard.press('Shift+B');
  await page.waitForTimeout(6000);
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await page.getByLabel('The clips’ own sound').click();
  await page.waitForTimeout(600);
  await shoot('sounds');
  await page.keyboard.press('Escape');
  await page.waitForTimeout(400);
  await page.keyboard.press('Control+z');
  // The notice of the undo goes.
  await page.waitForTimeout(3500);
  await page.keyboard.press('g');
  await page.waitForTimeout(600);
  await shoot('by-hand');
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByText('Reading').waitFor({ state: 'hidden' });
  await page.waitForTimeout(1500);
  await shoot('beats');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.waitForTimeout(1200);
  await page.getByRole('button', { name: 'Open Lamplighter, every move' }).click();
  await page.waitForTimeout(9000);
  await onResult(page, 990 / 1280);
  await page.waitForTimeout(2500);
  await page.mouse.move(740, 610);
  await page.waitForTimeout(600);
  await shoot('every-move');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, the drum', exact: true }).click();
  await page.getByRole('button', { name: 'Recipes', exact: true }).click();
  await page.locator('[data-loops=dressed]').first().waitFor({ timeout: 60_000 });
  await page.getByRole('button', { name: /^Put on Colours split on the way back/ }).click();
  await page.mouse.move(480, 440);
  await page.waitForTimeout(2600);
  await page.keyboard.press('k');
  // The notice of what was put on goes.
  await page.waitForTimeout(4000);
  await shoot('recipes');
} finally {
  await stage.close();
}
