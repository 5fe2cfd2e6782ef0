import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { readRecipe } from '@skipback/core/recipe/read';
import { WORK, codedClip } from './coded-clips';
import { enter, expect, openCard, setSpan, startWith, test } from './journey';

const recipes = (page: Page) => page.getByRole('group', { name: 'Recipes' });
const offerRecipes = (page: Page) => page.getByRole('button', { name: 'Recipes', exact: true }).click();

test('from the first page to a loop of an own clip: two presses, in a few seconds', async ({ page }) => {
  const began = Date.now();
  // The press on "Choose a video" opens the browser's own dialog; the file is what it gives.
  await page.getByLabel('Choose videos or a project file').setInputFiles(await codedClip('bframes'));
  await page.waitForURL(/project/);
  await expect(page.getByLabel('Span in', { exact: true })).toBeVisible();
  await expect(recipes(page)).toHaveAttribute('data-loops', /moving|dressed/, { timeout: 20_000 });
  const moving = Date.now() - began;
  await recipes(page)
    .getByRole('button', { name: /^Put on Colours split on the way back/ })
    .click();
  await expect(page.getByTestId('length')).toContainText('178 f');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await expect(page.getByTestId('timecode')).not.toHaveText('00:00:00:00');
  const looped = Date.now() - began;
  console.log(
    `  gallery moves after ${moving} ms, the first own loop plays after ${looped} ms and 2 presses`,
  );
  expect(looped).toBeLessThan(20_000);
  // One change, taken back whole.
  await page.keyboard.press('k');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('length')).toContainText('60 f');
});

test('a recipe of one clip is put on three others of other rates, each length as it was meant', async ({
  page,
}) => {
  await startWith(
    page,
    ...(await Promise.all((['bframes', 'ntsc', 'fast', 'late'] as const).map((c) => codedClip(c)))),
  );
  await setSpan(page, 30, 90);
  await page.getByRole('button', { name: /^Add Hold/ }).click();
  await enter(page, 'Hold: At', '15');
  await enter(page, 'Hold: For', '12');
  await page.getByRole('button', { name: /^Add Boomerang/ }).click();
  await enter(page, 'Boomerang: Round trips', '1');
  // The key opens the recipes too, whatever is offered.
  await page.keyboard.press('Shift+S');
  const sheet = page.getByRole('form', { name: 'Save as a recipe' });
  await sheet.getByLabel('Name').fill('Breath');
  await sheet.getByRole('button', { name: 'Save the recipe' }).click();
  await expect(recipes(page).getByRole('button', { name: /^Put on Breath/ })).toBeVisible();

  await page.getByRole('button', { name: 'Put on several' }).click();
  const dialog = page.getByRole('dialog', { name: 'One recipe on several pieces' });
  await dialog.getByLabel('Recipe').selectOption('Breath');
  for (const clip of ['ntsc', 'fast-60', 'late'])
    await dialog.getByLabel(new RegExp(`A new piece of ${clip}`)).check();
  await dialog.getByRole('button', { name: 'Put on 3' }).click();
  await expect(dialog.getByRole('status')).toContainText('Breath is on 3 pieces, as it is.');
  await dialog.getByRole('button', { name: 'Done' }).click();
  // Two seconds of each at the project's 30 a second, 12 held, there and back; what a turn takes is a step, and at 25 a
  // second a step is more than a frame.
  await expect(page.getByTestId('length')).toContainText('567 f');
  await openCard(page, 'Hold');
  await expect(page.getByLabel('Hold: At', { exact: true })).toHaveValue(/^15 f/);
  await expect(page.getByLabel('Hold: For', { exact: true })).toHaveValue(/^12 f/);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('length')).toContainText('142 f');
});

test('of many pieces only those in sight are drawn: scrolled, searched, chosen from one to another', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  for (let i = 0; i < 45; i++) await page.getByRole('button', { name: 'Duplicate the piece' }).click();
  await offerRecipes(page);
  await page.getByRole('button', { name: 'Put on several' }).click();
  const dialog = page.getByRole('dialog', { name: 'One recipe on several pieces' });
  const list = dialog.getByRole('group', { name: 'On' });
  const last = list.getByLabel(/^Piece 46: bframes/);
  await expect(list.getByLabel(/^Piece 1: bframes/)).toBeVisible();
  await expect(last).toHaveCount(0);
  expect(await list.getByRole('checkbox').count()).toBeLessThan(30);
  await list.getByLabel(/^Piece 1: bframes/).check();
  await list.hover();
  await page.mouse.wheel(0, 100_000);
  await expect(last).toBeVisible();
  await last.click({ modifiers: ['Shift'] });
  await expect(dialog.getByRole('button', { name: 'Put on 46' })).toBeVisible();
  await dialog.getByLabel('Show those called').fill('piece 17');
  await expect(list.getByRole('checkbox')).toHaveCount(1);
});

test('a recipe goes out as a file and comes in again; what is none, or hostile, gets a sentence', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await offerRecipes(page);
  await recipes(page)
    .getByRole('button', { name: /^Put on Torn stutter/ })
    .click();
  await page.keyboard.press('k');
  await page.keyboard.press('Shift+S');
  const sheet = page.getByRole('form', { name: 'Save as a recipe' });
  await sheet.getByLabel('Name').fill('Torn <b>sign</b>');
  await sheet.getByRole('button', { name: 'Save the recipe' }).click();
  const card = recipes(page).getByRole('button', { name: /^Put on Torn </ });
  await expect(card).toContainText('Torn <b>sign</b>');
  const more = async (item: string) => {
    await page.getByRole('button', { name: /^More for Torn </ }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  const download = page.waitForEvent('download');
  await more('Save as a file');
  const path = join(WORK, 'torn.recipe.json');
  await (await download).saveAs(path);
  const text = await readFile(path, 'utf8');
  expect(readRecipe(text).ok).toBe(true);
  await more('Delete');
  await expect(card).toHaveCount(0);
  const input = page.getByLabel('Choose recipe files');
  await input.setInputFiles(path);
  await expect(card).toBeVisible();
  for (const [name, bad, sentence] of [
    ['page.json', '<html>', /page\.json: This is not a recipe/],
    [
      'deep.json',
      `{"format":"skip-back-recipe","version":1,"x":${'['.repeat(90)}${']'.repeat(90)}}`,
      /nested/,
    ],
    ['proto.json', text.replace('"name"', '"__proto__": {"polluted": 1}, "name"'), /no file of ours has/],
    ['types.json', text.replace('"clipHz": 30', '"clipHz": "30"'), /damaged at "madeOn › clipHz"/],
  ] as const) {
    await input.setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(bad) });
    await expect(page.getByText(sentence).first()).toBeVisible();
  }
  expect(await page.evaluate(() => ({}) as Record<string, unknown>)).toEqual({});
  expect(await page.evaluate(() => 'polluted' in {})).toBe(false);
});
