import axe from 'axe-core';
import type { Page } from '@playwright/test';
import { expect, fromMenu, openCard, test } from './journey';
import { openDemo } from './stage';

/** What an automated check finds wrong by any of its rules: contrast, names, roles, keyboard, landmarks. */
async function troubles(page: Page): Promise<string[]> {
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(axe.source);
  const violations = await page.evaluate(async () => {
    const { axe: checker } = window as unknown as { axe: typeof axe };
    const found = await checker.run({ resultTypes: ['violations'] });
    return found.violations;
  });
  return violations.flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html}: ${n.failureSummary}`));
}

test('every view has enough contrast, names and roles', async ({ page }) => {
  await page.getByRole('button', { name: 'New project', exact: true }).waitFor();
  expect(await troubles(page)).toEqual([]);
  await openDemo(page);
  for (const form of ['1', '2', '3', '4']) {
    await page.keyboard.press(form);
    expect(await troubles(page)).toEqual([]);
  }
  await page.getByRole('button', { name: 'Add a Pattern' }).click();
  expect(await troubles(page)).toEqual([]);
  await page.keyboard.press('v');
  await expect(page.getByRole('group', { name: 'Variations', exact: true })).toBeVisible();
  expect(await troubles(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByRole('heading', { name: 'Render a file' }).waitFor();
  expect(await troubles(page)).toEqual([]);
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByRole('heading', { name: 'Drop a song here' }).waitFor();
  expect(await troubles(page)).toEqual([]);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, thirty seconds' }).click();
  await expect(page.getByRole('slider', { name: 'Song, first frame' })).toBeVisible();
  expect(await troubles(page)).toEqual([]);
  await page.getByRole('link', { name: 'Beats' }).click();
  await expect(page.getByTestId('beats-count')).toBeVisible();
  expect(await troubles(page)).toEqual([]);
});

test('every sheet has a name, and nothing is wrong with it by any rule', async ({ page }) => {
  await openDemo(page);
  const look = async (open: () => Promise<void>, name: string) => {
    await open();
    await expect(page.getByRole('dialog', { name }).or(page.getByRole('menu')).first()).toBeVisible();
    expect(await troubles(page), name).toEqual([]);
    await page.keyboard.press('Escape');
    await expect(page.locator('.MuiModal-root')).toHaveCount(0);
  };
  const press = (name: string | RegExp) => () =>
    page.getByRole('button', { name, exact: true }).first().click();
  await look(press('Shortcuts'), 'Shortcuts');
  await look(press('History'), 'History');
  await look(press('Sound'), 'Sound');
  await look(press('Tracks'), 'Tracks');
  await look(press(/^More for /), 'menu');
  await look(press(/^Find/), 'Find');
  await look(() => fromMenu(page, 'the piece', 'Find loops near the span'), 'Found loops');
  await page.getByRole('button', { name: 'Recipes', exact: true }).click();
  await look(press('Save as a recipe'), 'Save as a recipe');
  await look(press('Put on several'), 'One recipe on several pieces');
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await page.getByRole('button', { name: /^Add Flash/ }).click();
  for (const opener of [/^Where Flash applies/, /^What moves Flash/]) {
    await press(opener)();
    await expect(page.getByRole('group', { name: opener })).toBeVisible();
    expect(await troubles(page), String(opener)).toEqual([]);
    await page.keyboard.press('Escape');
  }
  await page.getByRole('link', { name: 'Render' }).first().click();
  await look(press('Many at once'), 'Many');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await look(press('Storage'), 'What is kept here');
});

test('looks are added, placed and driven by keyboard alone, with enough contrast, names and roles', async ({
  page,
}) => {
  await openDemo(page);
  await page.evaluate(() => {
    const counted = window as unknown as { moved: number };
    counted.moved = 0;
    document.addEventListener('transitionrun', () => counted.moved++);
  });
  await page.keyboard.press('a');
  await page.getByRole('button', { name: /^Add Split/ }).focus();
  await page.keyboard.press('Enter');
  expect(await troubles(page)).toEqual([]);
  await page.getByRole('button', { name: /^Where Split applies/ }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Add a condition' }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Remove condition 2 of Split' }).focus();
  await page.keyboard.press('Enter');
  expect(await troubles(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: /^Where Split applies/ })).toHaveText('backward parts');
  await page.getByRole('button', { name: 'What moves Split: Red across' }).focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Split: Red across moves').selectOption('keys');
  expect(await troubles(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What moves Split: Red across' })).toContainText(
    '2 keyframes',
  );
  await page.getByLabel('Split on', { exact: true }).click();
  // All of it was there at once: nothing faded, slid or grew.
  expect(await page.evaluate(() => (window as unknown as { moved: number }).moved)).toBe(0);
});

test('nothing runs out of the window from 1100 pixels to 4K', async ({ page }) => {
  await openDemo(page);
  // Looked at in every frame: not for one may the page be larger than its window, whose size has just changed.
  await page.evaluate(() => {
    const seen = window as unknown as { beyond: string[] };
    seen.beyond = [];
    const look = () => {
      const { scrollWidth, scrollHeight } = document.documentElement;
      if (scrollWidth > innerWidth || scrollHeight > innerHeight)
        seen.beyond.push(`${scrollWidth}x${scrollHeight} in ${innerWidth}x${innerHeight}`);
      requestAnimationFrame(look);
    };
    look();
  });
  for (const [width, height] of [
    [1100, 680],
    [1280, 800],
    [3840, 2160],
  ] as const) {
    await page.setViewportSize({ width, height });
    for (const form of ['1', '2', '3', 'a', 'a']) {
      await page.keyboard.press(form);
      const size = await page.evaluate(() => [
        document.documentElement.scrollWidth,
        document.documentElement.scrollHeight,
      ]);
      expect(size[0]).toBeLessThanOrEqual(width);
      expect(size[1]).toBeLessThanOrEqual(height);
      const total = (await page.getByTestId('length').boundingBox())!;
      expect(total.x + total.width).toBeLessThanOrEqual(width);
    }
  }
  expect(await page.evaluate(() => (window as unknown as { beyond: string[] }).beyond)).toEqual([]);
});

/** Goes through a view by Tab: what got the focus, which can be seen on each. */
async function walk(page: Page, presses: number): Promise<Set<string>> {
  const seen = new Set<string>();
  for (let i = 0; i < presses; i++) {
    await page.keyboard.press('Tab');
    const here = await page.evaluate(() => {
      const e = document.activeElement as HTMLElement;
      if (e === document.body) return { name: 'the end of the page', visible: true };
      const style = getComputedStyle(e);
      // A handle on the picture shows it on its own mark.
      const mark = getComputedStyle(e, '::before');
      const name = e.getAttribute('aria-label') ?? e.textContent ?? '';
      const visible =
        style.outlineStyle !== 'none' ||
        mark.outlineStyle !== 'none' ||
        e.tagName === 'INPUT' ||
        e.tagName === 'SELECT';
      return { name, visible };
    });
    expect(here.visible, here.name).toBe(true);
    seen.add(here.name);
    if (here.name === 'the end of the page') break;
  }
  return seen;
}

test('all of every view is reached by keyboard, and where the focus is can be seen', async ({ page }) => {
  await openDemo(page);
  await openCard(page, 'Boomerang');
  await page.mouse.click(2, 2);
  const bench = await walk(page, 120);
  for (const name of [
    'History',
    'Version A',
    'Play',
    'Boomerang: Round trips',
    'Span in, frame',
    'Span out, frame',
    'Mark right hand, frame 144',
    'Loop the selection',
    'Between picture and weave',
    'Width of the column',
    'Threads',
  ])
    expect([...bench], name).toContain(name);
  // The points of a curve, and the speeds of a ramp.
  await page.getByRole('button', { name: /^Add Ramp/ }).click();
  for (const [form, name] of [
    ['2', /^Point 1$/],
    ['3', /^Speed 1, percent$/],
  ] as const) {
    await page.keyboard.press(form);
    const handle = page.getByRole('slider', { name }).first();
    await handle.focus();
    await page.keyboard.press('Shift+Tab');
    await page.keyboard.press('Tab');
    await expect(handle).toBeFocused();
    expect(await handle.evaluate((e) => getComputedStyle(e).outlineStyle)).not.toBe('none');
  }
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByRole('heading', { name: 'Render a file' }).waitFor();
  const file = await walk(page, 40);
  for (const name of ['File', 'Times it plays', 'Project rate', 'Many at once'])
    expect([...file], name).toContain(name);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, thirty seconds' }).click();
  await page.getByRole('slider', { name: 'Song, first frame' }).waitFor();
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByTestId('beats-count').waitFor();
  const beats = await walk(page, 40);
  for (const name of ['Bar 1, beat 1', 'Tempo', 'Song level', 'Click on the beats'])
    expect([...beats], name).toContain(name);
});
