/** Pictures and looks as strangers bring them: damaged, turned, of other sizes and rates, taken away, very many. */
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { blockClip, bringIn, colours } from './brought-clips';
import { WORK, codedClip, readNumbers, run } from './coded-clips';
import { openEdited } from './edited-project';
import { addLook, expect, offerLooks, render, setSpan, startWith, test, up } from './journey';

test('what cannot be laid on says so; what is taken out is said by what used it, and comes back', async ({
  page,
}) => {
  await startWith(page, await blockClip());
  await setSpan(page, 0, 8);
  await offerLooks(page);
  await addLook(page, 'Overlay');
  const broken = join(WORK, 'broken.png');
  const title = join(WORK, 'whole.png');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'testsrc=s=400x300', '-frames:v', '1', title]);
  await writeFile(broken, (await readFile(title)).subarray(0, 60));
  const trouble = (text: string) =>
    page.getByRole('group', { name: 'Looks of this piece' }).getByRole('alert').filter({ hasText: text });
  await bringIn(page, 'Overlay: Picture of', broken);
  await expect(trouble('broken.png is a damaged PNG picture')).toBeVisible();
  const text = join(WORK, 'words.png');
  await writeFile(text, 'no picture at all');
  await bringIn(page, 'Overlay: Picture of', text);
  await expect(trouble('words.png is not a video or a picture that this program can read')).toBeVisible();
  // Animated, larger than the picture, and slower than the project: taken as it is.
  const moving = join(WORK, 'moving.gif');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'testsrc=s=700x500:r=10:d=1', moving]);
  await bringIn(page, 'Overlay: Picture of', moving);
  await expect(trouble('png')).toHaveCount(0);
  await expect(page.getByTitle(/^moving\.gif, 10\/s/)).toBeVisible();
  await page.getByRole('button', { name: 'Remove moving.gif' }).click();
  await expect(page.getByText('The clip that Overlay brings in is not there')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('The clip that Overlay brings in is not there')).toHaveCount(0);
  await render(page, 'webm-vp9', join(WORK, 'again.webm'));
});

test('a photograph stands as its camera was held, whichever way that was', async ({ page }) => {
  const plain = join(WORK, 'photo.jpg');
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', "nullsrc=s=64x32,geq=r='255*lt(X,32)':g=0:b='255*gte(X,32)'"],
    ...['-frames:v', '1', '-q:v', '2', '-update', '1', plain],
  ]);
  const bytes = await readFile(plain);
  // Where red is then: left, right, above, below. The first one makes the project's size.
  const held = [
    { orientation: 1, at: [0.25, 0.5] },
    { orientation: 3, at: [0.75, 0.5] },
    { orientation: 6, at: [0.5, 0.25] },
    { orientation: 8, at: [0.5, 0.75] },
  ] as const;
  const files: string[] = [];
  for (const { orientation } of held) {
    const tag = `4d4d002a00000008000101120003000000010${`00${orientation}`.slice(-3)}000000000000`;
    const exif = Buffer.concat([Buffer.from('Exif\0\0'), Buffer.from(tag, 'hex')]);
    const head = Buffer.from([0xff, 0xe1, 0, exif.length + 2]);
    const path = join(WORK, `held-${orientation}.jpg`);
    await writeFile(path, Buffer.concat([bytes.subarray(0, 2), head, exif, bytes.subarray(2)]));
    files.push(path);
  }
  await startWith(page, ...files);
  for (const { orientation, at } of held) {
    await page.getByTitle(`held-${orientation}.jpg, still`).click();
    await expect(async () => {
      const shot = join(WORK, 'held.png');
      await page.getByTestId('picture').screenshot({ path: shot });
      const rgb = await run('ffmpeg', [
        '-i',
        shot,
        '-vf',
        'scale=64:32',
        '-f',
        'rawvideo',
        '-pix_fmt',
        'rgb24',
        '-',
      ]);
      const [x, y] = [Math.round(64 * at[0]), Math.round(32 * at[1])];
      const [red, , blue] = rgb.subarray(3 * (64 * y + x));
      expect(red! - blue!, `held ${orientation}`).toBeGreaterThan(150);
      const across = 3 * (64 * (31 - y) + 63 - x);
      expect(rgb[across + 2]! - rgb[across]!, `held ${orientation}`).toBeGreaterThan(150);
    }).toPass({ timeout: 15_000 });
  }
});

test('two hundred looks with regions open, show, and are rendered', async ({ page }) => {
  await startWith(page, await blockClip());
  await setSpan(page, 0, 6);
  const look = (i: number) => ({
    ...{ id: `look ${i}`, look: 'flash', values: { fall: 0 } },
    region: {
      ...{ shape: 'rectangle', counts: 'clip', feather: 1 },
      keys: [{ at: 0, values: [9 + 16 * (i % 20), 11 + 18 * Math.floor(i / 20), 10, 10, 0] }],
    },
  });
  await openEdited(page, 'many', (project) => ({
    ...project,
    pieces: [{ ...project.pieces[0], looks: up(0, 99).map(look) }],
    looks: up(100, 199).map(look),
  }));
  await expect(page.getByRole('group', { name: 'Looks of this piece' })).toBeVisible();
  await expect(page.getByRole('group', { name: /^Look Flash/ })).toHaveCount(200);
  const seen = await colours(await render(page, 'webm-vp9', join(WORK, 'many.webm')));
  // Each whitens a part of its own: a row of ten by twenty over the picture.
  for (let n = 0; n < 6; n++)
    for (const [x, y] of [
      [9, 11],
      [153, 83],
      [297, 155],
    ] as const) {
      expect(seen(n, x, y)[1]).toBeGreaterThan(220);
      expect(seen(n, x + 9, y + 4)[1]).toBeLessThan(140);
    }
});

test('numbered pictures are one clip, in the order of their numbers, loose or zipped; a missing one is said', async ({
  page,
}) => {
  const folder = join(WORK, 'numbered');
  await mkdir(folder, { recursive: true });
  await run('ffmpeg', [
    '-y',
    '-i',
    await codedClip('bframes'),
    '-frames:v',
    '40',
    join(folder, 'shot_%d.png'),
  ]);
  // Frame n is the picture numbered n + 1; the twelfth is lost, and they come in any order.
  const left = up(1, 40).filter((n) => n !== 12);
  const shuffled = left.toSorted((a, b) => ((a * 7) % 41) - ((b * 7) % 41));
  await startWith(page, ...shuffled.map((n) => join(folder, `shot_${n}.png`)));
  await expect(page.getByText(/1 number is missing/)).toBeVisible();
  await expect(page.getByTitle(/^shot\.zip, 30\/s 1\.3s/)).toBeVisible();
  await setSpan(page, 0, 39);
  await expect(page.getByTestId('length')).toContainText('39 f');
  const file = await render(page, 'mp4-h264', join(WORK, 'from-pictures.mp4'));
  expect(await readNumbers(file)).toEqual(left.map((n) => n - 1));
  // As they went out, they come in.
  await page.getByLabel('File', { exact: true }).selectOption('jpeg-frames');
  await page.getByRole('button', { name: 'Render 39 frames' }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Save it/ }).click({ timeout: 60_000 });
  const zip = join(WORK, 'out-and-in.zip');
  await (await download).saveAs(zip);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await startWith(page, zip);
  await setSpan(page, 10, 30);
  const again = await render(page, 'mp4-h264', join(WORK, 'from-zip.mp4'));
  expect(await readNumbers(again)).toEqual(left.map((n) => n - 1).slice(10, 30));
});
