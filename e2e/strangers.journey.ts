/** Files as strangers bring them: trimmed without loss, cut from streams, damaged, many clips in a row. */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { type CODED, WORK, codedClip, readNumbers, run } from './coded-clips';
import { enter, expect, render, startWith, test, up } from './journey';

/** Plays a whole clip once, forward, and gives the numbers that come out. */
async function wholeOf(page: Page, clip: string, frames: number, name: string): Promise<number[]> {
  await startWith(page, clip);
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', String(frames));
  const file = await render(page, 'mp4-h264', join(WORK, `out-${name}.mp4`));
  return readNumbers(file);
}

test('a file trimmed without loss shows, frame for frame, what others show of it', async ({
  page,
  stage,
}) => {
  const cuts: [string, keyof typeof CODED, string, string[]][] = [
    ['B-frames, in the middle of a group, MP4', 'bframes', 'mp4', ['-ss', '0.5']],
    ['B-frames, between two frames, MOV', 'bframes', 'mov', ['-ss', '1.017']],
    ['no B-frames, MP4', 'uneven', 'mp4', ['-ss', '0.7']],
    ['short groups, both ends, MP4', 'ntsc', 'mp4', ['-ss', '2.5', '-t', '2']],
  ];
  for (const [words, clip, ending, cut] of cuts) {
    const trimmed = join(WORK, `trimmed-${clip}.${ending}`);
    await run('ffmpeg', ['-y', ...cut, '-i', await codedClip(clip), '-c', 'copy', trimmed]);
    const wanted = await readNumbers(trimmed);
    await page.goto(stage.address);
    const shown = await wholeOf(page, trimmed, wanted.length, `trimmed-${clip}`);
    // Where frames are of uneven length, the even rate of the result shows long ones more than once.
    const once = shown.filter((n, i) => n !== shown[i - 1]);
    if (clip === 'uneven') {
      expect(once.every((n) => wanted.includes(n))).toBe(true);
      expect(once).toEqual(once.toSorted((a, b) => a - b));
      expect(once[0]).toBe(wanted[0]);
    } else expect(once, words).toEqual(wanted);
  }
});

test('a stream with open groups of pictures plays from its first frame and from any seek', async ({
  page,
}) => {
  const stream = join(WORK, 'open-groups.ts');
  await run('ffmpeg', [
    ...['-y', '-i', await codedClip('bframes'), '-c:v', 'libx264', '-crf', '18', '-preset', 'veryfast'],
    ...['-x264-params', 'open-gop=1:keyint=30:bframes=3', stream],
  ]);
  const wanted = await readNumbers(stream);
  expect(wanted).toEqual(up(0, 299));
  await startWith(page, stream);
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '300');
  await enter(page, 'Span in', '150');
  const file = await render(page, 'mp4-h264', join(WORK, 'out-open-groups.mp4'));
  expect(await readNumbers(file)).toEqual(up(150, 299));
  await page.getByRole('link', { name: 'Weave' }).click();
  await enter(page, 'Span in', '0');
  expect(await readNumbers(await render(page, 'mp4-h264', join(WORK, 'out-open-groups.mp4')))).toEqual(
    up(0, 299),
  );
});

test('after a broken packet the picture goes on at the next key frame, and it is said', async ({ page }) => {
  const broken = join(WORK, 'broken-packet.mp4');
  await run('ffmpeg', [
    '-y',
    '-i',
    await codedClip('bframes'),
    '-c:v',
    'libx264',
    '-g',
    '30',
    '-bf',
    '0',
    broken,
  ]);
  const bytes = await readFile(broken);
  // The packets lie one after the other in the file: ruin the 41st.
  const packets = JSON.parse(
    (
      await run('ffprobe', [
        '-select_streams',
        'v',
        '-show_entries',
        'packet=pos,size',
        '-of',
        'json',
        broken,
      ])
    ).toString(),
  ) as { packets: { pos: string; size: string }[] };
  const { pos, size } = packets.packets[40]!;
  bytes.fill(0xa5, Number(pos) + 6, Number(pos) + Number(size));
  await writeFile(broken, bytes);
  await startWith(page, broken);
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '100');
  await page.getByRole('link', { name: 'Render' }).first().click();
  const download = page.waitForEvent('download', { timeout: 90_000 });
  await page.getByRole('button', { name: /^Render \d+ frames?/ }).click();
  const file = join(WORK, 'out-broken.mp4');
  await (await download).saveAs(file);
  const shown = await readNumbers(file);
  expect(shown).toHaveLength(100);
  expect(shown.slice(0, 35)).toEqual(up(0, 34));
  expect(shown.slice(60)).toEqual(up(60, 99));
  // In between the good frame before stands, never black.
  for (const n of shown.slice(35, 60)) expect(n).toBeGreaterThan(20);
  await expect(page.getByTestId('render-proof')).toContainText(/source frames? (is|are) damaged/);
  // A still of one of them is what stands there too.
  await page.getByRole('link', { name: 'Weave' }).click();
  // The source, as before.
  await expect(page.getByTestId('source-frame')).toBeVisible();
  await page.keyboard.press('Home');
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByTestId('source-frame')).toHaveText('frame 50');
  const still = page.waitForEvent('download');
  await page.keyboard.press('p');
  const path = join(WORK, 'still-of-broken.png');
  await (await still).saveAs(path);
  expect(await readNumbers(path)).toEqual([shown[50]]);
});

test('whole clips one after the other keep their pictures', async ({ page }) => {
  const clips = [await codedClip('ntsc'), await codedClip('vp9'), await codedClip('bframes')];
  await startWith(page, ...clips);
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '200');
  for (const [name, frames] of [
    ['vp9-30.webm', '200'],
    ['bframes-30.mp4', '300'],
  ] as const) {
    await page.getByRole('button', { name: `Add a piece of ${name}` }).click();
    await enter(page, 'Span in', '0');
    await enter(page, 'Span out', frames);
  }
  const file = await render(page, 'mp4-h264', join(WORK, 'out-row.mp4'));
  expect(await readNumbers(file)).toEqual([...up(0, 199), ...up(0, 199), ...up(0, 299)]);
});

test('Motion JPEG is decoded picture by picture; what cannot be decoded is called by its name', async ({
  page,
}) => {
  // As on a machine without ffmpeg: elsewhere it would be converted.
  await page.route('**/convert', (route) =>
    route.fulfill({ json: { available: false, token: '', mostBytes: 0 } }),
  );
  const jpeg = join(WORK, 'pictures.mov');
  await run('ffmpeg', [
    '-y',
    '-i',
    await codedClip('vp9'),
    '-frames:v',
    '60',
    '-c:v',
    'mjpeg',
    '-q:v',
    '3',
    jpeg,
  ]);
  expect(await wholeOf(page, jpeg, 60, 'mjpeg')).toEqual(up(0, 59));
  const part2 = join(WORK, 'part2.mp4');
  await run('ffmpeg', ['-y', '-i', await codedClip('vp9'), '-frames:v', '10', '-c:v', 'mpeg4', part2]);
  await page.getByRole('link', { name: 'Weave' }).click();
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(part2);
  await expect(page.getByText('part2.mp4 is MPEG-4 Part 2, which this browser cannot decode.')).toBeVisible();
});
