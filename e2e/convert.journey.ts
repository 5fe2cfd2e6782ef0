import { readdir } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type ClipRecipe, WORK, codedClip, codedLuma, drawnClip, readNumbers, run } from './coded-clips';
import { addBoomerang, expect, render, setSpan, startWith, test, up } from './journey';

const size = { width: 640, height: 360 };
const coded = (recipe: ClipRecipe) => drawnClip(recipe, (n, luma) => codedLuma(recipe, n, luma));

const CLIPS: readonly (ClipRecipe & { readonly words: string })[] = [
  {
    words: 'ProRes, 10 bit 4:2:2, at 29.97',
    ...{ file: 'prores.mov', ...size, frames: 90, rate: '30000/1001' },
    encode: ['-c:v', 'prores_ks', '-profile:v', '2', '-pix_fmt', 'yuv422p10le'],
  },
  {
    words: 'HEVC with B-frames',
    ...{ file: 'hevc.mp4', ...size, frames: 90, rate: '25' },
    encode: [
      '-c:v',
      'libx265',
      '-preset',
      'ultrafast',
      '-x265-params',
      'log-level=none',
      '-tag:v',
      'hvc1',
      '-pix_fmt',
      'yuv420p',
    ],
  },
  {
    words: 'MPEG-2 in a program stream',
    ...{ file: 'mpeg2.mpg', ...size, frames: 90, rate: '25' },
    encode: ['-c:v', 'mpeg2video', '-q:v', '3', '-bf', '2', '-g', '15'],
  },
];

// The server runs in this process: what it puts down is told from what those of other journeys do.
test.beforeEach(({ stage }) => {
  // Once the browser has begun: it keeps its own where it was.
  void stage;
  process.env['TMPDIR'] = WORK;
});
test.afterEach(() => {
  delete process.env['TMPDIR'];
});

const leftovers = async () => (await readdir(tmpdir())).filter((n) => n.startsWith('skip-back-convert-'));

for (const clip of CLIPS)
  test(`what the browser cannot decode is converted by the server, frame for frame: ${clip.words}`, async ({
    page,
  }) => {
    const before = await leftovers();
    await startWith(page, await coded(clip));
    await setSpan(page, 20, 60);
    await expect(page.getByTestId('length')).toContainText('40 f');
    const file = await render(page, 'mp4-h264', join(WORK, `from-${clip.file}.mp4`));
    expect(await readNumbers(file)).toEqual(up(20, 59));
    expect(await leftovers()).toEqual(before);
  });

test('odd sizes are kept, fields become whole frames', async ({ page }) => {
  const odd = join(WORK, 'odd-alpha.mov');
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', 'testsrc=s=321x241:r=25:d=1,format=argb', '-c:v', 'qtrle', odd],
  ]);
  const fields = join(WORK, 'fields.mpg');
  // A field later each time: frames of two instants, a comb where anything moves.
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', 'testsrc2=s=320x240:r=50:d=1', '-vf', 'tinterlace=interleave_top'],
    ...['-c:v', 'mpeg2video', '-flags', '+ildct+ilme', '-q:v', '3', '-field_order', 'tt', fields],
  ]);
  await startWith(page, odd, fields);
  await expect(page.getByRole('button', { name: /odd-alpha/ }).first()).toBeVisible();
  await expect(page.getByText(/It was interlaced: its fields are made into whole frames/)).toBeVisible();
  const sizes = await page.evaluate(async () => {
    const db = await new Promise<IDBDatabase>((resolve) => {
      const asked = indexedDB.open('skip-back');
      asked.onsuccess = () => resolve(asked.result);
    });
    const all = db.transaction('media').objectStore('media').getAll();
    await new Promise((resolve) => (all.onsuccess = resolve));
    return (all.result as { facts: { width: number; height: number } }[]).map(
      ({ facts }) => `${facts.width}x${facts.height}`,
    );
  });
  expect(sizes.toSorted()).toEqual(['320x240', '321x241']);
});

test('red, green and blue of a large film come as they are', async ({ page }) => {
  const path = join(WORK, 'orange-rgb.mov');
  const source = 'color=c=0xDC7828:s=1280x720:r=25:d=0.4,format=rgb24';
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', source, '-c:v', 'qtrle', path]);
  await startWith(page, path);
  const file = await render(page, 'mp4-h264', join(WORK, 'from-orange.mp4'));
  const raw = await run('ffmpeg', [
    ...['-i', file, '-frames:v', '1', '-vf', 'scale=in_color_matrix=bt709'],
    ...['-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'],
  ]);
  for (const [i, was] of [220, 120, 40].entries()) expect(Math.abs(raw[i]! - was)).toBeLessThan(4);
});

test('the sound of what is converted comes with it, and is heard in the file', async ({ page }) => {
  const path = join(WORK, 'heard-prores.mov');
  await run('ffmpeg', [
    ...['-y', '-f', 'lavfi', '-i', 'testsrc=s=320x180:r=25:d=3', '-f', 'lavfi', '-i', 'sine=880:d=3:r=48000'],
    ...['-c:v', 'prores_ks', '-c:a', 'pcm_s16le', path],
  ]);
  await startWith(page, path);
  await expect(page.getByText(/^Converted by the local server/)).toBeVisible();
  await page.getByRole('button', { name: 'Sound', exact: true }).click();
  await page.getByLabel('The clips’ own sound').click();
  await page.keyboard.press('Escape');
  const file = await render(page, 'mp4-h264', join(WORK, 'heard-from-prores.mp4'));
  const raw = await run('ffmpeg', ['-i', file, '-f', 's16le', '-ac', '1', '-']);
  const samples = Array.from({ length: raw.length / 2 }, (_, i) => raw.readInt16LE(2 * i));
  const rises = samples.filter((v, i) => i > 0 && v >= 0 && samples[i - 1]! < 0).length;
  expect(Math.abs(rises / (samples.length / 48_000) - 880)).toBeLessThan(5);
});

test('times that are uneven stay as they are; what was converted before is not converted again', async ({
  page,
}) => {
  const uneven = await codedClip('uneven');
  const hevc = join(WORK, 'uneven-hevc.mkv');
  const keeps = ['-fps_mode', 'passthrough', '-enc_time_base', '-1'];
  const encode = ['-c:v', 'libx265', '-preset', 'ultrafast', '-x265-params', 'log-level=none'];
  await run('ffmpeg', ['-y', '-i', uneven, ...keeps, ...encode, hevc]);
  await startWith(page, uneven);
  await setSpan(page, 30, 90);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  const length = await page.getByTestId('length').textContent();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await startWith(page, hevc);
  await setSpan(page, 30, 90);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  await expect(page.getByTestId('length')).toHaveText(length!);
  const asked: string[] = [];
  page.on('request', (r) => r.method() === 'POST' && asked.push(r.url()));
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await startWith(page, hevc);
  await expect(page.getByTestId('length')).toContainText(/\d+ f/);
  expect(asked).toEqual([]);
});

test('a conversion is stopped, and nothing stays; other pages and names are refused', async ({
  page,
  stage,
}) => {
  const before = await leftovers();
  const long: ClipRecipe = {
    file: 'long-hevc.mp4',
    ...size,
    frames: 900,
    rate: '25',
    encode: CLIPS[1]!.encode,
  };
  const path = await coded(long);
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(path);
  await page.getByText(/^Converting long-hevc\.mp4/).waitFor();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByText(/^Converting/)).toHaveCount(0);
  await expect.poll(leftovers).toEqual(before);
  const post = (headers: Record<string, string>) =>
    fetch(`${stage.address}/convert`, {
      method: 'POST',
      body: 'x',
      headers: { 'content-type': 'application/octet-stream', ...headers },
    });
  expect((await post({})).status).toBe(403);
  expect((await post({ 'x-skip-back-token': 'a'.repeat(48) })).status).toBe(403);
  const { token } = (await (await fetch(`${stage.address}/convert`)).json()) as { token: string };
  expect((await post({ 'x-skip-back-token': token, 'sec-fetch-site': 'cross-site' })).status).toBe(403);
  expect((await post({ 'x-skip-back-token': token, origin: 'http://elsewhere.example' })).status).toBe(403);
  // What is no film of any kind is refused with a sentence, and leaves nothing.
  const junk = await post({ 'x-skip-back-token': token });
  expect([junk.status, ((await junk.json()) as { sentence: string }).sentence]).toEqual([
    422,
    expect.stringMatching(/ffmpeg could not read it/),
  ]);
  await expect.poll(leftovers).toEqual(before);
});
