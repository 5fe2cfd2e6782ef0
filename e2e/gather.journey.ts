/** Pictures made of several source frames: every frame of a clip lights another column, whose brightness tells its weight. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, run } from './coded-clips';
import {
  addBoomerang,
  addLook,
  enter,
  expect,
  offerLooks,
  render,
  setSpan,
  startWith,
  test,
  up,
} from './journey';

const COLUMNS = 16;
const SIZE = { width: 320, height: 180 };

/** A clip whose frame n lights column n of sixteen, over and over; `times`: when each begins, in milliseconds, as a sum. */
async function columnClip(name: string, rate: string, frames: number, times?: string): Promise<string> {
  const path = join(WORK, name);
  const lit = `geq=lum='16+219*eq(floor(X/20)\\,mod(N\\,${COLUMNS}))':cb=128:cr=128`;
  await run('ffmpeg', [
    ...[
      '-y',
      '-f',
      'lavfi',
      '-i',
      `nullsrc=s=320x180:r=${rate},format=yuv420p,${lit}${times ? `,settb=1/1000,setpts='${times}'` : ''}`,
    ],
    ...(times
      ? ['-fps_mode', 'passthrough', '-enc_time_base', '1/1000', '-video_track_timescale', '1000']
      : []),
    ...['-frames:v', String(frames), '-c:v', 'libx264', '-qp', '4', '-g', '48', '-bf', times ? '0' : '2'],
    ...[
      '-colorspace',
      'bt709',
      '-color_primaries',
      'bt709',
      '-color_trc',
      'bt709',
      '-color_range',
      'tv',
      path,
    ],
  ]);
  return path;
}

/** For every frame of a file how much each column is lit, 0 to 1. */
async function weightsOf(file: string): Promise<number[][]> {
  const raw = await run('ffmpeg', [
    ...['-i', file, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
  ]);
  const { width, height } = SIZE;
  const wide = width / COLUMNS;
  return up(0, raw.length / (width * height) - 1).map((n) =>
    up(0, COLUMNS - 1).map((column) => {
      let sum = 0;
      // Its middle: at its edges an encoder is least sure.
      for (let y = 20; y < height - 20; y++)
        for (let x = column * wide + 5; x < (column + 1) * wide - 5; x++)
          sum += raw[n * width * height + y * width + x]!;
      return sum / ((height - 40) * (wide - 10)) / 255;
    }),
  );
}

/** Frames in parts, as the columns they light. */
const lit = (parts: readonly (readonly [frame: number, part: number])[]): number[] => {
  const total = parts.reduce((sum, [, part]) => sum + part, 0);
  const columns = Array.from({ length: COLUMNS }, () => 0);
  for (const [n, part] of parts) columns[n % COLUMNS]! += part / total;
  return columns;
};

/** When frames of a clip begin, in seconds; and how much each has of the picture at a time, or of a stretch of it. */
const evenly = (rate: number, frames: number): number[] => up(0, frames).map((n) => n / rate);
function mixedAt(starts: readonly number[], t: number): number[] {
  const middles = starts.slice(1).map((end, n) => (starts[n]! + end) / 2);
  const first = Math.max(
    0,
    middles.findLastIndex((m) => m <= t),
  );
  const share = (t - middles[first]!) / (middles[first + 1]! - middles[first]!);
  return share <= 0 ? lit([[first, 1]]) : lit([[first, 1 - share], [first + 1, share]]); // prettier-ignore
}
function coveredOf(starts: readonly number[], from: number, to: number): number[] {
  return lit(
    starts.slice(1).flatMap((end, n) => {
      const covered = Math.min(to, end) - Math.max(from, starts[n]!);
      return covered > 0 ? [[n, covered] as const] : [];
    }),
  );
}

async function addPiece(page: Page, clip: string, span: [number, number]): Promise<void> {
  await page.getByRole('button', { name: `Add a piece of ${clip}` }).click();
  await setSpan(page, ...span);
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
  await page.getByLabel('Between frames', { exact: true }).selectOption('mix');
  for (let n = 0; n < 20; n++) {
    expected.push(n === 0 ? lit([[0, 1]]) : lit([[n - 1, 1], [n, 3]])); // prettier-ignore
    expected.push(lit([[n, 3], [n + 1, 1]])); // prettier-ignore
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
    const window = [[n - 1, 1], [n, 2], [n + 1, 1]] as const; // prettier-ignore
    expected.push(lit(window.filter(([f]) => f >= 0 && f < 90)));
  }
  // A hundred and twenty a second: every picture is the mean of the two in its middle, backward too.
  await addPiece(page, 'lit-120.mp4', [0, 96]);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '100 %');
  await page.getByLabel('Speed: Direction').selectOption('backward');
  await enter(page, 'Shutter', '180');
  for (const n of up(0, 23).toReversed()) expected.push(lit([[4 * n + 1, 1], [4 * n + 2, 1]])); // prettier-ignore
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
    for (const k of [1, 2, 3]) columns[(n - 3 * k) % COLUMNS] = 0.5 ** k;
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
    await page.getByLabel('Between frames', { exact: true }).selectOption('mix');
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
  await expect(page.getByRole('button', { name: /^choppiest 12/ })).toBeVisible();
  await page.getByRole('button', { name: 'Mix between' }).click();
  await expect(page.getByLabel('Between frames', { exact: true })).toHaveValue('mix');
  await expect(page.getByRole('button', { name: /^choppiest/ })).toHaveCount(0);
  await expect(page.getByText(/Frames repeat/)).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('button', { name: /^choppiest 12/ })).toBeVisible();
  await page.keyboard.press('Control+Shift+z');
  // The shutter is driven like any value of a look.
  await page.getByRole('button', { name: 'What moves Shutter' }).click();
  await page.getByLabel('Shutter moves').selectOption('progress');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'What moves Shutter' })).toContainText('on the way');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Between frames of new pieces').selectOption('mix');
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Between frames', { exact: true })).toHaveValue('mix', { timeout: 30_000 });
  await page.getByRole('button', { name: 'Add a piece of lit-30.mp4' }).click();
  await expect(page.getByLabel('Between frames', { exact: true })).toHaveValue('mix');
  await expect(page.getByLabel('Shutter', { exact: true })).toHaveValue('0°');
});

/** A clip of a white disc on grey that goes six pixels to the right a frame. */
async function discClip(name: string, frames: number): Promise<string> {
  const path = join(WORK, name);
  const disc = "geq=lum='60+150*lt(hypot(X-60-6*N\\,Y-90)\\,22)':cb=128:cr=128";
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', `nullsrc=s=320x180:r=30,format=yuv420p,${disc}`],
    ...['-frames:v', String(frames), '-c:v', 'libx264', '-qp', '4', '-g', '12', '-color_range', 'tv', path],
  ]);
  return path;
}

test('flow moves what moves: at half speed a disc is where it belongs in every picture, there and back, and stays one', async ({
  page,
}) => {
  await startWith(page, await discClip('disc.mp4', 36));
  await setSpan(page, 4, 24);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '50 %');
  await page.getByRole('button', { name: 'Flow between' }).click();
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  const motion = page.getByRole('group', { name: 'Motion', exact: true });
  await expect(motion).toContainText(/all \d+ pictures by flow are made/, { timeout: 30_000 });
  await expect(motion).not.toContainText('lost');
  // At full speed over a whole turn of the shutter: drawn out along its way, six pixels a picture.
  await addPiece(page, 'disc.mp4', [4, 24]);
  await page.getByLabel('Between frames', { exact: true }).selectOption('flow');
  await enter(page, 'Shutter', '360');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const file = await render(page, 'webm-vp9', join(WORK, 'disc.webm'));
  const raw = await run('ffmpeg', [
    ...['-i', file, '-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
  ]);
  const { width, height } = SIZE;
  const seen = up(0, raw.length / (width * height) - 1).map((n) => {
    let [sum, at] = [0, 0];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const over = Math.max(0, raw[n * width * height + y * width + x]! - 90);
        sum += over;
        at += over * x;
      }
    // Pixels of the middle row that are neither ground nor disc: the edges.
    const row = raw.subarray((n * height + height / 2) * width, (n * height + height / 2 + 1) * width);
    const soft = row.filter((v) => v > 75 && v < 200).length;
    return { place: at / sum, white: sum, soft };
  });
  const there = up(0, 39).map((i) => 60 + 6 * (4 + i / 2));
  const drawnOut = up(4, 23).map((n) => 60 + 6 * n);
  const expected = [...there, ...there.toReversed(), ...drawnOut];
  expect(seen).toHaveLength(expected.length);
  expect(Math.max(...seen.map(({ place }, i) => Math.abs(place - expected[i]!)))).toBeLessThan(0.7);
  // Two discs mixed would be half as white, below what is counted here.
  const whites = seen.slice(0, 80).map((s) => s.white);
  expect(Math.min(...whites) / Math.max(...whites)).toBeGreaterThan(0.9);
  const median = (values: number[]) => values.toSorted((a, b) => a - b)[values.length >> 1]!;
  expect(median(seen.slice(0, 80).map((s) => s.soft))).toBeLessThanOrEqual(5);
  expect(median(seen.slice(80).map((s) => s.soft))).toBeGreaterThanOrEqual(8);
});

test('where motion is lost it is said, mixed by one press, and making can be stopped', async ({ page }) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 10, 40);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '25 %');
  await page.getByLabel('Between frames', { exact: true }).selectOption('flow');
  const motion = page.getByRole('group', { name: 'Motion', exact: true });
  await motion.getByRole('button', { name: 'Stop' }).click();
  await expect(motion).toContainText('mixed for now');
  await motion.getByRole('button', { name: 'Go on' }).click();
  await expect(motion).toContainText(/all \d+ pictures by flow are made/, { timeout: 30_000 });
  // Columns light up and go out where they are: nothing moves.
  await expect(motion).toContainText(/motion is lost in \d+/);
  await motion.getByRole('button', { name: 'Mix these' }).click();
  await expect(motion).toContainText(/mixed between \d+ pairs/);
  await expect(motion).not.toContainText('lost');
  await page.keyboard.press('Control+z');
  await expect(motion).toContainText(/motion is lost in \d+/, { timeout: 30_000 });
  await page.keyboard.press('Control+Shift+z');
  await motion.getByRole('button', { name: 'Flow again' }).click();
  await expect(motion).not.toContainText('mixed between');
});

test('a join dissolves by hand or by number: both sides run on in the file, weighed exactly, and what is missing is said', async ({
  page,
}) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 20, 40);
  await addPiece(page, 'lit-30.mp4', [60, 80]);
  const handle = page.getByRole('slider', { name: 'Join before piece 2' });
  await expect(handle).toHaveAttribute('aria-valuetext', 'cut');
  const { x, y, width, height } = (await handle.boundingBox())!;
  const pull = async (by: number) => {
    await page.mouse.move(x + width / 2, y + height / 2);
    await page.mouse.down();
    await page.mouse.move(x + width / 2 + by, y + height / 2, { steps: 4 });
  };
  await pull(150);
  await expect(page.getByTestId('live')).toContainText('dissolve');
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(handle).toHaveAttribute('aria-valuetext', 'cut');
  await pull(-150);
  await page.mouse.up();
  await expect(page.getByLabel('Dissolve in')).toHaveValue(/^\d+ f$/);
  await enter(page, 'Dissolve in', '8');
  await expect(handle).toHaveAttribute('aria-valuetext', '8 frames');

  // Of the same clip to the place just before its end: there is nothing to run on with.
  await addPiece(page, 'lit-30.mp4', [0, 30]);
  await enter(page, 'Dissolve in', '2 b');
  await expect(page.getByText('There is no song to count beats of: it is a cut.')).toBeVisible();
  await enter(page, 'Dissolve in', '6');
  await expect(
    page.getByText('lit-30.mp4 has 3 pictures too few here: its beginning is held.'),
  ).toBeVisible();
  await expect(page.getByTestId('length')).toContainText('70 f');

  const expected = [...up(20, 39), ...up(60, 79), ...up(0, 29)].map((n) => lit([[n, 1]]));
  for (let j = 0; j < 8; j++) expected[16 + j] = lit([[36 + j, 7.5 - j], [56 + j, j + 0.5]]); // prettier-ignore
  for (let j = 0; j < 6; j++) expected[37 + j] = lit([[77 + j, 5.5 - j], [Math.max(0, j - 3), j + 0.5]]); // prettier-ignore
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const made = await weightsOf(await render(page, 'webm-vp9', join(WORK, 'dissolved.webm')));
  expect(made).toHaveLength(expected.length);
  const off = made.flatMap((row, i) => row.map((w, column) => Math.abs(w - expected[i]![column]!)));
  expect(Math.max(...off)).toBeLessThan(0.03);
});
