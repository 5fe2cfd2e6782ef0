import type { Locator, Page } from '@playwright/test';
import { addLook, expect, offerLooks, test } from './journey';
import { openDemo } from './stage';

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}
const box = async (of: Locator): Promise<Box> => (await of.boundingBox())!;
const part = (page: Page, name: string) => page.locator(`[data-part="${name}"]`);
const meet = (a: Box, b: Box) =>
  Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x) > 1 &&
  Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y) > 1;
const picture = (page: Page) => page.getByLabel('The picture').locator('canvas').first();
const add = (page: Page, move: string) =>
  page.getByRole('button', { name: new RegExp(`^Add ${move}\\.`) }).click();

/** What can be pressed or typed into and is seen, with its size. */
const controls = (page: Page) =>
  page.evaluate(() =>
    [...document.querySelectorAll<HTMLElement>('button, a[href], input, select, textarea, [role="slider"]')]
      .filter((e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true }))
      .filter((e) => !(e instanceof HTMLInputElement && e.type === 'file'))
      .map((e) => {
        // A switch is pressed on all of its track.
        const of =
          e instanceof HTMLInputElement && e.type === 'checkbox'
            ? (e.closest<HTMLElement>('.MuiSwitch-root') ?? e)
            : e;
        const { x, y, width, height } = of.getBoundingClientRect();
        return {
          name: e.getAttribute('aria-label') ?? e.textContent ?? '',
          role: e.getAttribute('role') ?? e.tagName,
          x,
          y,
          width,
          height,
        };
      })
      .filter((c) => c.width > 0 && c.height > 0),
  );

/** Texts that are cut without dots, and what stands out of the window to the right. */
const cutOff = (page: Page) =>
  page.evaluate(() => {
    const found: string[] = [];
    for (const e of document.querySelectorAll<HTMLElement>('body *')) {
      if (e.childElementCount > 0 || !e.textContent?.trim() || !e.checkVisibility({ opacityProperty: true }))
        continue;
      const own = e.getBoundingClientRect();
      if (own.width < 2) continue;
      if (own.right > innerWidth + 1) found.push(`out: ${e.textContent}`);
      const style = getComputedStyle(e);
      if (
        e.scrollWidth > e.clientWidth + 1 &&
        style.overflow !== 'visible' &&
        style.textOverflow !== 'ellipsis'
      )
        found.push(`cut: ${e.textContent}`);
    }
    return found;
  });

test('at 1280x800 the chain has its room, the picture a quarter of the window, and sheets lie beside it', async ({
  page,
}) => {
  await openDemo(page);
  const chain = page.getByRole('group', { name: 'Chain', exact: true });
  await page.getByRole('button', { name: 'Moves', exact: true }).click();
  expect((await box(chain)).height).toBeGreaterThanOrEqual(420);
  const canvas = await box(picture(page));
  expect(canvas.width).toBeGreaterThanOrEqual(700);
  expect((canvas.width * canvas.height) / (1280 * 800)).toBeGreaterThanOrEqual(0.27);

  // Sheets hang beside the picture.
  for (const [button, sheet] of [
    ['Sound', 'Sound'],
    ['Tracks', 'Tracks'],
    [/^All checks/, 'Checks'],
    ['History', 'History'],
  ] as const) {
    await page.getByRole('button', { name: button, exact: typeof button === 'string' }).click();
    const over = page.getByRole('dialog', { name: sheet, exact: true });
    await expect(over).toBeVisible();
    expect(meet(await box(over), canvas), sheet).toBe(false);
    await page.keyboard.press('Escape');
    await expect(over).toHaveCount(0);
  }

  await page.getByRole('button', { name: 'Fold the offer' }).click();
  expect((await box(chain)).height).toBeGreaterThanOrEqual(640);
  // A look of nine values between folded cards: all of it is seen, also what is open inside it.
  await offerLooks(page);
  await addLook(page, 'Flash');
  await addLook(page, 'Split');
  await page.getByRole('button', { name: 'Fold the offer' }).click();
  const overflow = () => chain.evaluate((e) => e.scrollHeight - e.clientHeight);
  expect(await overflow()).toBeLessThanOrEqual(0);
  await page.getByRole('button', { name: 'What moves Split: Red across' }).click();
  const inside = await box(page.getByRole('group', { name: 'What moves Split: Red across' }));
  expect(meet(inside, canvas)).toBe(false);
  expect(inside.width).toBeGreaterThan(260);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What moves Split: Red across' })).toBeFocused();

  await page.getByRole('button', { name: 'Moves', exact: true }).click();
  // Four moves are seen, none is scrolled to.
  await add(page, 'Hold');
  await add(page, 'Rewind');
  await page.getByRole('button', { name: /^Rewind.*: its values/ }).click();
  for (const name of ['Speed', 'Boomerang', 'Hold', 'Rewind']) {
    const card = await box(page.getByRole('group', { name, exact: true }).first());
    const room = await box(chain);
    expect(card.y).toBeGreaterThanOrEqual(room.y - 1);
    expect(card.y + card.height).toBeLessThanOrEqual(room.y + room.height + 1);
  }
});

test('at rest there are sixty controls at most, all of 24 pixels but handles on the strips', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('button', { name: 'Fold the offer' }).click();
  await page.mouse.move(640, 250);
  const all = await controls(page);
  expect(all.length, all.map((c) => c.name).join(' | ')).toBeLessThanOrEqual(60);
  const small = all.filter((c) => c.role !== 'slider' && Math.min(c.width, c.height) < 23.5);
  expect(small).toEqual([]);
});

test('nothing overlaps and nothing is cut off, from 640x400, which is 200 % zoom, to 4K', async ({
  page,
}) => {
  await openDemo(page);
  for (const [width, height] of [
    [1280, 800],
    [1100, 700],
    [1920, 1080],
    [3840, 2160],
    [640, 400],
  ] as const) {
    const at = `${width}x${height}`;
    await page.setViewportSize({ width, height });
    await page.waitForTimeout(300);
    expect(await cutOff(page), at).toEqual([]);
    const names = ['picture', 'transport', 'weave', 'column'];
    const boxes = await Promise.all([page.locator('header'), ...names.map((n) => part(page, n))].map(box));
    for (let i = 0; i < boxes.length; i++)
      for (let j = 0; j < i; j++)
        expect(meet(boxes[i]!, boxes[j]!), `${at}: ${names[i - 1]} and ${names[j - 1]}`).toBe(false);
    // Everything is reached, by scrolling the page where the window is low.
    for (const reached of [
      page.getByTestId('length'),
      page.getByLabel('Span in', { exact: true }),
      page.getByRole('button', { name: /^Boomerang.*: its values$/ }),
    ]) {
      await reached.scrollIntoViewIfNeeded();
      const { x, y, width: w, height: h } = await box(reached);
      expect(x, at).toBeGreaterThanOrEqual(0);
      expect(x + w, at).toBeLessThanOrEqual(width + 1);
      expect(y, at).toBeGreaterThanOrEqual(0);
      expect(y + h, at).toBeLessThanOrEqual(height + 1);
    }
    const over = await page.evaluate(() => {
      const bar = [...document.querySelectorAll('header > *')]
        .map((e) => e.getBoundingClientRect())
        .filter((b) => b.width > 0);
      return bar.flatMap((a, i) =>
        bar
          .slice(0, i)
          .filter(
            (b) =>
              Math.min(a.right, b.right) - Math.max(a.left, b.left) > 1 &&
              Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 1,
          ),
      ).length;
    });
    expect(over, at).toBe(0);
  }
});

test('an upright picture stands as a column of its own; the line beside it is dragged, and kept', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Project picture').selectOption('1080×1920');
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect.poll(async () => (await box(picture(page))).width).toBeGreaterThanOrEqual(340);
  const line = page.getByRole('separator', { name: 'Between picture and weave' });
  await expect(line).toHaveAttribute('aria-orientation', 'vertical');
  const before = Number(await line.getAttribute('aria-valuenow'));
  await line.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(line).toHaveAttribute('aria-valuenow', String(before + 40));
  await page.waitForTimeout(600);
  await page.reload();
  await expect(line).toHaveAttribute('aria-valuenow', String(before + 40));
  await line.dblclick();
  await expect(line).toHaveAttribute('aria-valuenow', String(before));
});

test('text grows with the browser’s text size', async ({ page }) => {
  await openDemo(page);
  const sizes = () =>
    page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('body *')]
        .filter(
          (e) =>
            [...e.childNodes].some((n) => n.nodeType === 3 && n.textContent!.trim() !== '') &&
            e.checkVisibility(),
        )
        .map((e) => [e.textContent, Number.parseFloat(getComputedStyle(e).fontSize)] as const),
    );
  const before = await sizes();
  await page.addStyleTag({ content: 'html { font-size: 150% }' });
  const after = await sizes();
  expect(after.filter(([, size], i) => size < 1.4 * before[i]![1])).toEqual([]);
});
