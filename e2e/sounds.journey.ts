import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { BlobReader, ZipReader } from '@zip.js/zip.js';
import { WORK, codedClip, readNumbers, run, soundingClip } from './coded-clips';
import { addBoomerang, enter, expect, removeCard, render, setSpan, startWith, test, WEAVE } from './journey';
import { BEATS, RATE, goTo, inSound, sheetGone, withClicks } from './music-hands';
import { loudness, pitchOf, readClicks, readSound, stretch, toneTrack } from './songs';

/** Renders and gives the sound of the file. */
async function heard(page: Page, name: string): Promise<Float32Array> {
  const file = await render(page, 'mp4-h264', join(WORK, name));
  await page.getByRole('link', { name: 'Weave' }).click();
  return readSound(file);
}

test('a clip slowed to half sounds an octave lower, or keeps its pitch when asked', async ({ page }) => {
  await startWith(page, await soundingClip('tone.mp4', await toneTrack('tone.wav', 500, 10)));
  await setSpan(page, 60, 120);
  await page.getByRole('button', { name: /^Add Speed\./ }).click();
  await enter(page, 'Speed: Speed', '50');
  await inSound(page, () => page.getByLabel('The clips’ own sound').click());
  const lower = stretch(await heard(page, 'lower.mp4'), 0.5, 3.5);
  expect(Math.abs(pitchOf(lower) - 250)).toBeLessThan(4);
  await inSound(page, () => page.getByRole('button', { name: 'stays', exact: true }).click());
  const same = stretch(await heard(page, 'same.mp4'), 0.5, 3.5);
  expect(Math.abs(pitchOf(same) - 500)).toBeLessThan(6);
  expect(loudness(same) / loudness(lower)).toBeGreaterThan(0.8);
});

test('a hold is silent, or the instant drawn out; the level counts', async ({ page }) => {
  await startWith(page, await soundingClip('tone.mp4', await toneTrack('tone.wav', 500, 10)));
  await setSpan(page, 60, 120);
  await page.getByRole('button', { name: /^Add Hold\./ }).click();
  await enter(page, 'Hold: At', '30');
  await enter(page, 'Hold: For', '30');
  await inSound(page, () => page.getByLabel('The clips’ own sound').click());
  const silent = await heard(page, 'silent-hold.mp4');
  expect(loudness(stretch(silent, 0.2, 0.9))).toBeGreaterThan(0.2);
  expect(loudness(stretch(silent, 1.1, 1.9))).toBeLessThan(0.004);
  expect(loudness(stretch(silent, 2.1, 2.9))).toBeGreaterThan(0.2);
  await inSound(page, async () => {
    await page.getByRole('button', { name: 'the instant drawn out' }).click();
    await enter(page, 'Clip level', '-6');
  });
  const drawn = await heard(page, 'drawn-hold.mp4');
  expect(loudness(stretch(drawn, 1.1, 1.9))).toBeGreaterThan(0.06);
  expect(Math.abs(pitchOf(stretch(drawn, 1.1, 1.9)) - 500)).toBeLessThan(30);
  const quieter = loudness(stretch(drawn, 0.2, 0.9)) / loudness(stretch(silent, 0.2, 0.9));
  expect(quieter).toBeGreaterThan(0.45);
  expect(quieter).toBeLessThan(0.56);
});

test('the path makes sounds by itself: a thump at the hold, a swell under the way back, each with its switch', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 60, 120);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await page.getByRole('button', { name: /^Add Hold\./ }).click();
  await enter(page, 'Hold: At', '30');
  await enter(page, 'Hold: For', '15');
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  const sheet = page.getByRole('group', { name: 'Sound', exact: true });
  await expect(sheet).toContainText('Thumps 1');
  await expect(sheet).toContainText('Reverse swells 1');
  await expect(sheet).toContainText('Whooshes 0');
  await page.getByLabel('Thumps', { exact: true }).click();
  await page.keyboard.press('Escape');
  await sheetGone(page);
  const thump = await heard(page, 'thump.mp4');
  expect(loudness(stretch(thump, 0, 0.97))).toBeLessThan(0.001);
  expect(loudness(stretch(thump, 1, 1.15))).toBeGreaterThan(0.05);
  // The way back begins at 75 frames and ends at 135.
  expect(loudness(stretch(thump, 3.5, 4.4))).toBeLessThan(0.001);
  await inSound(page, async () => {
    await page.getByLabel('Thumps', { exact: true }).click();
    await page.getByLabel('Reverse swells', { exact: true }).click();
    await enter(page, 'Reverse swells: level', '0');
  });
  const swell = await heard(page, 'swell.mp4');
  expect(loudness(stretch(swell, 1, 1.3))).toBeLessThan(0.001);
  const [early, late] = [stretch(swell, 2.6, 3.2), stretch(swell, 3.9, 4.45)].map(loudness);
  expect(late!).toBeGreaterThan(4 * early!);
});

test('every surge gets its whoosh, a scratch its record: heard where they are, nowhere else', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await setSpan(page, 0, 260);
  await page.getByRole('button', { name: /^Add Surge\./ }).click();
  await page.getByLabel('Surge: Bursts on').selectOption('second');
  await enter(page, 'Surge: On the beat', '500');
  await inSound(page, async () => {
    await enter(page, 'Song level', '-60');
    await page.getByLabel('Whooshes', { exact: true }).click();
  });
  const sound = await heard(page, 'whooshes.mp4');
  // Every second beat from the first on: 0.4 s, then each 0.96 s.
  for (let n = 1; n < 4; n++) {
    const beat = BEATS[2 * n]!;
    expect(loudness(stretch(sound, beat - 0.02, beat + 0.12))).toBeGreaterThan(0.02);
    expect(loudness(stretch(sound, beat + 0.45, beat + 0.75))).toBeLessThan(0.002);
  }
  await removeCard(page, 'Surge');
  await page.getByRole('button', { name: /^Add Scratch\./ }).click();
  await enter(page, 'Scratch: At', '60');
  await inSound(page, () => page.getByLabel('Record scratches', { exact: true }).click());
  const scratch = await heard(page, 'scratch.mp4');
  expect(loudness(stretch(scratch, 0.2, 1.7))).toBeLessThan(0.001);
  expect(loudness(stretch(scratch, 2.3, 3.4))).toBeGreaterThan(0.02);
});

test('a sound placed by hand is moved onto a beat, lengthened, follows the song, and is in the file', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await setSpan(page, 0, 120);
  await goTo(page, 20);
  await inSound(page, async () => {
    await enter(page, 'Song level', '-60');
    await page.getByLabel('Place a reverse swell at the playhead').click();
  });
  const placed = page.getByRole('slider', { name: 'reverse swell placed by hand, frame' });
  await expect(placed).toHaveAttribute('aria-valuenow', '20');
  const perFrame = (WEAVE - 32) / 120;
  const box = (await placed.boundingBox())!;
  const y = box.y + box.height / 2;
  // The beat at 0.88 s lies on frame 26: dragged to about there it snaps.
  await page.mouse.move(box.x + 20, y);
  await page.mouse.down();
  await page.mouse.move(box.x + 20 + 4 * perFrame, y, { steps: 3 });
  await page.mouse.move(box.x + 20 + 6.3 * perFrame, y, { steps: 3 });
  await expect(page.getByTestId('live')).toHaveText(/at 26 . beat/);
  await page.mouse.up();
  await expect(placed).toHaveAttribute('aria-valuenow', '26');
  await placed.press('ArrowRight');
  await expect(placed).toHaveAttribute('aria-valuenow', '27');
  await placed.press('Enter');
  await enter(page, 'Placed: begins at', '30');
  await enter(page, 'Placed: length', '1.5 s');
  await enter(page, 'Placed: level', '0');
  await page.keyboard.press('Escape');
  await sheetGone(page);
  await expect(placed).toHaveAttribute('aria-valuenow', '30');
  const sound = await heard(page, 'placed.mp4');
  expect(loudness(stretch(sound, 0, 0.98))).toBeLessThan(0.001);
  expect(loudness(stretch(sound, 2.2, 2.48))).toBeGreaterThan(0.05);
  expect(loudness(stretch(sound, 2.53, 3.9))).toBeLessThan(0.002);
  // With the song by default: slid by ten frames it goes along; with the picture it stays.
  const song = page.getByRole('slider', { name: 'Song, first frame' });
  await song.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect(placed).toHaveAttribute('aria-valuenow', '40');
  await placed.press('Enter');
  await page.getByLabel('Placed: stays with').selectOption('result');
  await page.keyboard.press('Escape');
  await sheetGone(page);
  await song.focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await expect(placed).toHaveAttribute('aria-valuenow', '40');
  await placed.focus();
  await page.keyboard.press('Delete');
  await expect(placed).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(placed).toHaveCount(1);
});

test('a sound of one’s own is placed like a made one, from a second of it, backward, and goes with the project', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 120);
  await goTo(page, 30);
  // A second of 400 Hz, then one of 900 Hz.
  const [low, high] = [await toneTrack('low.wav', 400, 1), await toneTrack('high.wav', 900, 1)];
  const path = join(WORK, 'two tones of a very long name for a sound, twice as long as any row.flac');
  await run('ffmpeg', ['-y', '-i', low, '-i', high, '-filter_complex', 'concat=n=2:v=0:a=1', path]);
  await inSound(page, async () => {
    const chooser = page.waitForEvent('filechooser');
    await page.getByRole('button', { name: 'Import a sound' }).click();
    await (await chooser).setFiles(path);
    await expect(page.getByRole('button', { name: /^Place two tones/ })).toBeVisible();
  });
  const placed = page.getByRole('slider', { name: /^two tones.*placed by hand, frame$/ });
  await expect(placed).toHaveAttribute('aria-valuenow', '30');
  const sound = await heard(page, 'own.mp4');
  expect(loudness(stretch(sound, 0, 0.98))).toBeLessThan(0.001);
  expect(Math.abs(pitchOf(stretch(sound, 1.1, 1.9)) - 400)).toBeLessThan(5);
  expect(Math.abs(pitchOf(stretch(sound, 2.1, 2.9)) - 900)).toBeLessThan(8);
  expect(loudness(stretch(sound, 3.05, 3.9))).toBeLessThan(0.001);

  await placed.press('Enter');
  await page.getByRole('button', { name: 'backward', exact: true }).click();
  await enter(page, 'Placed: from its second', '0,5');
  await enter(page, 'Placed: begins at', '0');
  await page.keyboard.press('Escape');
  await sheetGone(page);
  const turned = await heard(page, 'own-back.mp4');
  expect(Math.abs(pitchOf(stretch(turned, 0.05, 0.45)) - 900)).toBeLessThan(8);
  expect(Math.abs(pitchOf(stretch(turned, 0.55, 1.45)) - 400)).toBeLessThan(5);
  expect(loudness(stretch(turned, 1.55, 3.9))).toBeLessThan(0.001);

  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const zip = join(WORK, 'with-own-sound.zip');
  await (await download).saveAs(zip);
  const bytes = new Uint8Array(await readFile(zip));
  const names = (await new ZipReader(new BlobReader(new Blob([bytes]))).getEntries()).map((e) => e.filename);
  expect(names.filter((n) => n.startsWith('song/'))).toEqual([expect.stringMatching(/two tones.*\.flac$/)]);
  await page.reload();
  await expect(placed).toHaveAttribute('aria-valuenow', '0');
  // Another sound in its place; the file is still offered, as long as it is heard somewhere.
  await placed.press('Enter');
  await page.getByLabel('Placed: sound').selectOption('thump');
  await page.keyboard.press('Escape');
  await sheetGone(page);
  await expect(page.getByRole('slider', { name: 'thump placed by hand, frame' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(placed).toBeVisible();
});

test('made sounds and a surge in step: picture and sound of one file agree', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 60, 120);
  await page.getByRole('button', { name: /^Add Hold\./ }).click();
  await enter(page, 'Hold: At', '37');
  await enter(page, 'Hold: For', '20');
  await inSound(page, async () => {
    await page.getByLabel('Thumps', { exact: true }).click();
    await enter(page, 'Thumps: level', '6');
  });
  const file = await render(page, 'webm-vp9', join(WORK, 'thump.webm'));
  const numbers = await readNumbers(file);
  // The first of two equal frames is the one that is held.
  const held = numbers.findIndex((n, i) => numbers[i + 1] === n);
  const { clicks } = await readClicks(file);
  expect(Math.abs(clicks[0]! - held / RATE)).toBeLessThan(1 / RATE);
});
