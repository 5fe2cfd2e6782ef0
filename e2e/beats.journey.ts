import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip, readNumbers } from './coded-clips';
import { addBoomerang, enter, expect, render, setSpan, startWith, test } from './journey';
import { BEATS, RATE, addSong, goTo, gridOf, inSound, tempo, toWeave, withClicks } from './music-hands';
import { clickTrack, readClicks } from './songs';

test('a song used from another instant on begins there: in the file, and in the grid', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  await enter(page, 'Song from', '5.2 s');
  await enter(page, 'Song begins at result frame', '30');
  await toWeave(page);
  await setSpan(page, 0, 150);
  const { clicks } = await readClicks(await render(page, 'mp4-h264', join(WORK, 'trimmed.mp4')));
  // What sounds at 5.2 s of the song is heard from one second on; nothing before.
  const wanted = BEATS.map((b) => b - 5.2 + 1).filter((at) => at >= 1 && at < 5);
  expect(clicks).toHaveLength(wanted.length);
  for (const [i, at] of wanted.entries()) expect(Math.abs(clicks[i]! - at)).toBeLessThan(0.012);
});

test('a beat is dragged, put back with Escape, and one is added; a beat’s keys move it finely', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const beat = page.getByRole('slider', { name: 'Bar 2, beat 1', exact: true });
  const was = Number(await beat.getAttribute('aria-valuenow'));
  const box = (await beat.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  const drag = async (dx: number) => {
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + dx, y, { steps: 4 });
  };
  await drag(14);
  await expect.poll(async () => Number(await beat.getAttribute('aria-valuenow'))).toBeGreaterThan(was + 0.1);
  await page.keyboard.press('Escape');
  await page.mouse.up();
  await expect(beat).toHaveAttribute('aria-valuenow', String(was));
  await drag(-8);
  await page.mouse.up();
  const moved = Number(await beat.getAttribute('aria-valuenow'));
  expect(moved).toBeLessThan(was - 0.05);
  await beat.focus();
  await page.keyboard.press('ArrowRight');
  await expect(beat).toHaveAttribute('aria-valuenow', String(Number((moved + 0.005).toFixed(3))));
  const count = async () => Number(/^\d+/.exec((await page.getByTestId('beats-count').textContent())!)![0]);
  const before = await count();
  const next = (await page.getByRole('slider', { name: 'Bar 2, beat 2', exact: true }).boundingBox())!;
  await page.mouse.dblclick((next.x + x) / 2 + 4, y - 2);
  await expect.poll(count).toBe(before + 1);
});

/** A Standard MIDI File of one track: events as delta time and bytes. */
function midiFile(ticksPerBeat: number, events: readonly (readonly [number, readonly number[]])[]): Buffer {
  const varied = (n: number): number[] => (n < 128 ? [n] : [(n >> 7) | 0x80, n & 0x7f]);
  const track = events.flatMap(([delta, bytes]) => [...varied(delta), ...bytes]);
  const size = Buffer.alloc(4);
  size.writeUInt32BE(track.length);
  const head = [0x4d, 0x54, 0x68, 0x64, 0, 0, 0, 6, 0, 0, 0, 1, ticksPerBeat >> 8, ticksPerBeat & 0xff];
  return Buffer.concat([Buffer.from([...head, 0x4d, 0x54, 0x72, 0x6b]), size, Buffer.from(track)]);
}

test('a MIDI file gives tempo, bars of three and kicks; one that is none gets its sentence', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const path = join(WORK, 'waltz.mid');
  const kick = (delta: number): (readonly [number, readonly number[]])[] => [
    [delta, [0x99, 36, 100]],
    [10, [0x89, 36, 0]],
  ];
  await writeFile(
    path,
    midiFile(96, [
      [0, [0xff, 0x58, 4, 3, 2, 24, 8]],
      [0, [0xff, 0x51, 3, 0x09, 0x27, 0xc0]],
      ...kick(0),
      ...kick(278),
      ...kick(278),
      [0, [0xff, 0x2f, 0]],
    ]),
  );
  const files = page.getByLabel('Read a MIDI file or markers');
  await files.setInputFiles(path);
  await expect(tempo(page)).toHaveValue('100.00');
  await expect(page.getByLabel('Beats a bar')).toHaveValue('3');
  await expect(page.getByTestId('beats-count')).toHaveText(/^34 beats, 3 accents$/);
  await files.setInputFiles({
    name: 'broken.mid',
    mimeType: 'audio/midi',
    buffer: Buffer.from('MThd nonsense'),
  });
  const sentence = page.getByText('This is not a Standard MIDI File, or it is damaged.');
  await expect(sentence).toBeVisible();
  // It stays long enough to be read.
  await page.waitForTimeout(4000);
  await expect(sentence).toBeVisible();
  await expect(tempo(page)).toHaveValue('100.00');
});

test('a MIDI file in 6/8 is counted in twos; one whose bars change says so, and bars are put right by hand', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const files = page.getByLabel('Read a MIDI file or markers');
  const signed = (delta: number, number: number, power: number): readonly [number, readonly number[]] => [
    delta,
    [0xff, 0x58, 4, number, power, 24, 8],
  ];
  const read = async (name: string, events: Parameters<typeof midiFile>[1]) => {
    const path = join(WORK, name);
    await writeFile(path, midiFile(96, [...events, [0, [0xff, 0x2f, 0]]]));
    await files.setInputFiles(path);
  };
  // Dotted quarters at 120 quarters a minute are 80 beats a minute.
  await read('six-eight.mid', [signed(0, 6, 3)]);
  await expect(tempo(page)).toHaveValue('80.00');
  await expect(page.getByLabel('Beats a bar')).toHaveValue('2');
  await expect(page.getByText(/^Bars change their length/)).toHaveCount(0);
  await read('bars-change.mid', [signed(0, 4, 2), signed(10 * 96, 3, 2)]);
  await expect(page.getByText('Bars change their length in bars-change.mid', { exact: false })).toContainText(
    'here every bar has 3 beats',
  );
  await expect(tempo(page)).toHaveValue('120.00');
  await page.getByRole('button', { name: 'Bars begin at the playhead' }).click();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(tempo(page)).toHaveValue('80.00');
});

test('Push shoves at the accents of a MIDI file, and takes the shape that Beats gives', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const path = join(WORK, 'kicks.mid');
  // Two beats a second; kicks at one, two and a half, and four seconds.
  await writeFile(
    path,
    midiFile(100, [
      [200, [0x99, 36, 100]],
      [300, [0x99, 36, 100]],
      [300, [0x99, 36, 100]],
      [0, [0xff, 0x2f, 0]],
    ]),
  );
  await page.getByLabel('Read a MIDI file or markers').setInputFiles(path);
  await expect(page.getByTestId('beats-count')).toHaveText(/3 accents$/);
  await enter(page, 'Envelope: rises over', '200');
  await enter(page, 'Envelope: holds', '100 ms');
  await toWeave(page);
  await setSpan(page, 0, 200);
  await page.getByRole('button', { name: /^Add Push\./ }).click();
  await enter(page, 'Push: Shove', '600');
  const stepsOf = async (name: string) => {
    const numbers = await readNumbers(await render(page, 'mp4-h264', join(WORK, name)));
    await toWeave(page);
    return numbers.slice(1).map((n, i) => n - numbers[i]!);
  };
  const sudden = await stepsOf('push.mp4');
  for (const kick of [30, 75]) {
    expect(sudden.slice(kick - 8, kick - 1)).toEqual(Array.from({ length: 7 }, () => 1));
    expect(Math.max(...sudden.slice(kick - 1, kick + 3))).toBeGreaterThanOrEqual(4);
  }
  await page.getByLabel('Push: Shape').selectOption('envelope');
  const shaped = await stepsOf('push-shaped.mp4');
  for (const kick of [30, 75]) {
    // Six frames of rise before the kick, three at the top.
    expect(Math.max(...shaped.slice(kick - 5, kick - 1))).toBeGreaterThanOrEqual(2);
    expect(Math.min(...shaped.slice(kick, kick + 2))).toBeGreaterThanOrEqual(4);
    expect(shaped.slice(kick - 16, kick - 8).every((s) => s === 1)).toBe(true);
  }
});

test('the envelope’s values are kept, undone, and refused where they make no sense', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const fall = page.getByLabel('Envelope: falls over');
  await expect(fall).toHaveValue('260 ms');
  await enter(page, 'Envelope: falls over', '400');
  await expect(fall).toHaveValue('400 ms');
  await fall.fill('soon');
  await fall.press('Enter');
  await expect(fall).toHaveAttribute('aria-invalid', 'true');
  await fall.press('Escape');
  await page.getByRole('group', { name: 'Band of the envelope' }).getByText('high').click();
  await expect(fall).toHaveValue('90 ms');
  await page.getByRole('group', { name: 'Band of the envelope' }).getByText('low').click();
  await expect(fall).toHaveValue('400 ms');
  await page.locator('body').press('Control+z');
  await expect(fall).toHaveValue('260 ms');
});

test('the bar under the playhead is looped, drawn wider from bar to bar, and follows the song', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await setSpan(page, 0, 250);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await goTo(page, 100);
  await page.keyboard.press('b');
  const chip = page.getByTestId('bar-loop');
  await expect(chip).toHaveText(/^loops bar \d ×$/);
  const ends = page.getByRole('slider', { name: 'Loop ends at beat' });
  const begins = page.getByRole('slider', { name: 'Loop begins at beat' });
  const at = async (slider: typeof ends) => Number(await slider.getAttribute('aria-valuenow'));
  const [from, to] = [await at(begins), await at(ends)];
  expect(to - from).toBe(4);
  expect(BEATS[from]! * RATE).toBeLessThanOrEqual(101);
  expect(BEATS[to]! * RATE).toBeGreaterThan(100);
  await page.keyboard.press('Space');
  const frame = async () =>
    Number(/frame (\d+) of/.exec((await page.getByRole('group', { name: 'Readouts' }).textContent())!)![1]);
  const seen: number[] = [];
  for (let i = 0; i < 24; i++) {
    seen.push(await frame());
    await page.waitForTimeout(120);
  }
  await page.keyboard.press('k');
  const [first, end] = [Math.round(BEATS[from]! * RATE), Math.round(BEATS[to]! * RATE)];
  for (const n of seen) {
    // The beats were found from the sound: a few milliseconds off, so by a frame where they round.
    expect(n).toBeGreaterThanOrEqual(first - 1);
    expect(n).toBeLessThan(end + 1);
  }
  // It came round: somewhere it went back.
  expect(seen.some((n, i) => i > 0 && n < seen[i - 1]!)).toBe(true);
  await ends.focus();
  await page.keyboard.press('ArrowRight');
  expect(await at(ends)).toBe(to + 4);
  await expect(chip).toHaveText(/^loops bars \d to \d ×$/);
  await page.keyboard.press('Shift+ArrowRight');
  await expect(chip).toHaveText(/^loops 9 beats from bar \d, beat 1 ×$/);
  await chip.click();
  await expect(chip).toHaveCount(0);
});

test('the click lies on the beats that are heard, higher where a bar begins', async ({ page }) => {
  await page.addInitScript(() => {
    const clicks: { at: number; hz: number }[] = [];
    const sounds: { at: number; offset: number }[] = [];
    Object.assign(window, { clicks, sounds });
    const tone = OscillatorNode.prototype.start;
    const begin = AudioBufferSourceNode.prototype.start;
    Object.assign(OscillatorNode.prototype, {
      start(this: OscillatorNode, at = 0) {
        clicks.push({ at, hz: this.frequency.value });
        tone.call(this, at);
      },
    });
    Object.assign(AudioBufferSourceNode.prototype, {
      start(this: AudioBufferSourceNode, at = 0, offset = 0) {
        sounds.push({ at, offset });
        begin.call(this, at, offset);
      },
    });
  });
  await page.reload();
  await startWith(page, await codedClip('bframes'));
  await addSong(page, await clickTrack('clicks.wav', BEATS, 20));
  const grid = await gridOf(page);
  await page.getByRole('main').getByRole('button', { name: 'Play', exact: true }).click();
  const heard = () =>
    page.evaluate(() => {
      const all = window as unknown as {
        clicks: { at: number; hz: number }[];
        sounds: { at: number; offset: number }[];
      };
      return { clicks: all.clicks, sounds: all.sounds };
    });
  await expect.poll(async () => (await heard()).clicks.length).toBeGreaterThan(10);
  await page.keyboard.press('Space');
  const { clicks, sounds } = await heard();
  const started = sounds[sounds.length - 1]!;
  const instants = clicks.map((c) => c.at - started.at + started.offset);
  for (const at of instants) expect(Math.min(...grid.map((b) => Math.abs(b - at)))).toBeLessThan(0.003);
  // The higher ones are those that begin bars: every fourth beat of the grid, and no other.
  const placeOf = (at: number) =>
    grid.reduce((best, b, i) => (Math.abs(b - at) < Math.abs(grid[best]! - at) ? i : best), 0);
  // None comes twice; that none is left out is tested beside the code, since a page that stalls leaves some out.
  const places = instants.map(placeOf);
  expect(places).toEqual([...new Set(places)].sort((a, b) => a - b));
  const high = clicks.flatMap((c, i) => (c.hz > 1500 ? [placeOf(instants[i]!)] : []));
  const low = clicks.flatMap((c, i) => (c.hz > 1500 ? [] : [placeOf(instants[i]!)]));
  expect(high.length).toBeGreaterThanOrEqual(2);
  for (const place of high) expect((place - high[0]!) % 4).toBe(0);
  for (const place of low) expect((place - high[0]!) % 4).not.toBe(0);
});

test('a Pattern in half beats swings: its steps are long and short in the file', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await setSpan(page, 100, 140);
  await page.getByRole('button', { name: /^Add Pattern\./ }).click();
  await enter(page, 'Pattern: Slices', '4');
  await enter(page, 'Pattern: Each step', '1/2 b');
  await page.getByLabel('Pattern: Steps as text').click();
  await enter(page, 'Pattern: Steps', '1> 3> 1> 3> 1> 3> 1> 3>');
  await enter(page, 'Pattern: Swing', '50');
  await inSound(page, () => enter(page, 'Song level', '-12'));
  const numbers = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'swing.mp4')));
  // Where a slice begins, the picture jumps.
  const starts = numbers.flatMap((n, i) => (i > 0 && Math.abs(n - numbers[i - 1]!) > 6 ? [i] : []));
  const lengths = [0, ...starts].map((s, i, all) => (all[i + 1] ?? numbers.length) - s);
  expect(lengths.length).toBe(8);
  for (let i = 0; i < 8; i += 2) {
    expect(lengths[i]! / lengths[i + 1]!).toBeGreaterThan(2);
    expect(Math.abs(lengths[i]! + lengths[i + 1]! - 0.48 * RATE)).toBeLessThanOrEqual(1);
  }
});
