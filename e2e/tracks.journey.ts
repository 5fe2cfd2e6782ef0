/** What is followed through a clip: pieces held by it, and regions carried by it, in the file, forward and backward. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { CODED, WORK, codedClip } from './coded-clips';
import {
  addBoomerang,
  addLook,
  enter,
  expect,
  offerLooks,
  openReading,
  render,
  setSpan,
  startWith,
  test,
  up,
} from './journey';
import { BOARD, SIZE, boardAt, lumaOf, movingClip, numberAt } from './moving-clips';

/** Presses of buttons and keys, and drags, counted as they are made. */
class Hands {
  presses = 0;
  constructor(readonly page: Page) {}

  async key(key: string): Promise<void> {
    this.presses++;
    await this.page.keyboard.press(key);
  }
  async choose(label: string, option: string | { label: string }): Promise<void> {
    this.presses++;
    await this.page.getByLabel(label, { exact: true }).selectOption(option);
  }
  /** Places in pixels of the clip's picture, which fills the project's. */
  async screen(x: number, y: number): Promise<[number, number]> {
    const box = (await this.page.getByTestId('picture').boundingBox())!;
    return [box.x + (x * box.width) / SIZE.width, box.y + (y * box.height) / SIZE.height];
  }
  async drag(from: [number, number], to: [number, number]): Promise<void> {
    this.presses++;
    await this.page.mouse.move(...(await this.screen(...from)));
    await this.page.mouse.down();
    await this.page.mouse.move(...(await this.screen(...to)), { steps: 4 });
    await this.page.mouse.up();
  }
}

const bar = (page: Page) => page.getByRole('group', { name: 'Edited on the picture' });
const followed = (page: Page) =>
  expect(bar(page).getByText(/by hand|sure \d+ %/)).toBeVisible({ timeout: 60_000 });

/** Looks at a frame of the clip. */
async function lookAt(page: Page, frame: number): Promise<void> {
  if ((await page.getByTestId('source-frame').count()) === 0) await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < Math.floor(frame / 10); i++) await page.keyboard.press('Shift+ArrowRight');
  for (let i = 0; i < frame % 10; i++) await page.keyboard.press('ArrowRight');
  await expect(page.getByTestId('source-frame')).toHaveText(`frame ${frame}`);
}

/** Follows the board by a box around it, from frame 30. */
async function followBoard(hands: Hands): Promise<void> {
  const { page } = hands;
  await page.getByRole('button', { name: 'Tracks', exact: true }).click();
  await page.getByRole('button', { name: 'A box', exact: true }).click();
  hands.presses += 2;
  await expect(page.getByRole('group', { name: 'Tracks', exact: true })).toHaveCount(0);
  const { x, y } = boardAt(30);
  const [w, h] = [BOARD.width / 2 - 6, BOARD.height / 2 - 6];
  await hands.drag([x - w, y - h], [x + w, y + h]);
  await followed(page);
}

test('a subject is locked in the middle, upright, of an out-back-out path: every frame of the file', async ({
  page,
}) => {
  await startWith(page, await movingClip());
  await setSpan(page, 10, 60);
  await addBoomerang(page, { trips: 1, back: '200', turn: 'twice' });
  const hands = new Hands(page);
  await lookAt(page, 30);
  await followBoard(hands);
  await hands.key('Escape');
  await openReading(page);
  await hands.choose('Stabilise', { label: 'box 1' });
  await hands.choose('Stabilise: how', 'centre');
  console.log(`locked and centred: ${hands.presses} presses`);
  expect(hands.presses).toBeLessThanOrEqual(6);
  const zoom = Number(
    /zoom to fill, (\d+) %/.exec(await page.getByLabel('Stabilise: edges').innerText())?.[1],
  );
  expect(zoom).toBeGreaterThan(100);
  const file = await render(page, 'webm-vp9', join(WORK, 'locked.webm'));
  const luma = await lumaOf(file);
  const shown = [...up(10, 59), ...up(0, 24).map((i) => 59 - 2 * i)];
  // As it lies where the piece begins.
  const { turn } = boardAt(10);
  const numbers = shown.map((_, i) =>
    numberAt((x, y) => luma(i, x, y), { x: 320, y: 180, scale: (zoom - 0.5) / 100, turn }),
  );
  expect(numbers).toEqual(shown);
});

test('a region carried by a track lies on the same pixels of the clip forward and backward, in the file', async ({
  page,
}) => {
  const clip = await movingClip();
  await startWith(page, clip);
  await setSpan(page, 10, 60);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  const hands = new Hands(page);
  await lookAt(page, 30);
  await followBoard(hands);
  await page.keyboard.press('Escape');
  await offerLooks(page);
  await addLook(page, 'Flash');
  await page.getByLabel('Flash: region', { exact: true }).selectOption('rectangle');
  await enter(page, 'Flash: Fades over', '0');
  await enter(page, 'Flash: Feather', '0');
  // From the middle of the picture onto the board, and made narrow: 30 pixels wide, 20 high, above the number.
  const { x, y } = boardAt(30);
  await hands.drag([SIZE.width / 2, SIZE.height / 2], [x, y - 30]);
  const half = SIZE.height / 2.2 / 2;
  await hands.drag([x + half, y - 30], [x + 15, y - 30]);
  await hands.drag([x, y - 30 + half], [x, y - 20]);
  await page.getByLabel('Flash: attach to track', { exact: true }).selectOption({ label: 'box 1' });
  await page.keyboard.press('Escape');
  const file = await render(page, 'webm-vp9', join(WORK, 'carried.webm'));
  const [luma, own] = [await lumaOf(file), await lumaOf(clip)];
  const shown = [...up(10, 59), ...up(10, 59).reverse()];
  const start = boardAt(30).turn;
  shown.forEach((n, i) => {
    const board = boardAt(n);
    const turn = (board.turn * Math.PI) / 180;
    // Places on the board, as it lay at frame 30, when the region was put there: in the file, and in the clip.
    const at = (u: number, v: number) => {
      const t = (-start * Math.PI) / 180;
      const [p, q] = [Math.cos(t) * u - Math.sin(t) * v, Math.sin(t) * u + Math.cos(t) * v];
      const x = board.x + Math.cos(turn) * p - Math.sin(turn) * q;
      const y = board.y + Math.sin(turn) * p + Math.cos(turn) * q;
      return { made: luma(i, x, y), was: own(n, x, y) };
    };
    const where = `frame ${i}, of the clip ${n}`;
    for (const [u, v] of [
      [0, -30],
      [-10, -34],
      [10, -34],
      [-10, -26],
      [10, -26],
    ] as const)
      expect(at(u, v).made, where).toBeGreaterThan(212);
    // Just beyond its sides the board is as it was.
    for (const [u, v] of [
      [-22, -30],
      [22, -30],
      [-22, -36],
      [22, -36],
    ] as const)
      expect(Math.abs(at(u, v).made - at(u, v).was), where).toBeLessThan(36);
  });
});

test('an ellipse follows a subject over 60 frames, put right three times; lost is said; undo takes it back', async ({
  page,
}) => {
  await startWith(page, await movingClip());
  await setSpan(page, 10, 70);
  const hands = new Hands(page);
  await lookAt(page, 30);
  // A point in the ground beside the number: it is soon covered, or wrong.
  await hands.key('t');
  const start = boardAt(30);
  const press = async (x: number, y: number) => {
    hands.presses++;
    await page.mouse.click(...(await hands.screen(x, y)));
  };
  await press(start.x + 40, start.y - 34);
  await followed(page);
  for (const frame of [40, 50, 60]) {
    await lookAt(page, frame);
    const handle = page.getByRole('button', { name: 'point 1', exact: true });
    const box = (await handle.boundingBox())!;
    const at = boardAt(frame);
    hands.presses++;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(...(await hands.screen(at.x, at.y - 1)), { steps: 4 });
    await page.mouse.up();
    await followed(page);
    await expect(bar(page).getByText(`${frame}: by hand`)).toBeVisible();
  }
  await hands.key('Escape');
  await offerLooks(page);
  await addLook(page, 'Grade');
  await hands.choose('Grade: region', 'ellipse');
  await hands.choose('Grade: attach to track', { label: 'point 1' });
  console.log(`an ellipse with three corrections: ${hands.presses + 1} presses`);
  expect(hands.presses + 1).toBeLessThanOrEqual(9);
  await hands.key('Escape');
  // What used it says that it is gone, and undo brings it back.
  await page.getByRole('button', { name: 'Tracks', exact: true }).click();
  await page.getByRole('button', { name: 'Remove point 1' }).click();
  await page.keyboard.press('Escape');
  await expect(page.getByText(/The track that carried its region is gone/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/The track that carried its region is gone/)).toHaveCount(0);
});

test('nothing to hold on to, one frame, a polygon that crosses itself: said, or harmless', async ({
  page,
}) => {
  await startWith(page, await codedClip('single'));
  expect(CODED.single.frames).toBe(1);
  await page.keyboard.press('i');
  await page.keyboard.press('o');
  const hands = new Hands(page);
  await hands.key('t');
  await page.getByTestId('choose-place').click();
  // There is nowhere to follow it to: the track is there, by hand.
  await expect(bar(page).getByText('0: by hand')).toBeVisible();
  await hands.key('Escape');
  await page.keyboard.press('s');
  await offerLooks(page);
  await addLook(page, 'Blur');
  await hands.choose('Blur: region', 'polygon');
  for (const [x, y] of [
    [100, 60],
    [500, 300],
    [500, 60],
    [100, 300],
  ] as const)
    // oxfmt-ignore
    await page.mouse.click(...(await hands.screen(x, y)));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Corner 4' })).toBeVisible();
  await page.getByRole('button', { name: 'Corner 4' }).press('Delete');
  await expect(page.getByRole('button', { name: 'Corner 4' })).toHaveCount(0);
  await hands.key('Escape');
  await expect(bar(page)).toHaveCount(0);
  await render(page, 'webm-vp9', join(WORK, 'polygon.webm'));
});
