import { codedClip } from './coded-clips';
import { addBoomerang, enter, expect, setSpan, startWith, test, WEAVE } from './journey';
import { ALONE, whileMachineKeepsUp } from './machine';
import { openDemo } from './stage';

const length = 'length';

test('the demo opens with one press, boomeranged and closing its loop', async ({ page }) => {
  await openDemo(page);
  await expect(page.getByTestId(length)).toContainText('222 f');
  await expect(page.getByText(/^Loop closes/).first()).toBeVisible();
  await expect(
    page.getByRole('group', { name: 'Clips' }).getByRole('button', { name: /^Show / }),
  ).toHaveCount(5);
  await expect(page.getByRole('button', { name: 'Mark right hand, frame 144' })).toBeVisible();
});

test('a span set by keys, a boomerang by hand, everything there after the tab was closed', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await expect(page.getByTestId(length)).toContainText('60 f');
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByTestId('source-frame')).toHaveText('frame 30');
  await page.keyboard.press('i');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('o');
  await expect(page.getByLabel('Span in', { exact: true })).toHaveValue('30');
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('70');
  await page.keyboard.press('m');
  await expect(page.getByRole('button', { name: 'Mark mark 1, frame 69' })).toBeVisible();
  await addBoomerang(page, { trips: 3, back: '2x', turn: 'once' });
  await expect(page.getByTestId(length)).toContainText(`${3 * (40 + 19)} f`);
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();

  const address = page.url();
  const context = page.context();
  await page.close();
  const again = await context.newPage();
  await again.goto(address);
  await expect(again.getByTestId(length)).toContainText('177 f');
  await expect(again.getByLabel('Boomerang: Backward speed')).toHaveValue('200 %');
  await expect(again.getByRole('button', { name: 'Mark mark 1, frame 69' })).toBeVisible();
});

test('dragging a span edge moves every copy, in one step of undo', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'twice' });
  await expect(page.getByTestId(length)).toContainText('240 f');
  const handle = page.getByRole('slider', { name: 'Span out, frame' });
  const box = (await handle.boundingBox())!;
  const perFrame = (WEAVE - 32) / 300;
  await page.mouse.move(box.x + box.width / 2, box.y + 30);
  await page.mouse.down();
  for (let i = 1; i <= 10; i++) await page.mouse.move(box.x + box.width / 2 - 2 * i * perFrame, box.y + 30);
  await page.mouse.up();
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('140');
  await expect(page.getByTestId(length)).toContainText('160 f');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId(length)).toContainText('240 f');
  // What says so covers none of the views.
  await expect(page.getByText(/^Undo: /)).toBeVisible();
  for (const view of ['Weave', 'Beats', 'Render'])
    await page.getByRole('link', { name: view }).first().click({ trial: true, timeout: 1000 });
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByTestId(length)).toContainText('160 f');
  // The next is said in its place at once.
  await expect(page.getByText(/^Redo: /)).toBeVisible({ timeout: 1500 });
  await expect(page.getByText(/^Undo: /)).toHaveCount(0);
  await handle.focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId(length)).toContainText('164 f');
});

test('values take frames, seconds, timecode and percent, and refuse nonsense without losing anything', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await enter(page, 'Span in', '0');
  for (const [typed, frames] of [
    ['2 s', 60],
    ['00:00:01:15', 45],
    ['50 f', 50],
    ['500 ms', 15],
  ] as const) {
    await enter(page, 'Span length', typed);
    await expect(page.getByTestId(length)).toContainText(`${frames} f`);
  }
  await enter(page, 'Span length', 'soon');
  await expect(page.getByLabel('Span length')).toHaveAttribute('aria-invalid', 'true');
  await page.getByLabel('Span length').press('Escape');
  await expect(page.getByTestId(length)).toContainText('15 f');
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '50 %');
  await expect(page.getByTestId(length)).toContainText('30 f');
  await page.getByLabel('Speed: Speed').press('ArrowUp');
  await expect(page.getByLabel('Speed: Speed')).toHaveValue('55 %');
});

test(
  'playing keeps the rate: J, K, L and Space, at 1280x720 without late frames once it loops',
  ALONE,
  async ({ page }) => {
    await startWith(page, await codedClip('large'));
    await setSpan(page, 100, 160);
    await addBoomerang(page, { trips: 2, back: '100', turn: 'once' });
    await page.locator('body').press('Shift+L');
    await page.keyboard.press('Space');
    await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
    await page.waitForTimeout(5000);
    // As the numbers are renewed, with the time by the page's own clock.
    const counts = () =>
      page.getByTestId('stats').evaluate(async (stats) => {
        await new Promise((renewed) => {
          new MutationObserver(renewed).observe(stats, {
            characterData: true,
            childList: true,
            subtree: true,
          });
        });
        const [late, due, decoded] = /(\d+) late of (\d+), (\d+) decoded/.exec(stats.textContent)!.slice(1);
        return { late: Number(late), due: Number(due), decoded: Number(decoded), ms: performance.now() };
      });
    const { result, missed } = await whileMachineKeepsUp(4, async () => {
      const before = await counts();
      await page.waitForTimeout(4000);
      return { before, after: await counts() };
    });
    const { before, after } = result;
    const due = after.due - before.due;
    const perSecond = (due / (after.ms - before.ms)) * 1000;
    expect(perSecond).toBeGreaterThan(25);
    expect(perSecond).toBeLessThan(35);
    const late = after.late - before.late;
    expect((late - missed) / due, `${late} late of ${due}, ${missed} missed by the machine`).toBeLessThan(
      0.05,
    );
    expect(after.decoded).toBe(before.decoded);
    await page.keyboard.press('k');
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
    await page.keyboard.press('Home');
    await page.keyboard.press('j');
    await expect.poll(async () => page.getByTestId('speed').textContent()).toContain('backward');
    await page.keyboard.press('k');
  },
);

test('help lists the keys', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Shortcuts' })).toContainText(
    'The span begins at the frame shown',
  );
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
});
