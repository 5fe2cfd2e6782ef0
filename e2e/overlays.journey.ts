/** What is laid over the picture: overlays, plates, mattes, the dress of a spool; each in the file. */
import { join } from 'node:path';
import { beepingClip, blockClip, bringIn, colours } from './brought-clips';
import { WORK, run } from './coded-clips';
import {
  addLook,
  condition,
  enter,
  expect,
  offerLooks,
  openCard,
  render,
  setSpan,
  startWith,
  test,
  up,
} from './journey';
import { columnClip, columnOf, lit, weightsOf } from './lit-clips';
import { loudness, readSound, stretch } from './songs';

test('an overlay of another rate fills eight seconds, with its sound: every frame of the file', async ({
  page,
}) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 0, 90);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '37.5 %');
  await expect(page.getByTestId('length')).toContainText('240 f');
  const overlaid = await beepingClip();
  await offerLooks(page);
  let presses = 0;
  await addLook(page, 'Overlay');
  presses++;
  await expect(page.getByText('Overlay has no picture yet.')).toBeVisible();
  await bringIn(page, 'Overlay: Picture of', overlaid);
  presses += 2;
  console.log(`an overlay that fills eight seconds, with its sound: ${presses} presses`);
  await expect(page.getByText('Overlay has no picture yet.')).toHaveCount(0);
  const file = await render(page, 'webm-vp9', join(WORK, 'overlaid.webm'));
  const shown = await weightsOf(file);
  expect(shown).toHaveLength(240);
  shown.forEach((weights, i) => {
    const own = Math.floor(0.375 * (i + 0.5));
    const laid = Math.floor(((i + 0.5) / 30) * 25) % 40;
    // Each as bright as it is; both in one column are no brighter than white.
    const sum = lit([[own, 1]]).map((v, c) => Math.min(1, v + lit([[laid, 1]])[c]!));
    weights.forEach((w, c) => expect(Math.abs(w - sum[c]!), `frame ${i}, column ${c}`).toBeLessThan(0.1));
  });
  const sound = await readSound(file);
  expect(sound.length / 48_000).toBeCloseTo(8, 1);
  for (let round = 0; round < 5; round++) {
    expect(loudness(stretch(sound, 1.6 * round + 0.03, 1.6 * round + 0.2))).toBeGreaterThan(0.1);
    expect(loudness(stretch(sound, 1.6 * round + 0.35, 1.6 * round + 1.5))).toBeLessThan(0.005);
  }
});

test('a picture with transparency lies on as it is, where it is put; one that is whole covers only its own box', async ({
  page,
}) => {
  await startWith(page, await blockClip());
  await setSpan(page, 0, 8);
  await offerLooks(page);
  // 64 by 64: its left half is red and whole, its right half blue and half there, its last rows nothing.
  const title = join(WORK, 'title.png');
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i'],
    "nullsrc=s=64x64,format=rgba,geq=r='255*lt(X,32)':g=0:b='255*gte(X,32)':a='if(gte(Y,48),0,if(lt(X,32),255,128))'",
    ...['-frames:v', '1', title],
  ]);
  await addLook(page, 'Overlay');
  await bringIn(page, 'Overlay: Picture of', title);
  await page.getByLabel('Overlay: Laid on', { exact: true }).selectOption('normal');
  await page.getByLabel('Overlay: Framing', { exact: true }).selectOption('centre');
  await enter(page, 'Overlay: Aside', '80');
  const put = await colours(await render(page, 'webm-vp9', join(WORK, 'title.webm')));
  const near = (seen: number[], wanted: number[]) =>
    seen.forEach((v, c) =>
      expect(Math.abs(v - wanted[c]!), `${seen.join()} for ${wanted.join()}`).toBeLessThan(26),
    );
  const ground = put(7, 4, 4);
  // The middle of the picture, 160 by 90, and 80 aside: from 208 to 272 across, 58 to 122 down.
  near(put(7, 224, 80), [255, 0, 0]);
  near(put(7, 256, 80), [0.5 * ground[0], 0.5 * ground[1], 0.5 * ground[2] + 128]);
  for (const [x, y] of [
    [224, 116],
    [200, 80],
    [280, 80],
  ] as const)
    near(put(7, x, y), ground);

  // Whole, half as large as the picture is high, turned to stand upright: a grey of 40 by 20, laid on as it is.
  await page.getByRole('link', { name: 'Weave' }).click();
  const grey = join(WORK, 'grey.png');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'color=c=0xa0a0a0:s=40x20', '-frames:v', '1', grey]);
  await openCard(page, 'Overlay');
  await bringIn(page, 'Overlay: Picture of', grey);
  // Taken hold of on the picture, it snaps back to the middle; arrows nudge it; Enter accepts, Escape leaves.
  await page.getByRole('button', { name: 'Place it on the picture' }).click();
  const bar = page.getByRole('group', { name: 'Edited on the picture' });
  await expect(bar).toContainText('Overlay, where it lies');
  const handle = page.getByRole('button', { name: 'Where it lies', exact: true });
  const at = (await handle.boundingBox())!;
  const scale = (await page.getByTestId('picture').boundingBox())!.width / 320;
  await page.mouse.move(at.x + at.width / 2, at.y + at.height / 2);
  await page.mouse.down();
  await page.mouse.move(at.x + at.width / 2 - 79 * scale, at.y + at.height / 2 + 1, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByLabel('Overlay: Aside', { exact: true })).toHaveValue('0 px');
  await handle.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(page.getByLabel('Overlay: Aside', { exact: true })).toHaveValue('10 px');
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('Enter');
  await expect(bar).toHaveCount(0);
  await page.getByRole('button', { name: 'Place it on the picture' }).click();
  await expect(bar).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(bar).toHaveCount(0);
  await enter(page, 'Overlay: Turn', '90');
  const turned = await colours(await render(page, 'webm-vp9', join(WORK, 'turned.webm')));
  near(turned(7, 160, 90), [160, 160, 160]);
  near(turned(7, 160, 74), [160, 160, 160]);
  near(turned(7, 174, 90), ground);
  near(turned(7, 160, 64), ground);
});

test('with a plate in front a trail passes behind; its region is all that is covered', async ({ page }) => {
  await startWith(page, await columnClip('lit-30.mp4', '30', 90));
  await setSpan(page, 36, 60);
  await offerLooks(page);
  let presses = 0;
  await addLook(page, 'Trail');
  await addLook(page, 'Plate');
  await page.getByLabel('Plate: region', { exact: true }).selectOption('rectangle');
  presses += 3;
  console.log(`a trail behind a plate: ${presses} presses, and its region put in place`);
  await enter(page, 'Plate: Its frame', '5');
  await enter(page, 'Plate: Feather', '0');
  await page.keyboard.press('Escape');
  const file = await render(page, 'webm-vp9', join(WORK, 'behind.webm'));
  const shown = await weightsOf(file);
  // A square of 180 / 2.2 pixels about the middle: the columns that lie in it whole are the 6th to the 9th.
  shown.forEach((weights, i) => {
    const n = 36 + i;
    weights.forEach((w, c) => {
      if (c < 6 || c > 9) {
        const copies = up(1, 5).map((k) => [n - 4 * k, 0.8 ** k] as const);
        const trail = Math.max(
          0,
          ...[[n, 1] as const, ...copies].filter(([f]) => columnOf(f) === c).map(([, v]) => v),
        );
        // Above and below the square all columns are the trail's: it is measured there too.
        if (c < 5 || c > 10) expect(Math.abs(w - trail), `frame ${i}, column ${c}`).toBeLessThan(0.1);
      }
    });
  });
  const seen = await colours(file);
  const own = await colours(await columnClip('lit-30.mp4', '30', 90));
  for (const n of up(0, 23))
    for (const x of [130, 150, 170, 190])
      expect(Math.abs(seen(n, x, 90)[1] - own(5, x, 90)[1]), `frame ${n} at ${x}`).toBeLessThan(20);
});

test('a tinted copy of what moves, beside it, fades over nine frames after the hit', async ({ page }) => {
  await startWith(page, await blockClip());
  await setSpan(page, 0, 40);
  await page.keyboard.press('Home');
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < 10; i++) await page.keyboard.press('ArrowRight');
  await page.keyboard.press('m');
  await offerLooks(page);
  let presses = 0;
  await addLook(page, 'Tint');
  await page.getByLabel('Tint: matte', { exact: true }).selectOption('differs');
  await page.getByLabel('Tint: clean plate', { exact: true }).selectOption('a clean plate');
  presses += 3;
  await expect(page.getByLabel('Tint: clean plate', { exact: true })).toContainText('Clean plate of block');
  // The matte itself: white where the block is, black elsewhere.
  if ((await page.getByTestId('source-frame').count()) > 0) await page.keyboard.press('s');
  await page.keyboard.press('w');
  await expect(page.getByText('White is where it applies.')).toBeVisible();
  await expect(async () => {
    const shot = join(WORK, 'grey.png');
    await page.getByTestId('picture').screenshot({ path: shot });
    const grey = await run('ffmpeg', [
      ...['-i', shot, '-vf', 'scale=320:180', '-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
    ]);
    const share = grey.reduce((n, v) => n + Number(v > 128), 0) / grey.length;
    expect(share).toBeGreaterThan(0.02);
    expect(share).toBeLessThan(0.04);
  }).toPass({ timeout: 15_000 });
  await page.keyboard.press('Escape');
  await expect(page.getByText('White is where it applies.')).toHaveCount(0);
  await enter(page, 'Tint: Aside', '80');
  await page.getByLabel('Tint: Colour', { exact: true }).fill('#ff0000');
  await condition(page, 'Tint', 'mark', {
    ...{ mark: 'mark 1', 'frames before': '0', 'frames after': '10' },
  });
  await page.getByRole('button', { name: /^Where Tint applies/ }).click();
  await enter(page, 'Tint: fades out over', '9');
  await page.keyboard.press('Escape');
  presses += 9;
  console.log(`a tinted copy of what moves, fading after the hit: ${presses} presses`);
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const seen = await colours(await render(page, 'webm-vp9', join(WORK, 'tinted.webm')));
  const own = await colours(await blockClip());
  for (const n of up(0, 39)) {
    const middle = 40 + 4 * n;
    // Frame 10 is the hit; its last frame has a tenth of it left.
    const strength = n < 10 || n >= 20 ? 0 : Math.min(1, (20 - n) / 10);
    const [r, g] = seen(n, middle + 80, 90);
    const ground = own(n, middle + 80, 90);
    expect(Math.abs(r - (ground[0] + (255 - ground[0]) * strength)), `red at frame ${n}`).toBeLessThan(22);
    expect(Math.abs(g - ground[1] * (1 - strength)), `green at frame ${n}`).toBeLessThan(22);
    // What moves is as it was, and beyond the copy nothing is tinted: in green, where the encoder is surest.
    for (const x of [middle, middle + 80 + 32, middle + 80 - 32])
      if (x < 320)
        expect(Math.abs(seen(n, x, 90)[1] - own(n, x, 90)[1]), `frame ${n} at ${x}`).toBeLessThan(16);
  }
});

test('the stretch that is spooled gets tape, a sign and its sound in three presses', async ({ page }) => {
  await startWith(page, await blockClip('long-block.mp4', 150));
  await setSpan(page, 0, 140);
  await page.getByRole('button', { name: /^Add Spool\./ }).click();
  await offerLooks(page);
  let presses = 0;
  for (const name of ['Worn tape', 'Sign']) {
    await page.getByRole('button', { name: new RegExp(`^Add ${name}\\.`) }).click();
    presses++;
    await expect(
      page.getByRole('button', { name: `Where ${name} applies: faster than 400 %` }),
    ).toBeVisible();
  }
  console.log(`the dress of a spool, with its sound: ${presses} presses`);
  expect(presses).toBeLessThanOrEqual(3);
  const file = await render(page, 'webm-vp9', join(WORK, 'spooled.webm'));
  const seen = await colours(file);
  const sound = await readSound(file);
  const frames = Math.round((sound.length / 48_000) * 30);
  // Where tape is worn the dim ground has grain and streaks; elsewhere it is smooth.
  const rough = up(0, frames - 1).map((n) => {
    const row = up(0, 60).map((i) => seen(n, 2 + 5 * i, 170)[1]);
    const mean = row.reduce((a, b) => a + b, 0) / row.length;
    return Math.sqrt(row.reduce((s, v) => s + (v - mean) ** 2, 0) / row.length) > 4;
  });
  const [first, last] = [rough.indexOf(true), rough.lastIndexOf(true)];
  expect(first).toBeGreaterThan(0);
  expect(last - first).toBeGreaterThan(10);
  expect(rough.slice(first, last + 1).filter(Boolean).length).toBeGreaterThan((last - first) * 0.9);
  expect(loudness(stretch(sound, (first + 3) / 30, (last - 2) / 30))).toBeGreaterThan(0.01);
  if (first > 12) expect(loudness(stretch(sound, 0, (first - 10) / 30))).toBeLessThan(0.003);
});
