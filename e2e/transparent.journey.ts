import { mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { BlobReader, BlobWriter, ZipReader } from '@zip.js/zip.js';
import { clearBlocks, clearClip, clearFilm } from './brought-clips';
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
import { renderPictures } from './pictures';

type Rgba = readonly [number, number, number, number];

/** Every frame of a file with what is there of each point, by a decoder that is not the browser's. */
async function rgbaOf(path: string): Promise<((x: number, y: number) => Rgba)[]> {
  // The usual decoder of VP9 leaves transparency out.
  const decoder = path.endsWith('.webm') ? ['-c:v', 'libvpx-vp9'] : [];
  const raw = await run('ffmpeg', [
    ...[...decoder, '-i', path, '-fps_mode', 'passthrough', '-vf', 'scale=in_color_matrix=bt709'],
    ...['-f', 'rawvideo', '-pix_fmt', 'rgba', '-'],
  ]);
  const bytes = 4 * 320 * 180;
  return Array.from({ length: raw.length / bytes }, (_, n) => (x, y) => {
    const at = n * bytes + 4 * (320 * y + x);
    return [raw[at]!, raw[at + 1]!, raw[at + 2]!, raw[at + 3]!];
  });
}

function expectBlocks(at: (x: number, y: number) => Rgba, n: number): void {
  const { whole, half } = clearBlocks(n);
  for (const [x, alpha] of [
    [whole + 15, 255],
    [half + 15, 128],
  ] as const) {
    const [r, g, b, a] = at(x, 90);
    expect(Math.abs(a - alpha)).toBeLessThan(6);
    // The colours are those of the clip, however little is there.
    for (const [seen, was] of [
      [r, 220],
      [g, 120],
      [b, 40],
    ] as const)
      expect(Math.abs(seen - was)).toBeLessThan(14);
  }
  for (const x of [whole - 8, half - 5, half + 38]) expect(at(x, 90)[3]).toBeLessThan(6);
  expect(at(whole + 15, 50)[3]).toBeLessThan(6);
}

test('what is transparent of a clip is so in WebM, APNG and PNG, frame by frame, and black where that is wanted', async ({
  page,
}) => {
  await startWith(page, await clearClip());
  await setSpan(page, 4, 16);
  await addBoomerang(page, { trips: 3, back: '100', turn: 'twice' });
  const trip = [...up(4, 15), ...up(4, 15).reverse()];
  const shows = [...trip, ...trip, ...trip];
  await page.getByRole('link', { name: 'Render' }).first().click();
  await expect(page.getByText('black; WebM VP9, APNG and PNG keep them')).toBeVisible();

  const film = await rgbaOf(await render(page, 'webm-vp9', join(WORK, 'clear.webm')));
  expect(film).toHaveLength(shows.length);
  for (const [i, n] of shows.entries()) expectBlocks(film[i]!, n);

  await page.getByLabel('Transparent parts').selectOption('black');
  const [first] = await rgbaOf(await render(page, 'webm-vp9', join(WORK, 'black.webm')));
  const [r, g, b, a] = first!(5, 5);
  expect(Math.max(r, g, b)).toBeLessThan(4);
  expect(a).toBe(255);
  await page.getByLabel('Transparent parts').selectOption('kept');

  await page.getByLabel('File', { exact: true }).selectOption('apng');
  await page.getByLabel('Size', { exact: true }).selectOption('1');
  const animated = await rgbaOf(await renderPictures(page, 'apng', 'clear-loop.png'));
  for (const [i, n] of shows.entries()) expectBlocks(animated[i]!, n);

  const zip = await renderPictures(page, 'png-frames', 'clear.zip');
  const bytes = new Uint8Array(await readFile(zip));
  const entries = await new ZipReader(new BlobReader(new Blob([bytes]))).getEntries();
  const folder = await mkdtemp(join(tmpdir(), 'clear-'));
  for (const i of [0, 17]) {
    const entry = entries[i]!;
    if (entry.directory) throw new Error('a folder among the pictures');
    const path = join(folder, `${i}.png`);
    await writeFile(path, Buffer.from(await (await entry.getData(new BlobWriter())).arrayBuffer()));
    expectBlocks((await rgbaOf(path))[0]!, shows[i]!);
  }
});

for (const [words, kind] of [
  ['VP8', 'webm'],
  ['ProRes, converted to VP9', 'mov'],
] as const)
  test(`a film with transparency (${words}) is read with it, forward and back`, async ({ page }) => {
    await startWith(page, await clearFilm(kind));
    await expect(page.getByText('can be transparent')).toHaveCount(0);
    await setSpan(page, 4, 16);
    await addBoomerang(page, { trips: 3, back: '100', turn: 'twice' });
    const trip = [...up(4, 15), ...up(4, 15).reverse()];
    const film = await rgbaOf(await render(page, 'webm-vp9', join(WORK, 'clear-again.webm')));
    expect(film).toHaveLength(3 * trip.length);
    for (const [i, at] of film.entries()) expectBlocks(at, trip[i % trip.length]!);
  });

test('transparency goes along with what moves the picture', async ({ page }) => {
  await startWith(page, await clearClip());
  await setSpan(page, 4, 8);
  await offerLooks(page);
  await addLook(page, 'Punch');
  await enter(page, 'Punch: Across', '-40');
  const film = await rgbaOf(await render(page, 'webm-vp9', join(WORK, 'moved.webm')));
  let moved = 0;
  for (const at of film)
    for (let x = 0; x < 320; x += 3) {
      const [r, , , a] = at(x, 90);
      // Colours are where something is there, and nowhere else.
      if (a > 240) expect(r).toBeGreaterThan(150);
      if (a > 240) moved++;
    }
  expect(moved).toBeGreaterThan(20);
  const { whole } = clearBlocks(4);
  expect(film[0]!(whole + 15, 90)[3]).not.toBe(255);
});
