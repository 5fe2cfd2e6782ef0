import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, codedClip, readNumbers } from './coded-clips';
import {
  addBoomerang,
  down,
  enter,
  expect,
  render,
  setSpan,
  startWith,
  test,
  times,
  up,
  WEAVE,
} from './journey';

const length = (page: Page) => page.getByTestId('length');

/** The number in the picture as it is on the screen. */
async function pictureNumber(page: Page): Promise<number> {
  const path = join(WORK, 'on-screen.png');
  await page.getByTestId('picture').screenshot({ path });
  return (await readNumbers(path))[0]!;
}

/** The middle of an element. */
async function middleOf(
  page: Page,
  role: 'slider' | 'group',
  name: string,
): Promise<{ x: number; y: number }> {
  const box = (await page.getByRole(role, { name, exact: true }).boundingBox())!;
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Presses at one place and lets go at another. `before` is done while still holding. */
async function drag(
  page: Page,
  from: { x: number; y: number },
  to: { x: number; y: number },
  before: () => Promise<void> = async () => undefined,
): Promise<void> {
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 4 });
  await page.mouse.move(to.x, to.y, { steps: 4 });
  await before();
  await page.mouse.up();
}

test('threads: a segment is selected, typed, stretched with snapping, and put back with Escape', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await expect(length(page)).toContainText('120 f');
  const weave = (await page.getByRole('group', { name: /^Weave/ }).boundingBox())!;
  const resultX = (frame: number) => 16 + (frame * (WEAVE - 32)) / 120;
  const strip = weave.y + weave.height - 36;
  await page.mouse.click(resultX(90), strip);
  const facts = page.getByRole('group', { name: 'Selected segment' });
  await expect(facts).toContainText('segment 2 of 2, backward');
  await expect(facts).toContainText('source 160 to 100');
  await enter(page, 'Segment: speed', '2x');
  await expect(length(page)).toContainText('90 f');
  await enter(page, 'Segment: length', '00:00:01:10');
  await expect(length(page)).toContainText('100 f');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');

  // Dragged near twice its length, the first segment snaps to half speed; Escape puts it back.
  const end = { x: resultX(60) - 2, y: strip };
  await drag(page, end, { x: end.x + 59.5 * ((WEAVE - 32) / 120), y: end.y }, async () => {
    await expect(page.getByTestId('live')).toHaveText(/120 f, 50 %.*round speed/);
    await page.keyboard.press('Escape');
  });
  await expect(length(page)).toContainText('120 f');
  await expect(page.getByRole('button', { name: 'Redo' })).toBeEnabled();
  await drag(page, end, { x: end.x + 59.5 * ((WEAVE - 32) / 120), y: end.y });
  await expect(length(page)).toContainText('180 f');
  await page.keyboard.press('Control+z');
  await expect(length(page)).toContainText('120 f');
});

test('resting on source, thread or result shows that very frame and gives it back', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  await expect.poll(() => pictureNumber(page)).toBe(100);
  const weave = (await page.getByRole('group', { name: /^Weave/ }).boundingBox())!;
  await page.mouse.move(16 + (200.5 / 300) * (WEAVE - 32), weave.y + 50);
  await expect.poll(() => pictureNumber(page)).toBe(200);
  await page.mouse.move(16 + (75.5 / 120) * (WEAVE - 32), weave.y + weave.height - 36);
  await expect.poll(() => pictureNumber(page)).toBe(144);
  await page.mouse.move(640, 440);
  await expect.poll(() => pictureNumber(page)).toBe(100);
});

test('what plays once ends on its last frame, and that is what the picture shows', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 137);
  await page.keyboard.press('s');
  await page.keyboard.press('r');
  const ended = async (name: number) => {
    await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible();
    await expect.poll(() => pictureNumber(page)).toBe(name);
    await expect(page.getByText(`frame ${name - 100} of 37`)).toBeVisible();
  };
  const plays = (...keys: string[]) =>
    keys.reduce((was, key) => was.then(() => page.keyboard.press(key)), Promise.resolve());
  const starts = () => expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  for (const keys of [['Home', 'Space'], ['Space'], ['Home', 'l', 'l'], ['Home', 'l', 'l', 'l']]) {
    await plays(...keys);
    await starts();
    await ended(136);
  }
  await plays('End', 'j');
  await starts();
  await ended(100);
});

test('both strips zoom and pan on their own, by wheel and keys, and fit again', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  const fit = page.getByRole('button', { name: 'Zoom to all', exact: true });
  await expect(fit).toBeDisabled();
  const handle = () => middleOf(page, 'slider', 'Span in, frame');
  const before = await handle();
  const weave = (await page.getByRole('group', { name: /^Weave/ }).boundingBox())!;
  await page.mouse.move(before.x, weave.y + 50);
  await page.mouse.wheel(0, -400);
  await expect(fit).toBeEnabled();
  // What is under the pointer stays there; the rest moves apart.
  expect(Math.abs((await handle()).x - before.x)).toBeLessThan(3);
  const out = await middleOf(page, 'slider', 'Span out, frame');
  expect(out.x - before.x).toBeGreaterThan(60 * ((WEAVE - 32) / 300) * 1.5);
  await page.keyboard.press('0');
  await expect(fit).toBeDisabled();
  await page.keyboard.press('=');
  await expect(fit).toBeEnabled();
  expect(Math.abs((await handle()).x - before.x)).toBeLessThan(1);
});

test('the curve: points by hand, a way back by going there again, exact in the file', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await page.keyboard.press('2');
  const first = await middleOf(page, 'slider', 'Point 1');
  const second = await middleOf(page, 'slider', 'Point 2');
  const place = (at: number, source: number) => ({
    x: first.x + ((second.x - first.x) * at) / 60,
    y: first.y + ((second.y - first.y) * (source - 100)) / 60,
  });
  const there = place(30, 150);
  await page.mouse.dblclick(there.x, there.y);
  await expect(page.getByRole('group', { name: 'Curve', exact: true })).toBeVisible();
  await enter(page, 'Point: source', '150');
  await expect(page.getByLabel('Point: at')).toHaveValue('30');
  await expect(page.getByLabel('Point: speed')).toHaveValue('166.7 %');
  // The end is pulled down to where it began: the picture runs back there, and snaps to the other point's height.
  await drag(page, await middleOf(page, 'slider', 'Point 3'), place(60, 100.6), async () => {
    await expect(page.getByTestId('live')).toContainText('60 f, source 100');
  });
  await page.getByRole('button', { name: /^All checks/ }).click();
  await expect(page.getByRole('group', { name: 'Checks' }).getByText('Loop closes')).toBeVisible();
  await page.keyboard.press('Escape');
  // Copied and put in again later, the high point makes a second bump.
  await page.getByRole('slider', { name: 'Point 2' }).focus();
  await page.keyboard.press('Control+c');
  const curve = (await page.getByRole('group', { name: /^Curve: source/ }).boundingBox())!;
  await page.mouse.click(place(59.5, 0).x, curve.y + curve.height - 35);
  await page.getByRole('slider', { name: 'Point 2' }).focus();
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('slider', { name: 'Point 4' })).toHaveCount(1);
  await page.getByRole('slider', { name: 'Point 3' }).focus();
  await page.keyboard.press('Delete');
  await expect(page.getByRole('slider', { name: 'Point 4' })).toHaveCount(0);
  const half = (n: number) => Math.floor(n);
  const rising = Array.from({ length: 30 }, (_, i) => half(100 + ((i + 0.5) * 50) / 30));
  const falling = Array.from({ length: 30 }, (_, i) => half(150 - ((i + 0.5) * 50) / 30));
  expect(await readNumbers(await render(page, 'mp4-h264', join(WORK, 'curve.mp4')))).toEqual([
    ...rising,
    ...falling,
  ]);
});

test('the curve: several points move and stretch together, softness is frames', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'twice' });
  await page.keyboard.press('2');
  await expect(page.getByRole('slider', { name: /^Point/ })).toHaveCount(5);
  await page.getByRole('slider', { name: 'Point 2' }).focus();
  await enter(page, 'Point: soft before', '12');
  await enter(page, 'Point: soft after', '8');
  await expect(length(page)).toContainText('240 f');
  await page.getByLabel('Curve: Points as text').click();
  await expect(page.getByLabel('Curve: Points', { exact: true })).toHaveValue(/60: 60 ~12\/8/);
  await page.keyboard.press('Escape');
  await page.getByRole('group', { name: /^Curve: source/ }).focus();
  await page.keyboard.press('Control+a');
  await expect(page.getByText('5 points', { exact: true })).toBeVisible();
  const grip = page.locator('title', { hasText: 'Drag to stretch the chosen points in time' }).locator('..');
  const box = (await grip.boundingBox())!;
  const from = { x: box.x + 5, y: box.y + 5 };
  await drag(page, from, { x: from.x - (WEAVE - 64 - 16) / 2 + 26, y: from.y }, async () => {
    await expect(page.getByTestId('live')).toContainText('120 f, 50 % as long');
  });
  await expect(length(page)).toContainText('120 f');
});

test('speed by hand: a point added, pulled to the cleanest speed, its change widened; exact in the file', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 20, 80);
  await page.keyboard.press('3');
  const view = (await page.getByRole('group', { name: /^Speed: percent/ }).boundingBox())!;
  const x = (at: number) => 64 + (at * (WEAVE - 64 - 16)) / 60;
  await page.mouse.dblclick(x(30), view.y + 100);
  const upper = page.getByRole('slider', { name: 'Speed 2, percent' });
  await upper.focus();
  await enter(page, 'Change of speed: percent', '2x');
  await enter(page, 'Change of speed: change begins before', '0');
  await enter(page, 'Change of speed: ends after', '0');
  await page.getByLabel('Ramp: Speeds as text').click();
  await expect(page.getByLabel('Ramp: Speeds', { exact: true })).toHaveValue('0: 100, 30: 200');
  await expect(length(page)).toContainText('45 f');
  const file = join(WORK, 'speed.mp4');
  expect(await readNumbers(await render(page, 'mp4-h264', file))).toEqual([...up(20, 49), ...up(51, 79, 2)]);
  await page.getByRole('link', { name: 'Weave' }).click();
  await page.getByRole('button', { name: 'Speeds', exact: true }).click();
  const bar = await middleOf(page, 'slider', 'Speed 2, percent');
  const lower = await middleOf(page, 'slider', 'Speed 1, percent');
  // Pulled down to nearly what it was before, it snaps to the speed that shows every frame once.
  await drag(page, bar, { x: bar.x, y: lower.y - 4 }, async () => {
    await expect(page.getByTestId('live')).toHaveText(/^100 %.*every frame once/);
  });
  await expect(length(page)).toContainText('60 f');
  await upper.focus();
  await page.keyboard.press('ArrowUp');
  const foot = (await page.getByTestId('change-after').first().boundingBox())!;
  const grip = { x: foot.x + 4, y: foot.y + 10 };
  await drag(page, grip, { x: grip.x + (12 * (WEAVE - 64 - 16)) / 60, y: grip.y });
  await expect(page.getByLabel('Change of speed: ends after')).toHaveValue('12 f');
});

test('the step grid: painted by pointer and keys, changed as a whole, exact in the file', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 20, 60);
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  await page.keyboard.press('m');
  await page.keyboard.press('s');
  await page.keyboard.press('4');
  await page.getByRole('button', { name: 'Add a Pattern' }).click();
  await enter(page, 'Grid: Steps', '3');
  await enter(page, 'Grid: Each step', '10');
  const cell = (step: number, row: number) =>
    page.getByRole('gridcell', { name: new RegExp(`^Step ${step}, row ${row}:`) });
  // Forward over the first two columns in one stroke; back by key; from the mark (row 5) on the third.
  await cell(1, 2).hover();
  await page.mouse.down();
  await cell(2, 3).hover();
  await page.mouse.up();
  await cell(2, 3).focus();
  await page.keyboard.press('b');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('f');
  await page.getByLabel('Pattern: Steps as text').click();
  await expect(page.getByLabel('Pattern: Steps', { exact: true })).toHaveValue('2> 3< @mark_1>');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Repeat', exact: true }).click();
  await page.getByRole('button', { name: 'Shift →' }).click();
  await page.getByRole('button', { name: 'Mirror' }).click();
  await expect(page.getByLabel('Pattern: Steps', { exact: true })).toHaveValue(
    '3> 2< @mark_1< 3> 2< @mark_1<',
  );
  await page.getByRole('button', { name: 'Thin out' }).click();
  await expect(page.getByLabel('Pattern: Steps', { exact: true })).toHaveValue('3> . @mark_1< . 2< .');
  await page.keyboard.press('Control+z');
  await page.getByRole('button', { name: /^Shuffle/ }).click();
  const mixed = (await page.getByLabel('Pattern: Steps', { exact: true }).inputValue()).split(' ').sort();
  expect(mixed).toEqual(['2<', '2<', '3>', '3>', '@mark_1<', '@mark_1<']);
  await page.keyboard.press('Control+z');
  const row = [...up(40, 49), ...down(39, 30), ...down(29, 20)];
  expect(await readNumbers(await render(page, 'webm-vp9', join(WORK, 'grid.webm')))).toEqual(times(2, row));
});
