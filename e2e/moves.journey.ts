import { join } from 'node:path';
import { WORK, codedClip, readNumbers } from './coded-clips';
import {
  down,
  enter,
  expect,
  fromMenu,
  openCard,
  removeCard,
  render,
  setSpan,
  startWith,
  test,
  times,
  up,
  WEAVE,
} from './journey';

interface Case {
  readonly move: string;
  readonly span: [number, number];
  /** Values typed into the card, by label. */
  readonly typed?: Record<string, string>;
  readonly chosen?: Record<string, string>;
  readonly shows: number[];
}

const same = (n: number, count: number) => times(count, [n]);

/** Every move as it is built on the coded clip, and what is read back of it. */
const CASES: readonly Case[] = [
  { move: 'Speed', span: [20, 40], typed: { Speed: '50 %' }, shows: up(20, 39).flatMap((n) => [n, n]) },
  {
    move: 'Ramp',
    span: [20, 80],
    typed: { Speeds: '0: 100, 30: 200', 'Change begins': '0 f', 'and ends after': '0 f' },
    shows: [...up(20, 49), ...up(51, 79, 2)],
  },
  {
    move: 'Rewind',
    span: [20, 60],
    typed: { 'Back to source frame': '40', 'Speed back': '100 %' },
    shows: [...up(20, 59), ...down(59, 40), ...up(40, 59)],
  },
  {
    move: 'Scratch',
    span: [20, 60],
    typed: { At: '10', Slice: '5', Strokes: '2' },
    shows: [...up(20, 29), ...times(2, [...up(30, 34), ...down(34, 30)]), ...up(30, 59)],
  },
  {
    move: 'Stutter',
    span: [20, 60],
    typed: { At: '10', Slice: '4', 'Times it plays': '3' },
    shows: [...up(20, 29), ...times(3, up(30, 33)), ...up(34, 59)],
  },
  {
    move: 'Hold',
    span: [20, 60],
    typed: { At: '15', For: '1 s' },
    shows: [...up(20, 34), ...same(35, 30), ...up(35, 59)],
  },
  {
    move: 'Spool',
    span: [20, 140],
    typed: { 'Times as fast': '4', 'Eased over': '0' },
    shows: up(22, 138, 4),
  },
  {
    move: 'Coast',
    span: [20, 120],
    typed: { From: '200 %', To: '200 %', Over: '20 f' },
    shows: up(21, 59, 2),
  },
  {
    move: 'Step',
    span: [20, 50],
    typed: { 'Pictures a second': '6' },
    shows: up(20, 49, 5).flatMap((n) => same(n, 5)),
  },
  {
    move: 'Bounce',
    span: [20, 60],
    typed: { 'Source frames': '20, 50, 30', 'Each leg': '10', 'Soft turns': '0' },
    shows: [
      // Each frame it goes to is shown: 50 on the tenth, 30 on the last.
      ...up(20, 47, 3),
      ...Array.from({ length: 10 }, (_, i) => Math.floor(50.5 - (20 * i) / 9)),
    ],
  },
  {
    move: 'Pattern',
    span: [20, 60],
    typed: { Slices: '4', 'Each step': '10', Steps: '2> 2< 4= . 1>' },
    shows: [...up(30, 39), ...down(39, 30), ...same(50, 20), ...up(20, 29)],
  },
  { move: 'Trim', span: [20, 60], typed: { From: '5', Length: '12' }, shows: up(25, 36) },
  {
    move: 'Fit',
    span: [20, 60],
    typed: { To: '100 f' },
    chosen: { By: 'repeats' },
    shows: [...times(2, up(20, 59)), ...up(20, 39)],
  },
];

test('every move, built by hand in a piece of its own, comes out exact', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  let total = 0;
  for (const [i, c] of CASES.entries()) {
    if (i > 0) await page.getByRole('button', { name: 'Add a piece of bframes-30.mp4' }).click();
    await setSpan(page, ...c.span);
    await page.getByRole('button', { name: new RegExp(`^Add ${c.move}\\.`) }).click();
    for (const [label, value] of Object.entries(c.typed ?? {})) {
      // A list is typed where it is asked for as text.
      const asText = page.getByLabel(`${c.move}: ${label} as text`, { exact: true });
      if (await asText.count()) await asText.click();
      await enter(page, `${c.move}: ${label}`, value);
    }
    for (const [label, value] of Object.entries(c.chosen ?? {}))
      await page.getByLabel(`${c.move}: ${label}`).selectOption(value);
    total += c.shows.length;
    await expect(page.getByTestId('length'), c.move).toContainText(`${total} f`);
  }
  const shown = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'moves.mp4')));
  let from = 0;
  for (const c of CASES) {
    expect(shown.slice(from, from + c.shows.length), c.move).toEqual(c.shows);
    from += c.shows.length;
  }
  expect(shown).toHaveLength(total);
});

test('chains: a zone, a copy, another order, off and on; pieces: split, duplicated, moved, taken away', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 20, 50);
  const length = page.getByTestId('length');
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  const menu = async (move: string, item: string) => {
    await page
      .getByRole('button', { name: `More for ${move}` })
      .first()
      .click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  // A third of it, from the frame that is looked at.
  await menu('Speed', 'Apply to a part');
  await expect(length).toContainText('40 f');
  await enter(page, 'Speed: zone to', '20');
  await expect(length).toContainText('50 f');
  await menu('Speed', 'Apply to the whole piece');
  await expect(length).toContainText('60 f');
  await menu('Speed', 'Duplicate');
  await expect(length).toContainText('120 f');
  await page.getByLabel('Speed on').first().click();
  await expect(length).toContainText('60 f');
  await removeCard(page, 'Speed');
  await page.getByRole('button', { name: /^Add Hold/ }).click();
  await enter(page, 'Hold: For', '10');
  await expect(length).toContainText('70 f');
  const grip = (await page.getByRole('button', { name: 'Drag Hold to another place' }).boundingBox())!;
  const target = (await page.getByRole('group', { name: 'Speed' }).boundingBox())!;
  await page.mouse.move(grip.x + 8, grip.y + 8);
  await page.mouse.down();
  await page.mouse.move(grip.x + 8, grip.y - 20, { steps: 4 });
  await page.mouse.move(grip.x + 8, target.y + 4, { steps: 8 });
  await page.mouse.up();
  await expect(length).toContainText('80 f');

  await page.getByRole('button', { name: 'Split at the playhead' }).click();
  await expect(page.getByText(/Put the playhead inside the piece/)).toBeVisible();
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await page.getByRole('button', { name: 'Split at the playhead' }).click();
  await expect(length).toContainText('80 f');
  await openCard(page, 'Trim');
  await expect(page.getByLabel('Trim: Length')).toHaveValue(/^30 f/);
  await page.getByRole('button', { name: 'Duplicate the piece' }).click();
  await expect(length).toContainText('110 f');
  await fromMenu(page, 'the piece', 'Later in the result');
  await fromMenu(page, 'the piece', 'Remove the piece');
  await expect(length).toContainText('80 f');
  await page.keyboard.press('Control+z');
  await expect(length).toContainText('110 f');
});

test('dragging the end of a segment stretches it, and its speed follows', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 150);
  await page.getByRole('button', { name: /^Add Hold/ }).click();
  await enter(page, 'Hold: At', '25');
  await enter(page, 'Hold: For', '50');
  await expect(page.getByTestId('length')).toContainText('100 f');
  const end = (await page.getByTestId('segment-end').nth(1).boundingBox())!;
  const perFrame = (WEAVE - 32) / 100;
  await page.mouse.move(end.x + 4, end.y + 10);
  await page.mouse.down();
  for (let i = 1; i <= 10; i++) await page.mouse.move(end.x + 4 - i * 2 * perFrame, end.y + 10);
  await page.mouse.up();
  await expect(page.getByTestId('length')).toContainText('80 f');
  const first = (await page.getByTestId('segment-end').first().boundingBox())!;
  await page.mouse.move(first.x + 4, first.y + 10);
  await page.mouse.down();
  await page.mouse.move(first.x + 4 + (25 * (WEAVE - 32)) / 80, first.y + 10, { steps: 8 });
  await page.mouse.up();
  await expect(page.getByTestId('length')).toContainText('105 f');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('length')).toContainText('80 f');
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('length')).toContainText('100 f');
});
