import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { BlobReader, BlobWriter, ZipReader } from '@zip.js/zip.js';
import { WORK, codedClip, probe, readNumbers, run } from './coded-clips';
import { addBoomerang, expect, setSpan, startWith, test, up } from './journey';
import { renderPictures } from './pictures';

/** Pictures of a file as RGB bytes, by a decoder that is not the browser's. */
async function rgbOf(path: string): Promise<Buffer[]> {
  const { width, height } = await probe(path);
  const raw = await run('ffmpeg', [
    '-i',
    path,
    '-fps_mode',
    'passthrough',
    '-pix_fmt',
    'rgb24',
    '-f',
    'rawvideo',
    '-',
  ]);
  const bytes = 3 * width * height;
  return Array.from({ length: raw.length / bytes }, (_, i) => raw.subarray(i * bytes, (i + 1) * bytes));
}

const apart = (a: Buffer, b: Buffer) => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!);
  return sum / a.length;
};

test('GIF, APNG and numbered pictures hold every frame as it is seen, for as long as it lasts', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 10, 22);
  await addBoomerang(page, { trips: 1, back: '100', turn: 'twice' });
  const shows = [...up(10, 21), ...up(10, 21).reverse()];
  await page.getByRole('link', { name: 'Render' }).first().click();
  const full = async () => page.getByLabel('Size', { exact: true }).selectOption('1');

  await page.getByLabel('File', { exact: true }).selectOption('png-frames');
  await full();
  const zip = await renderPictures(page, 'png-frames', 'frames.zip');
  const entries = await new ZipReader(
    new BlobReader(new Blob([new Uint8Array(await readFile(zip))])),
  ).getEntries();
  expect(entries.map((e) => e.filename).at(-1)).toMatch(/^[\w-]+-0024\.png$/);
  const pngs: Buffer[] = [];
  for (const entry of entries) {
    if (entry.directory) continue;
    const blob = await entry.getData(new BlobWriter());
    pngs.push(Buffer.from(await blob.arrayBuffer()));
  }

  await page.getByLabel('File', { exact: true }).selectOption('apng');
  await full();
  const apng = await renderPictures(page, 'apng', 'loop.png');
  expect(await readNumbers(apng)).toEqual(shows);
  const pictures = await rgbOf(apng);
  // Without loss: each picture is that of the sequence, byte for byte.
  for (const [i, png] of pngs.entries()) {
    const path = join(WORK, 'one.png');
    await writeFile(path, png);
    expect((await rgbOf(path))[0]!.equals(pictures[i]!)).toBe(true);
    if (i > 2) break;
  }

  await page.getByLabel('File', { exact: true }).selectOption('gif');
  await full();
  for (const dither of ['none', 'pattern', 'diffused']) {
    await page.getByLabel('Dither').selectOption(dither);
    const gif = await renderPictures(page, 'gif', `loop-${dither}.gif`);
    expect(await readNumbers(gif)).toEqual(shows);
    const seen = await rgbOf(gif);
    for (const [i, picture] of seen.entries()) expect(apart(picture, pictures[i]!)).toBeLessThan(7);
    const packets = (
      await run('ffprobe', ['-show_entries', 'packet=duration_time', '-of', 'csv=p=0', gif])
    ).toString();
    const lasts = packets
      .trim()
      .split(/\s+/)
      .map((v) => Number(v.replace(',', '')));
    // Hundredths of a second, which never add up to more than one.
    expect(Math.abs(lasts.reduce((a, b) => a + b, 0) - 24 / 30)).toBeLessThan(0.006);
  }
  await page.getByLabel('Pictures', { exact: true }).selectOption('2');
  const half = await renderPictures(page, 'gif', 'half.gif');
  expect(await readNumbers(half)).toEqual(shows.filter((_, i) => i % 2 === 0));
});
