import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, codedClip, readNumbers } from './coded-clips';
import {
  down,
  enter,
  expect,
  openCard,
  removeCard,
  render,
  setSpan,
  startWith,
  test,
  up,
  WEAVE,
} from './journey';
import { BEATS, RATE, goTo, withClicks } from './music-hands';

const length = (page: Page) => page.getByTestId('length');
const same = (frame: number, count: number) => Array.from({ length: count }, () => frame);
const add = (page: Page, move: string) =>
  page.getByRole('button', { name: new RegExp(`^Add ${move}\\.`) }).click();

test('a hold that is dragged keeps its length wherever it goes; it covers what follows; a rewind goes, the others stay', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 120);
  await goTo(page, 45);
  await page.keyboard.press('h');
  await expect(page.getByLabel('Hold: At')).toHaveValue('source 45');
  await enter(page, 'Hold: For', '30');
  // The hold’s end, by keys: the value of the hold changes, no other card appears.
  await page.getByRole('slider', { name: 'End of segment 2, result frame' }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByLabel('Hold: For')).toHaveValue(/^50 f/);
  await expect(length(page)).toContainText('170 f');
  await expect(page.getByRole('group', { name: 'Fit', exact: true })).toHaveCount(0);
  await enter(page, 'Hold: At', 'source 60');
  await enter(page, 'Span in', '10');
  await page.getByLabel('Hold: The rest').selectOption('covers');
  await expect(length(page)).toContainText('110 f');

  // Three rewinds, each at a frame of the clip; the first is taken away.
  await page.getByRole('button', { name: 'Add a piece of bframes-30.mp4' }).click();
  await setSpan(page, 10, 90);
  for (const [at, to] of [
    [30, 20],
    [50, 35],
    [70, 60],
  ]) {
    await add(page, 'Rewind');
    await page.getByLabel('Rewind: Rewinds').last().selectOption('frame');
    await page.getByLabel('Rewind: At').last().fill(String(at));
    await page.getByLabel('Rewind: At').last().press('Enter');
    await page.getByLabel('Rewind: Back to source frame').last().fill(String(to));
    await page.getByLabel('Rewind: Back to source frame').last().press('Enter');
    await page.getByLabel('Rewind: Speed back').last().fill('100');
    await page.getByLabel('Rewind: Speed back').last().press('Enter');
  }
  await removeCard(page, 'Rewind');
  const rewinds = [...up(10, 49), ...down(49, 35), ...up(35, 69), ...down(69, 60), ...up(60, 89)];
  await expect(length(page)).toContainText(`${110 + rewinds.length} f`);
  expect(await readNumbers(await render(page, 'mp4-h264', join(WORK, 'held-places.mp4')))).toEqual([
    ...up(10, 59),
    ...same(60, 50),
    ...up(110, 119),
    ...rewinds,
  ]);
});

test('what is on a mark and a beat stays there: landing, turns, a look; the song slid, the mark moved, frames counted from 1', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 40, 160);
  await withClicks(page);
  // A mark on frame 90, and a landing of it: that offers itself.
  await goTo(page, 50);
  await page.keyboard.press('m');
  await add(page, 'Land');
  await expect(page.getByLabel('Land: Source frame')).toHaveValue('mark 1');
  await enter(page, 'Land: On beat', 'beat 4');
  const on = (beat: number, slid = 0) => Math.round(BEATS[beat - 1]! * RATE) + slid;
  const lands = page.getByText(/^Lands on result frame \d+/);
  await expect(lands).toContainText(`frame ${on(4)} `);
  // The song slid by 6 frames, the mark moved by 5.
  const song = page.getByRole('slider', { name: 'Song, first frame' });
  await song.focus();
  for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
  await expect(lands).toContainText(`frame ${on(4, 6)} `);
  const mark = page.getByLabel(/^Mark mark 1/);
  await mark.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('Alt+ArrowRight');
  await expect(page.getByLabel('Mark mark 1, frame 95')).toBeVisible();

  // A part of it is held from one beat to another; the pin is drawn onto the next beat and says so.
  await add(page, 'Speed');
  await page.getByRole('button', { name: 'More for Speed' }).click();
  await page.getByRole('menuitem', { name: 'Apply to a part' }).click();
  await enter(page, 'Speed: zone from', 'beat 5');
  await enter(page, 'Speed: zone to', 'beat 6');
  const pin = page.getByRole('slider', { name: 'Pin of Speed, to' });
  const box = (await pin.boundingBox())!;
  const perFrame = (WEAVE - 32) / Number((await length(page).textContent())!.match(/^(\d+) f/)![1]);
  await page.mouse.move(box.x + 7, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + 7 + 13.6 * perFrame, box.y + 20, { steps: 6 });
  await expect(page.getByTestId('live')).toHaveText('beat 7');
  await page.mouse.up();
  await expect(page.getByLabel('Speed: zone to')).toHaveValue('beat 7');
  await removeCard(page, 'Speed');

  // Counted from 1, the same frames have other numbers, read and typed alike.
  await page.keyboard.press('?');
  await page.getByRole('group', { name: 'The first frame is' }).getByRole('button', { name: '1' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByLabel('Span in', { exact: true })).toHaveValue('41');
  await enter(page, 'Span out', '141');
  await expect(page.getByLabel('Span length')).toHaveValue('100 f');
  await expect(lands).toContainText(`frame ${on(4, 6) + 1} `);
  const numbers = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'landed.mp4')));
  expect(numbers[on(4, 6)]).toBe(95);
});

test('accents by hand: added, weaker, given to another, taken away, and kept when beats are found again', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await page.getByRole('link', { name: 'Beats' }).click();
  const accents = page.getByTestId('accent');
  await expect(accents.first()).toBeVisible();
  const count = async () =>
    Number((await page.getByTestId('beats-count').textContent())!.match(/(\d+) accents/)![1]);
  const before = await count();
  // One is added at the playhead, by its key, made the snares’ and weaker; the first one found is taken away.
  await page.keyboard.press('Home');
  await page.keyboard.press('a');
  await expect.poll(count).toBe(before + 1);
  await page.keyboard.press('s');
  await expect(page.getByRole('group', { name: 'Accent: snare 1, 0.00 s' })).toBeVisible();
  await enter(page, 'Accent: strength', '40');
  await page.keyboard.press('n');
  await expect(page.getByRole('group', { name: 'Accent: kick 1, 0.40 s' })).toBeVisible();
  // The snares have one there already.
  await page.keyboard.press('s');
  await expect(page.getByText('They have an accent here already.')).toBeVisible();
  await page.keyboard.press('Delete');
  await expect.poll(count).toBe(before);
  await page.getByRole('button', { name: 'Find again' }).click();
  await expect(page.getByRole('progressbar')).toHaveCount(0);
  await expect.poll(count).toBe(before);
  await expect(page.getByRole('slider', { name: 'kick at 0.40 s' })).toHaveCount(0);
  await expect(page.getByRole('slider', { name: 'snare at 0.00 s' })).toHaveAttribute('aria-valuenow', '40');
});

test('turns on the beats, each as soft as it is to be, follow the song; an end dragged stays a speed; a kick made weak pushes no more', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 60, 110);
  await withClicks(page);
  await add(page, 'Bounce');
  await page.getByLabel('Bounce: Source frames as text').click();
  await enter(page, 'Bounce: Source frames', '60, 100 ~0, 70 ~100, 110');
  await page.getByLabel('Bounce: Turns').selectOption('every');
  const song = page.getByRole('slider', { name: 'Song, first frame' });
  await song.focus();
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
  const on = (beat: number) => Math.round(BEATS[beat - 1]! * RATE) + 5;
  const bounced = on(3);
  await expect(length(page)).toContainText(`${bounced} f`);

  // A second piece, its only segment dragged to twice its length by keys; a longer span goes on as slowly.
  await page.getByRole('button', { name: 'Add a piece of bframes-30.mp4' }).click();
  await setSpan(page, 0, 20);
  await page.getByRole('slider', { name: 'End of segment 1, result frame' }).focus();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+ArrowRight');
  await openCard(page, 'Speed');
  await expect(page.getByLabel('Speed: Speed')).toHaveValue('50 %');
  await enter(page, 'Span out', '30');
  await expect(length(page)).toContainText(`${bounced + 60} f`);
  // The way it is set changes nothing: the length is what it is now.
  await page.getByLabel('Speed: Set by').selectOption('length');
  await expect(page.getByLabel('Speed: Length')).toHaveValue(/^60 f/);
  await page.getByLabel('Speed: Set by').selectOption('percent');
  await expect(page.getByLabel('Speed: Speed')).toHaveValue('50 %');
  const shown = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'turned.mp4')));
  expect([shown[on(1)], shown[on(2)], shown[bounced - 1]]).toEqual([100, 70, 110]);
  expect(shown.slice(bounced)).toEqual(up(0, 29).flatMap((n) => [n, n]));

  await page.getByRole('link', { name: 'Weave' }).click();
  await add(page, 'Push');
  await page.getByLabel('Push: By').selectOption('all');
  const pushes = page.getByText(/^\d+ accents? push(es)?\.$/);
  const told = async () => Number((await pushes.textContent())!.match(/^\d+/)![0]);
  const before = await told();
  expect(before).toBeGreaterThan(0);
  // The accents that lie under it, all made weak: nothing pushes any more; undone, as before.
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByTestId('accent').first().waitFor();
  await page.keyboard.press('Home');
  const card = page.getByRole('group', { name: /^Accent: / });
  for (let last = ''; ;) {
    await page.keyboard.press('n');
    await expect(card).not.toHaveAttribute('aria-label', last);
    last = (await card.getAttribute('aria-label'))!;
    if (Number(/([\d.]+) s$/.exec(last)![1]) > 3.4) break;
    await enter(page, 'Accent: strength', '5');
  }
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByText('0 accents push.')).toBeVisible();
});
