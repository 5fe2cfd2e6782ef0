/** Pictures made of several source frames: every frame of a clip lights another column, whose brightness tells its weight. */
import { join } from 'node:path';
import { WORK } from './coded-clips';
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
import { addPiece, columnClip, columnOf, lit, weightsOf } from './lit-clips';

/** When frames of a clip begin, in seconds; and how much each has of the picture at a time, or of a stretch of it. */
const evenly = (rate: number, frames: number): number[] => up(0, frames).map((n) => n / rate);
function mixedAt(starts: readonly number[], t: number): number[] {
  const middles = starts.slice(1).map((end, n) => (starts[n]! + end) / 2);
  const first = Math.max(
    0,
    middles.findLastIndex((m) => m <= t),
  );
  const share = (t - middles[first]!) / (middles[first + 1]! - middles[first]!);
  return share <= 0 ? lit([[first, 1]]) : lit([[first, 1 - share], [first + 1, share]]); // oxfmt-ignore
}
function coveredOf(starts: readonly number[], from: number, to: number): number[] {
  return lit(
    starts.slice(1).flatMap((end, n) => {
      const covered = Math.min(to, end) - Math.max(from, starts[n]!);
      return covered > 0 ? [[n, covered] as const] : [];
    }),
  );
}

test('mix, shutter, smear and trail weigh source frames exactly: slow, fast, backward, over turns, at the clip’s ends, at every rate', async ({
  page,
}) => {
  const [thirty, fast] = [
    await columnClip('lit-30.mp4', '30', 90),
    await columnClip('lit-120.mp4', '120', 96),
  ];
  const others = [
    await columnClip('lit-23976.mp4', '24000/1001', 60),
    await columnClip('lit-2997.mp4', '30000/1001', 60),
    await columnClip('lit-60.mp4', '60', 90),
    await columnClip('lit-uneven.mp4', '30', 60, '30*N+4*mod(N\\,3)'),
  ];
  await startWith(page, thirty, fast, ...others);
  const expected: number[][] = [];

  // Half speed from frame 0 on: before the first middle there is nothing to mix with.
  await setSpan(page, 0, 20);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '50 %');
  await openReading(page);
  await page.getByLabel('In-between frames', { exact: true }).selectOption('mix');
  for (let n = 0; n < 20; n++) {
    expected.push(n === 0 ? lit([[0, 1]]) : lit([[n - 1, 1], [n, 3]])); // oxfmt-ignore
    expected.push(lit([[n, 3], [n + 1, 1]])); // oxfmt-ignore
  }
  // Four times as fast over a whole turn of the shutter, there and back: means of exactly four.
  await addPiece(page, 'lit-30.mp4', [20, 60]);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '400 %');
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await enter(page, 'Shutter', '360');
  const fours = up(20, 59, 4).map((n) => lit(up(n, n + 3).map((f) => [f, 1])));
  expected.push(...fours, ...fours.toReversed());
  // Twice as long as a picture at full speed, to the clip's very ends.
  await addPiece(page, 'lit-30.mp4', [0, 90]);
  await enter(page, 'Shutter', '720°');
  for (const n of up(0, 89)) {
    const window = [[n - 1, 1], [n, 2], [n + 1, 1]] as const; // oxfmt-ignore
    expected.push(lit(window.filter(([f]) => f >= 0 && f < 90)));
  }
  // A hundred and twenty a second: every picture is the mean of the two in its middle, backward too.
  await addPiece(page, 'lit-120.mp4', [0, 96]);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '100 %');
  await page.getByLabel('Speed: Direction').selectOption('backward');
  await enter(page, 'Shutter', '180');
  for (const n of up(0, 23).toReversed()) expected.push(lit([[4 * n + 1, 1], [4 * n + 2, 1]])); // oxfmt-ignore
  // Smeared over what was seen, there and back: over the turn a frame that is seen twice weighs twice.
  await addPiece(page, 'lit-30.mp4', [40, 60]);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await offerLooks(page);
  await addLook(page, 'Smear');
  await enter(page, 'Smear: Back', '3');
  await enter(page, 'Smear: On', '0');
  await page.getByLabel('Smear: Counts frames of').selectOption('result');
  const seen = [...up(40, 59), ...up(40, 59).toReversed()];
  for (const i of seen.keys()) expected.push(lit(seen.slice(Math.max(0, i - 3), i + 1).map((f) => [f, 1])));
  // Copies of what was seen, each half as bright as the one before, lightening.
  await addPiece(page, 'lit-30.mp4', [20, 50]);
  await addLook(page, 'Trail');
  await enter(page, 'Trail: Copies', '3');
  await enter(page, 'Trail: Spacing', '3');
  await enter(page, 'Trail: Fainter by', '50');
  for (const n of up(20, 49)) {
    const columns = lit([[n, 1]]);
    for (const k of [1, 2, 3]) columns[columnOf(n - 3 * k)] = 0.5 ** k;
    expected.push(columns);
  }
  // Clips of other rates, and one whose frames last 34, 34 and 22 milliseconds in turn.
  const uneven = up(0, 60).map((n) => (30 * n + 4 * (n % 3)) / 1000);
  for (const [clip, starts, span, percent, frames] of [
    ['lit-23976.mp4', evenly(24_000 / 1001, 60), [8, 32], 50, 60],
    ['lit-2997.mp4', evenly(30_000 / 1001, 60), [0, 30], 100, 30],
    ['lit-60.mp4', evenly(60, 90), [20, 60], 40, 50],
    ['lit-uneven.mp4', uneven, [6, 36], 50, 54],
  ] as const) {
    await addPiece(page, clip, [...span]);
    await page.getByRole('button', { name: 'Moves', exact: true }).click();
    await page.getByRole('button', { name: /^Add Speed/ }).click();
    await enter(page, 'Speed: Speed', `${percent} %`);
    await page.getByLabel('In-between frames', { exact: true }).selectOption('mix');
    for (const i of up(0, frames - 1))
      expected.push(mixedAt(starts, starts[span[0]]! + ((i + 0.5) * percent) / 100 / 30));
  }
  await addPiece(page, 'lit-uneven.mp4', [6, 36]);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '300 %');
  await enter(page, 'Shutter', '360');
  for (const i of up(0, 8)) expected.push(coveredOf(uneven, uneven[6]! + i / 10, uneven[6]! + (i + 1) / 10));
  await expect(page.getByTestId('length')).toContainText(`${expected.length} f`);

  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const made = await weightsOf(await render(page, 'webm-vp9', join(WORK, 'lit.webm')));
  expect(made).toHaveLength(expected.length);
  // What an encoder leaves of them at its finest.
  const off = made.flatMap((row, i) => row.map((w, column) => Math.abs(w - expected[i]![column]!)));
  console.log(`weights in the file are off by ${Math.max(...off).toFixed(3)} at most`);
  expect(Math.max(...off)).toBeLessThan(0.03);
  await expect(page.getByTestId('render-proof')).toContainText('drawn on');
});

test('mixing is offered where frames repeat, seen at once, undone, kept, and what new pieces begin with', async ({
  page,
}) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 10, 40);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '40 %');
  const choppiest = async (shown: boolean) => {
    await page.getByRole('button', { name: /^All checks/ }).click();
    await expect(page.getByText('choppiest part: 12 new frames/s')).toHaveCount(shown ? 1 : 0);
    await page.keyboard.press('Escape');
  };
  await choppiest(true);
  await page.getByRole('button', { name: 'Blend' }).click();
  await openReading(page);
  await expect(page.getByLabel('In-between frames', { exact: true })).toHaveValue('mix');
  await choppiest(false);
  await expect(page.getByText(/Frames repeat/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await choppiest(true);
  await page.keyboard.press('Control+Shift+z');
  // The shutter is driven like any value of a look.
  await page.getByRole('button', { name: 'What moves Shutter' }).click();
  await page.getByLabel('Shutter moves').selectOption('progress');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What moves Shutter' })).toContainText('start to end');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('In-between frames of new pieces').selectOption('mix');
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('In-between frames', { exact: true })).toHaveValue('mix', { timeout: 30_000 });
  await page.getByRole('button', { name: 'Add a piece of lit-30.mp4' }).click();
  await expect(page.getByLabel('In-between frames', { exact: true })).toHaveValue('mix');
  await expect(page.getByLabel('Shutter', { exact: true })).toHaveValue('0°');
});
