/** Keys and what they do: on what is under the playhead, changed, switched off, and saying why not. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { join } from 'node:path';
import { WORK, codedClip, readNumbers } from './coded-clips';
import { addLook, enter, expect, offerLooks, render, setSpan, startWith, test } from './journey';
import { withClicks } from './music-hands';

const length = (page: Page) => page.getByTestId('length');

/** Puts the playhead on a result frame, whichever was looked at before. */
async function resultAt(page: Page, frame: number): Promise<void> {
  if (!(await page.getByText(/^frame \d+ of \d+/).isVisible())) await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < frame; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByText(new RegExp(`^frame ${frame} of `))).toBeVisible();
}

/** Two pieces, of two clips: 30 frames of each. */
async function twoClips(page: Page): Promise<void> {
  await startWith(page, await codedClip('bframes'), await codedClip('vp9'));
  await setSpan(page, 0, 30);
  await page.getByRole('button', { name: /^Add a piece of vp9/ }).click();
  await setSpan(page, 10, 40);
  await expect(length(page)).toContainText('60 f');
}

test('the finder does what is found: by what it is called elsewhere, by part of a name; says why it cannot', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 30);
  const find = async (typed: string) => {
    await page.keyboard.press('Control+k');
    await expect(page.getByRole('combobox', { name: 'Find' })).toBeFocused();
    await page.keyboard.type(typed);
  };
  const option = (name: RegExp) => page.getByRole('option', { name });
  await find('boomer');
  await expect(option(/^Boomerang/)).toBeVisible();
  // Whoever types fast has it again at once, on a machine that is busy with what was chosen.
  await page.evaluate(async () => {
    const field = document.activeElement!;
    const press = (on: Element, init: KeyboardEventInit) =>
      on.dispatchEvent(new KeyboardEvent('keydown', { bubbles: true, cancelable: true, ...init }));
    press(field, { key: 'Enter', code: 'Enter' });
    // The page hears of the first before the second, as it does of keys; nothing else comes between.
    await Promise.resolve();
    press(document.body, { key: 'k', code: 'KeyK', ctrlKey: true });
  });
  await expect(page.getByRole('combobox', { name: 'Find' })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(page.getByLabel('Boomerang: Round trips')).toBeVisible();
  await expect(length(page)).toContainText('116 f');
  // A setting opens where it is set, and has the focus; a command is done.
  await find('in-between');
  await page.keyboard.press('Enter');
  await expect(page.getByLabel('In-between frames', { exact: true })).toBeFocused();
  await find('safe areas');
  await option(/^Safe areas/).click();
  await expect(page.getByRole('img', { name: 'Safe areas' })).toBeVisible();
  await find('redo');
  await expect(option(/^Redo.*Nothing to redo/)).toHaveAttribute('aria-disabled', 'true');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Find' })).toHaveCount(0);
  // In another view there is what that has.
  await page.getByRole('link', { name: 'Beats' }).click();
  await find('weave');
  await page.keyboard.press('Enter');
  await expect(page).not.toHaveURL(/beats/);
});

test('keys work on what is under the playhead, whichever clip the strip shows', async ({ page }) => {
  await twoClips(page);
  // The strip shows the second clip; the playhead is in the first piece.
  await resultAt(page, 12);
  await page.keyboard.press('m');
  await expect(page.getByText('mark 1 is at frame 12 of bframes-30.mp4')).toBeVisible();
  await page.keyboard.press('i');
  await expect(page.getByLabel('Span in', { exact: true })).toHaveValue('12');
  await expect(page.getByRole('button', { name: 'Mark mark 1, frame 12' })).toBeVisible();
  // The first piece is 18 frames now: 18 + 5 is frame 15 of the second clip.
  await resultAt(page, 23);
  await page.keyboard.press('o');
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('16');
  await page.keyboard.press('s');
  await expect(page.getByTestId('source-frame')).toHaveText('frame 15');
  await page.keyboard.press('s');
  await resultAt(page, 3);
  await page.keyboard.press('h');
  await expect(page.getByRole('group', { name: 'Hold', exact: true })).toBeVisible();
  await expect(page.getByLabel('Span in', { exact: true })).toHaveValue('12');
});

test('P saves what is seen: looks, and the size of the project', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 20, 60);
  await offerLooks(page);
  await addLook(page, 'Split');
  await resultAt(page, 7);
  const download = page.waitForEvent('download');
  await page.keyboard.press('p');
  const path = join(WORK, 'seen.png');
  await (await download).saveAs(path);
  await expect(page.getByText('Frame 7 of the result is saved as a PNG')).toBeVisible();
  // The same picture as the file's.
  const film = await render(page, 'webm-vp9', join(WORK, 'seen.webm'));
  const [still, frames] = [await picture(path), await picture(film, 7)];
  expect(still.width).toBe(frames.width);
  expect(still.height).toBe(frames.height);
  expect(Math.abs(still.mean - frames.mean)).toBeLessThan(2);
  expect(
    still.bytes.reduce((sum, v, i) => sum + Math.abs(v - frames.bytes[i]!), 0) / still.bytes.length,
  ).toBeLessThan(6);
  // The clip's own frame, where the source is looked at.
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(length(page)).toContainText('40 f');
  await resultAt(page, 7);
  await page.keyboard.press('s');
  const second = page.waitForEvent('download');
  await page.keyboard.press('p');
  await (await second).saveAs(join(WORK, 'source.png'));
  expect(await readNumbers(join(WORK, 'source.png'))).toEqual([27]);
});

/** A picture of a file as ffmpeg reads it: its size, and its grey levels. */
async function picture(path: string, n = 0) {
  const { run, probe } = await import('./coded-clips');
  const out = join(WORK, `picture-${n}.gray`);
  await run('ffmpeg', [
    '-y',
    '-i',
    path,
    '-vf',
    `select=eq(n\\,${n})`,
    '-vframes',
    '1',
    '-f',
    'rawvideo',
    '-pix_fmt',
    'gray',
    out,
  ]);
  const bytes = await readFile(out);
  const { width, height } = await probe(path);
  return { width, height, bytes, mean: bytes.reduce((a, b) => a + b, 0) / bytes.length };
}

test('a key can be changed, letters switched off; a key that can do nothing says why', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 60);
  await page.keyboard.press('Control+z');
  const help = page.getByRole('dialog', { name: 'Shortcuts' });
  const openHelp = async () => {
    await page.getByRole('button', { name: 'Shortcuts' }).click();
    await help.waitFor();
  };
  const closeHelp = async () => {
    await help.getByRole('button', { name: 'Close', exact: true }).click();
    await expect(help).toHaveCount(0);
  };
  await openHelp();
  // By keyboard: searched, and scrolled.
  await help.getByLabel('Search the keys').fill('hold the frame');
  await help.getByRole('button', { name: /^Key of: Hold the frame shown: H/ }).click();
  await page.keyboard.press('m');
  await expect(help.getByRole('alert')).toContainText('M is: Mark the frame shown');
  await page.keyboard.press('y');
  await closeHelp();
  await resultAt(page, 5);
  const before = await length(page).textContent();
  await page.keyboard.press('h');
  expect(await length(page).textContent()).toBe(before);
  await page.keyboard.press('y');
  await expect(length(page)).not.toHaveText(before!);
  await page.keyboard.press('Control+z');
  await openHelp();
  await help.getByLabel('Keys that are a single letter, digit or sign').click();
  await closeHelp();
  await page.keyboard.press('y');
  await page.keyboard.press('2');
  expect(await length(page).textContent()).toBe(before);
  await expect(page.getByRole('group', { name: /^Weave/ })).toBeVisible();
  // Kept in this browser, and put back.
  await page.reload();
  await expect(length(page)).not.toHaveText(/^0 f/, { timeout: 30_000 });
  await page.keyboard.press('2');
  await expect(page.getByRole('group', { name: /^Weave/ })).toBeVisible();
  await openHelp();
  await help.getByRole('button', { name: 'All keys as at first' }).click();
  await closeHelp();
  await page.keyboard.press('2');
  await expect(page.getByRole('group', { name: /^Curve: / })).toBeVisible();
  await page.keyboard.press('w');
  await expect(page.getByText(/Select a look with a region or a matte/)).toBeVisible();
  await page.keyboard.press('b');
  await expect(page.getByText(/There is no song with beats/)).toBeVisible();
  // An empty project has nothing to mark.
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.getByText('Drop a video here').waitFor();
  await page.keyboard.press('m');
  await expect(page.getByText('There is no frame under the playhead yet.')).toBeVisible();
  await page.keyboard.press('g');
  await expect(page.getByText('There is no piece yet.')).toBeVisible();
});

test('undo and redo, help and Render are the same in every view', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 60);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Render a file' })).toBeVisible();
  await page.getByLabel('Project rate').selectOption('25');
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undo: /)).toBeVisible();
  await expect(page.getByLabel('Project rate')).not.toHaveValue('25');
  await page.getByRole('button', { name: 'Redo', exact: true }).click();
  await expect(page.getByText(/^Redo: /)).toBeVisible();
  await expect(page.getByLabel('Project rate')).toHaveValue('25');
  await page.keyboard.press('?');
  await page.getByRole('dialog', { name: 'Shortcuts' }).waitFor();
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByRole('heading', { name: 'Drop a song here' }).waitFor();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^Undo: /).first()).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Render a file' })).toBeVisible();
  // The name: Escape puts it back, and it is never empty.
  const name = page.getByLabel('Name of the project');
  const was = await name.inputValue();
  await name.fill('Something else');
  await name.press('Escape');
  await expect(name).toHaveValue(was);
  await enter(page, 'Name of the project', '');
  await expect(name).toHaveValue(was);
});

test('Beats by keyboard alone: every beat is gone to, added, moved and taken away', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByTestId('beats-count').waitFor();
  const count = async () =>
    Number(/^(\d+) beats/.exec((await page.getByTestId('beats-count').textContent())!)![1]);
  const before = await count();
  await page.locator('[data-beat][tabindex="0"]').focus();
  for (let i = 0; i < 30; i++) await page.keyboard.press('.');
  // Out of sight at first: it is brought there, with the focus.
  const thirty = page.locator('[data-beat]:focus');
  await expect(thirty).toHaveAttribute('data-beat', '30');
  expect((await thirty.boundingBox())!.x).toBeGreaterThan(0);
  const was = Number(await thirty.getAttribute('aria-valuenow'));
  await page.keyboard.press('ArrowRight');
  expect(Number(await thirty.getAttribute('aria-valuenow'))).toBeCloseTo(was + 0.005, 3);
  await page.keyboard.press('Delete');
  expect(await count()).toBe(before - 1);
  await expect(page.locator('[data-beat]:focus')).toHaveAttribute('data-beat', '30');
  await page.locator('main').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Insert');
  expect(await count()).toBe(before);
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Undo: add a beat')).toBeVisible();
});

test('a place to follow, a box and a polygon are placed by keyboard', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 60);
  await page.keyboard.press('t');
  const cross = page.getByRole('button', { name: /^Place to track/ });
  await expect(cross).toBeFocused();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/point 1/).first()).toBeVisible();
  await expect(cross).toHaveCount(0);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Tracks', exact: true }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'A box', exact: true }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /^Box to track/ }).focus();
  await page.keyboard.press('Enter');
  for (let i = 0; i < 6; i++)
    for (const way of ['Right', 'Down']) await page.keyboard.press(`Shift+Arrow${way}`);
  await page.keyboard.press('Enter');
  await expect(page.getByText(/box 1/).first()).toBeVisible();
  await page.keyboard.press('Escape');
  await offerLooks(page);
  await addLook(page, 'Flash');
  await page.getByLabel('Flash: region').selectOption('polygon');
  const corners = page.getByRole('button', { name: /^Corners: arrows/ });
  await corners.focus();
  for (const way of ['Right', 'Down', 'Left'] as const) {
    await page.keyboard.press('Space');
    for (let i = 0; i < 5; i++) await page.keyboard.press(`Shift+Arrow${way}`);
  }
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Corner 3/ })).toBeVisible();
});
