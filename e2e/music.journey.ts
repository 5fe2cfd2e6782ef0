import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip, probe, readNumbers, soundingClip, whiteFrames } from './coded-clips';
import {
  addBoomerang,
  addLook,
  condition,
  down,
  enter,
  expect,
  offerLooks,
  removeCard,
  render,
  setSpan,
  startWith,
  test,
  up,
  WEAVE,
} from './journey';
import { ALONE, whileMachineKeepsUp } from './machine';
import { BEATS, RATE, addSong, gridOf, tempo, toWeave } from './music-hands';
import { clickTrack, readClicks } from './songs';
import { openDemo } from './stage';

test('the demo song is analysed: tempo, beats and accents, corrected by hand', async ({ page }) => {
  await openDemo(page);
  await addSong(page, join(import.meta.dirname, '..', 'demo', 'media', 'lamplighter.ogg'));
  await expect(tempo(page)).toHaveValue(/^10[78]\.\d+$/);
  const grid = await gridOf(page);
  const near = (at: number) => Math.min(...grid.map((b) => Math.abs(b - at)));
  for (let bar = 0; bar < 30; bar++) expect(near((bar * 4 * 60) / 108)).toBeLessThan(0.04);
  await page.getByRole('button', { name: 'Double', exact: true }).click();
  await expect(tempo(page)).toHaveValue(/^21[56]\.\d+$/);
  await page.getByRole('button', { name: 'Half', exact: true }).click();
  await enter(page, 'Tempo', '108');
  await expect(tempo(page)).toHaveValue('108.00');
  const count = () => page.getByTestId('beats-count').textContent();
  const before = await count();
  await page.getByRole('slider', { name: 'Bar 1, beat 2', exact: true }).focus();
  await page.keyboard.press('Delete');
  await expect.poll(count).not.toBe(before);
  await page.keyboard.press('Control+z');
  await expect.poll(count).toBe(before);
});

test('tapping along makes the grid; a bar is looped; the click can be heard', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  await page.getByRole('main').getByRole('button', { name: 'Play', exact: true }).click();
  await expect(page.getByRole('main').getByRole('button', { name: 'Stop', exact: true })).toBeVisible();
  for (let i = 0; i < 8; i++) {
    await page.waitForTimeout(300);
    await page.keyboard.press('t');
  }
  await expect(page.getByText(/^8 taps: \d/)).toBeVisible();
  await page.getByRole('button', { name: 'Use the tapped beats' }).click();
  await expect.poll(async () => Number(await tempo(page).inputValue())).toBeGreaterThan(120);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => Math.round(Number(await tempo(page).inputValue()))).toBe(125);
});

test('Land puts the mark on the beat in the file, a look flashes on every second, and both follow when the song slides', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  expect(Math.round(Number(await tempo(page).inputValue()))).toBe(125);
  const grid = await gridOf(page);
  await toWeave(page);
  await setSpan(page, 100, 190);
  await page.getByRole('button', { name: /^Add Land\./ }).click();
  await enter(page, 'Land: Source frame', '150');
  await enter(page, 'Land: On beat', '3');
  await enter(page, 'Land: Speed before', '150');
  await enter(page, 'Land: Speed after', '50');
  // A look of every second beat, beside it.
  await offerLooks(page);
  await addLook(page, 'Flash');
  await condition(page, 'Flash', 'beats', { every: '2', 'frames after': '1' });
  await enter(page, 'Flash: Fades over', '0');
  const beat = grid.filter((b) => b >= 0)[3]!;
  let white: number[] = [];
  let total = 0;
  const landed = async (name: string) => {
    const file = await render(page, 'mp4-h264', join(WORK, name));
    await toWeave(page);
    white = await whiteFrames(file);
    const numbers = await readNumbers(file);
    total = numbers.length;
    return numbers.indexOf(150);
  };
  expect(await landed('land.mp4')).toBe(Math.round(beat * RATE));
  const flashes = white;
  const frames = grid.map((b) => Math.round(b * RATE));
  expect(flashes.length).toBeGreaterThanOrEqual(3);
  for (const [i, at] of flashes.entries()) {
    expect(frames).toContain(at);
    if (i > 0) expect(Math.abs(at - flashes[i - 1]! - 0.96 * RATE)).toBeLessThanOrEqual(1);
  }
  const slider = page.getByRole('slider', { name: 'Song, first frame' });
  await slider.focus();
  for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight');
  await expect(slider).toHaveAttribute('aria-valuenow', '7');
  expect(await landed('land-slid.mp4')).toBe(Math.round(beat * RATE) + 7);
  expect(white.filter((at) => at >= 7)).toEqual(flashes.map((at) => at + 7).filter((at) => at < total));
});

test('the song dragged under the cut snaps a beat to the playhead; markers are read; Escape puts back', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const markers = join(WORK, 'every-second.csv');
  await writeFile(
    markers,
    [
      'seconds,bar,beat',
      ...Array.from({ length: 20 }, (_, i) => `${i}.0,${1 + (i >> 2)},${1 + (i % 4)}`),
    ].join('\n'),
  );
  await page.getByLabel('Read a MIDI file or markers').setInputFiles(markers);
  await expect(tempo(page)).toHaveValue('60.00');
  await enter(page, 'Song level', '-6');
  await expect(page.getByLabel('Song level')).toHaveValue('-6 dB');
  await toWeave(page);
  await setSpan(page, 100, 220);
  await page.keyboard.press('s');
  await page.keyboard.press('Home');
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowRight');
  // The beat at one second, frame 30, is dragged to about frame 39: it snaps to the playhead at 40.
  const lane = page.getByRole('slider', { name: 'Song, first frame' });
  const y = (await lane.boundingBox())!.y + 30;
  const x = (frame: number) => 16 + (frame * (WEAVE - 32)) / 120;
  await page.mouse.move(x(30.2), y);
  await page.mouse.down();
  await page.mouse.move(x(36), y, { steps: 4 });
  await page.mouse.move(x(39.8), y, { steps: 4 });
  await expect(page.getByTestId('live')).toHaveText(/song \+10 f.*beat on the playhead/);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(lane).toHaveAttribute('aria-valuenow', '0');
  await page.mouse.move(x(30.2), y);
  await page.mouse.down();
  await page.mouse.move(x(39.8), y, { steps: 6 });
  await page.mouse.up();
  await expect(lane).toHaveAttribute('aria-valuenow', '10');
  // A mark on the frame that is shown there lands on the beat, and the lane says so.
  await page.keyboard.press('m');
  await expect(page.getByTestId('landing').first()).toHaveText('on the beat');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(lane).toHaveAttribute('aria-valuenow', '0');
});

test('two frames land on two beats, and Bounce turns on beats: exact in the file', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const beats = (await gridOf(page)).filter((b) => b >= 0);
  const on = beats.map((b) => Math.floor(b * RATE + 1e-6));
  await toWeave(page);
  await setSpan(page, 100, 200);
  await page.getByRole('button', { name: /^Add Land\./ }).click();
  await page.getByLabel('Land: Lands').selectOption('two');
  await enter(page, 'Land: Source frame', '130');
  await enter(page, 'Land: On beat', '1');
  await enter(page, 'Land: Second frame', '160');
  await enter(page, 'Land: Second beat', '4');
  const landed = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'land-two.mp4')));
  expect(landed[on[1]!]).toBe(130);
  expect(landed[on[4]!]).toBe(160);
  await toWeave(page);
  await removeCard(page, 'Land');
  await page.getByRole('button', { name: /^Add Bounce\./ }).click();
  await page.getByLabel('Bounce: Turns').selectOption('every');
  await page.getByLabel('Bounce: Source frames as text').click();
  await enter(page, 'Bounce: Source frames', '100, 160, 110, 150');
  await enter(page, 'Bounce: Soft turns', '0');
  const bounced = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'bounce-beats.mp4')));
  // Where the direction changes; a frame shown twice at a turn has none of its own.
  let way = 0;
  const turns = bounced.flatMap((n, i) => {
    const next = Math.sign(n - (bounced[i - 1] ?? n));
    const turned = next !== 0 && way !== 0 && next !== way;
    if (next !== 0) way = next;
    return turned ? [i] : [];
  });
  // A join lies on the whole frame nearest to its beat; the frame after it, or the next, goes the other way.
  for (const [i, at] of turns.entries()) expect([0, 1]).toContain(at - Math.round(beats[i]! * RATE));
});

test('Surge bursts on every second beat, and its length is typed in beats', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const grid = await gridOf(page);
  await toWeave(page);
  await setSpan(page, 0, 260);
  await page.getByRole('button', { name: /^Add Surge\./ }).click();
  await page.getByLabel('Surge: Bursts on').selectOption('second');
  await enter(page, 'Surge: Between beats', '50');
  await enter(page, 'Surge: On the beat', '600');
  await page.getByRole('button', { name: /^Add Fit\./ }).click();
  await enter(page, 'Fit: To', '8 b');
  await expect(page.getByLabel('Fit: To')).toHaveValue('8 beats');
  await page.getByLabel('Fit: By').selectOption('trimming');
  const numbers = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'surge.mp4')));
  expect(Math.abs(numbers.length - 8 * 0.48 * RATE)).toBeLessThanOrEqual(1);
  const bursts = numbers.flatMap((n, i) =>
    i > 0 && n - numbers[i - 1]! >= 4 && n - numbers[i - 1]! >= (numbers[i + 1] ?? n) - n ? [i] : [],
  );
  const first = bursts.filter((b, i) => i === 0 || b - bursts[i - 1]! > 8);
  expect(first.length).toBeGreaterThanOrEqual(3);
  for (const b of first) expect(Math.min(...grid.map((g) => Math.abs(g * RATE - b)))).toBeLessThan(2);
  for (const [i, b] of first.slice(1).entries())
    expect(Math.abs(b - first[i]! - 0.96 * RATE)).toBeLessThanOrEqual(2);
});

test('sound and picture are together in the file, at start, middle and end', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  await toWeave(page);
  await setSpan(page, 0, 240);
  await page.getByRole('slider', { name: 'Song, first frame' }).focus();
  await page.keyboard.press('Shift+ArrowLeft');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await enter(page, 'Times it plays', '2');
  for (const [format, name] of [
    ['mp4-h264', 'sound.mp4'],
    ['webm-vp9', 'sound.webm'],
  ] as const) {
    const file = await render(page, format, join(WORK, name));
    expect((await readNumbers(file)).length).toBe(480);
    const { clicks, lengthS } = await readClicks(file);
    const once = BEATS.map((b) => b - 10 / RATE).filter((b) => b >= 0 && b < 8);
    const wanted = [...once, ...once.map((b) => b + 8)];
    expect(clicks.length).toBe(wanted.length);
    // Well within a frame, everywhere.
    for (const [i, at] of wanted.entries()) expect(Math.abs(clicks[i]! - at)).toBeLessThan(0.006);
    expect(Math.abs(lengthS - 16)).toBeLessThan(0.03);
    // In the container it ends with the picture: a loop has no gap.
    expect(Math.abs((await probe(file)).durationS - 16)).toBeLessThan(0.001);
  }
  // To be looped it ends with a whole beat, as long in the container as the picture.
  await page.getByLabel('Sound', { exact: true }).selectOption('loop');
  await expect(
    page.getByText(/^\d+ whole beats (are heard, the last \d+ f are silent|, without a click)/),
  ).toBeVisible();
  const looped = await render(page, 'mp4-h264', join(WORK, 'looped.mp4'));
  expect(Math.abs((await probe(looped)).durationS - 16)).toBeLessThan(0.001);
});

test('the clip’s own sound runs along its path in the file, and is saved as a WAV', async ({ page }) => {
  const sound = await clickTrack('clip-sound.wav', [3.5, 4.8], 10);
  const clip = await soundingClip('sounding.mp4', sound);
  await startWith(page, clip);
  // Three to five seconds of the clip, there and back.
  await setSpan(page, 90, 150);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await page.getByLabel('The clips’ own sound').click();
  await page.keyboard.press('Escape');
  const file = await render(page, 'mp4-h264', join(WORK, 'own-sound.mp4'));
  expect(await readNumbers(file)).toEqual([...up(90, 149), ...down(149, 90)]);
  const { clicks } = await readClicks(file);
  const wanted = [0.5, 1.8, 2.2, 3.5];
  expect(clicks.length).toBe(4);
  // A click played backward begins with its tail: it is heard up to its own length earlier.
  for (const [i, at] of wanted.entries()) expect(Math.abs(clicks[i]! - at)).toBeLessThan(i < 2 ? 0.02 : 0.04);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'WAV, 48 kHz' }).click();
  const wav = join(WORK, 'own-sound.wav');
  await (await download).saveAs(wav);
  expect((await readClicks(wav)).lengthS).toBe(4);
});

test('the preview’s picture stays with the sound, in a loop and after seeking', ALONE, async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  await toWeave(page);
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await page.locator('body').press('Shift+L');
  await page.keyboard.press('Space');
  // What the picture is off by now; the middle of the readings, since each stall of the machine is one.
  const off = async () => {
    const { result } = await whileMachineKeepsUp(3, async () => {
      const readings: number[] = [];
      for (let i = 0; i < 7; i++) {
        await page.waitForTimeout(500);
        const stats = await page.getByTestId('stats').textContent();
        readings.push(Number(/off by (\d+) ms/.exec(stats!)?.[1] ?? NaN));
      }
      expect(readings.every((r) => r >= 0)).toBe(true);
      return readings.sort((x, y) => x - y)[3];
    });
    return result;
  };
  await page.waitForTimeout(3000);
  expect(await off()).toBeLessThan(1000 / RATE / 2);
  await page.keyboard.press('k');
  await page.keyboard.press('End');
  await page.keyboard.press('Space');
  await page.waitForTimeout(2500);
  expect(await off()).toBeLessThan(1000 / RATE / 2);
});

test('a file that is no song gets its sentence; the clip’s own sound is offered', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await page.getByRole('link', { name: 'Beats' }).click();
  await page
    .getByLabel('Choose a song')
    .setInputFiles({ name: 'notes.mp3', mimeType: 'audio/mpeg', buffer: Buffer.from('not a song at all') });
  await expect(page.getByText(/notes\.mp3 .*(not a sound file|could not be decoded)/)).toBeVisible();
  await page.getByRole('link', { name: 'Weave' }).click();
  await setSpan(page, 0, 60);
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await page.getByLabel('The clips’ own sound').click();
  await expect(page.getByText('Without sound that can be played: bframes-30.mp4.')).toBeVisible();
});

test('crowded bars of the demo song are proposed, and take a Pattern that stays in the bar', async ({
  page,
}) => {
  await openDemo(page);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Open Lamplighter, thirty seconds' }).click();
  const slider = page.getByRole('slider', { name: 'Song, first frame' });
  await expect(slider).toBeVisible();
  // The crowded bars are later in the song: it is slid back until they lie under the cut.
  await page.getByRole('link', { name: 'Beats' }).click();
  await enter(page, 'Song begins at result frame', '-900');
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(slider).toHaveAttribute('aria-valuenow', '-900');
  const frames = async () => (await page.getByTestId('length').textContent())!;
  const before = await frames();
  await page.keyboard.press('=');
  await page.getByRole('button', { name: 'add a Pattern' }).first().click();
  await expect(page.getByRole('group', { name: 'Pattern', exact: true })).toBeVisible();
  expect(Math.abs(parseInt(await frames()) - parseInt(before))).toBeLessThanOrEqual(1);
});
