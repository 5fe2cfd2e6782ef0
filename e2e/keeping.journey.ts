/** What is kept: the steps of the history, where one was, two versions, and the views over a reload. */
import type { Page } from '@playwright/test';
import { codedClip } from './coded-clips';
import {
  addBoomerang,
  addLook,
  enter,
  expect,
  fromMenu,
  offerLooks,
  removeCard,
  setSpan,
  startWith,
  test,
} from './journey';
import { goTo, withClicks } from './music-hands';

const length = (page: Page) => page.getByTestId('length');
const undo = (page: Page) => page.keyboard.press('Control+z');
/** Words of the steps of the history, newest first. */
async function steps(page: Page): Promise<string[]> {
  await page.keyboard.press('Shift+H');
  const rows = await page.getByRole('group', { name: 'History' }).getByRole('button').allTextContents();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('group', { name: 'History' })).toHaveCount(0);
  return rows.map((r) => r.replace(/\d+ f$/, ''));
}
const reload = async (page: Page) => {
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(length(page)).not.toHaveText(/^0 f/, { timeout: 30_000 });
};

test('arrows, wheels and drags on one value are one step of the history', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 60, 120);
  await addBoomerang(page, { trips: 2, back: '100 %', turn: 'once' });
  const before = await steps(page);
  await page.getByRole('slider', { name: 'Span out, frame' }).focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('132');
  expect(await steps(page)).toHaveLength(before.length + 1);
  await undo(page);
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('120');
  const trips = page.getByLabel('Boomerang: Round trips');
  await trips.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowUp');
  await expect(trips).toHaveValue('7');
  await page.waitForTimeout(700);
  // A rest begins another.
  await page.keyboard.press('ArrowDown');
  await expect(trips).toHaveValue('6');
  await undo(page);
  await expect(trips).toHaveValue('7');
  await undo(page);
  await expect(trips).toHaveValue('2');
  // The wheel steps what has the focus, and nothing else.
  const box = (await trips.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -100);
  await expect(trips).toHaveValue('6');
  await undo(page);
  await expect(trips).toHaveValue('2');
  await page.keyboard.press('Escape');
  await page.mouse.wheel(0, -100);
  await page.waitForTimeout(200);
  await expect(trips).toHaveValue('2');
  // A drag across it.
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 21, box.y + 8, { steps: 6 });
  await page.mouse.up();
  await expect(trips).toHaveValue('7');
  await undo(page);
  await expect(trips).toHaveValue('2');
  // A press goes into it.
  await trips.click();
  await expect(trips).toBeFocused();
  expect(await steps(page).catch(() => [])).toBeDefined();
});

test('what is taken away leaves its neighbour selected; undo goes back to where it was done', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'), await codedClip('vp9'));
  await setSpan(page, 0, 30);
  for (const name of [/^Add a piece of vp9/, /^Add a piece of bframes/])
    await page.getByRole('button', { name }).click();
  // Three pieces; the middle one goes.
  await goTo(page, 40);
  await page.keyboard.press('.');
  await expect(page.getByRole('group', { name: 'Piece' })).toBeVisible();
  const pieceName = page.locator('[aria-label="Piece"]').locator('xpath=preceding-sibling::*[1]');
  await expect(pieceName).toHaveText('vp9-30.webm');
  await page.keyboard.press('3');
  await fromMenu(page, 'the piece', 'Remove the piece');
  await expect(pieceName).toHaveText('bframes-30.mp4');
  await page.keyboard.press('1');
  await undo(page);
  await expect(pieceName).toHaveText('vp9-30.webm');
  await expect(page.getByRole('group', { name: /^Speed/ }).first()).toBeVisible();
  // Moves and looks: the focus goes to the next one.
  await page.keyboard.press('1');
  for (const move of ['Hold', 'Step'])
    await page.getByRole('button', { name: new RegExp(`^Add ${move}`) }).click();
  await removeCard(page, 'Hold');
  await expect(page.getByRole('group', { name: 'Step', exact: true })).toBeFocused();
  await offerLooks(page);
  for (const look of ['Flash', 'Split']) await addLook(page, look);
  await removeCard(page, 'Split');
  await expect(page.locator('[data-card]:focus')).toHaveCount(1);
  // By its key, too.
  await page.keyboard.press('Delete');
  await expect(page.getByText('Flash is removed.')).toBeVisible();
});

test('versions A and B are what their letters say, after undo, redo and a reload', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 174);
  await addBoomerang(page, { trips: 1, back: '100 %', turn: 'twice' });
  const shows = async (letter: 'A' | 'B', frames: string) => {
    await expect(page.getByRole('button', { name: `Version ${letter}` })).toHaveAttribute(
      'aria-pressed',
      'true',
    );
    await expect(length(page)).toContainText(frames);
  };
  await shows('A', '148 f');
  await page.keyboard.press('x');
  await page.getByRole('button', { name: /^Add Hold/ }).click();
  await expect(length(page)).not.toContainText('148 f');
  const b = /^\d+ f/.exec((await length(page).textContent())!)![0];
  await page.keyboard.press('x');
  await shows('A', '148 f');
  await page.keyboard.press('x');
  await shows('B', b);
  await undo(page);
  await shows('B', '148 f');
  await page.keyboard.press('Control+Shift+z');
  await shows('B', b);
  await reload(page);
  await shows('B', b);
  await page.keyboard.press('x');
  await shows('A', '148 f');
  await page.keyboard.press('x');
  await shows('B', b);
});

test('the bench, Beats and Render are as they were after a reload', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await setSpan(page, 0, 120);
  await addBoomerang(page, { trips: 2, back: '100 %', turn: 'once' });
  await page.getByRole('button', { name: 'Recipes', exact: true }).click();
  await page.keyboard.press('2');
  await page.keyboard.press('r');
  await page.keyboard.press('u');
  await goTo(page, 75);
  const at = await page.getByTestId('timecode').textContent();
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByTestId('beats-count').waitFor();
  for (let i = 0; i < 3; i++) await page.keyboard.press('.');
  const chosen = await page.locator('[data-beat][tabindex="0"]').getAttribute('aria-label');
  await page.getByRole('button', { name: 'No click' }).click();
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('File', { exact: true }).selectOption('gif');
  await expect(page).toHaveTitle(/Render · Skip Back$/);
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('File', { exact: true })).toHaveValue('gif');
  await page.getByRole('link', { name: 'Beats' }).click();
  await expect(page.locator('[data-beat][tabindex="0"]')).toHaveAttribute('aria-label', chosen!);
  await expect(page.getByRole('button', { name: 'No click' })).toHaveAttribute('aria-pressed', 'true');
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page).toHaveTitle(/Weave · Skip Back$/);
  await expect(page.locator('main')).toBeFocused();
  await expect(page.getByTestId('timecode')).toHaveText(at!);
  await expect(page.getByRole('group', { name: /^Curve: / })).toBeVisible();
  await expect(page.getByRole('button', { name: 'Recipes', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.keyboard.press('r');
  await expect(page.getByText('Repeats', { exact: true })).toBeVisible();
  // Another project has its own.
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await expect(page).toHaveTitle('Shelf · Skip Back');
  await startWith(page, await codedClip('vp9'));
  await expect(page.getByRole('button', { name: 'Moves', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await expect(page.getByRole('group', { name: /^Weave/ })).toBeVisible();
  await enter(page, 'Span out', '20');
});
