import { spawn } from 'node:child_process';
import { copyFile, mkdir, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { BlobReader, BlobWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { WORK, codedClip, readNumbers } from './coded-clips';
import {
  addBoomerang,
  addLook,
  expect,
  offerLooks,
  setSpan,
  startWith,
  test,
  times,
  turnOnce,
} from './journey';

/** Runs the command; its lines, and how it ended. */
async function command(
  ...args: string[]
): Promise<{ lines: Record<string, unknown>[]; code: number | null }> {
  const child = spawn('npx', ['tsx', 'server/render.ts', ...args], { cwd: join(import.meta.dirname, '..') });
  let out = '';
  child.stdout.on('data', (data: Buffer) => (out += data.toString()));
  const code = await new Promise<number | null>((resolve) => child.on('close', resolve));
  const lines = out.trim().split('\n').filter(Boolean);
  return { lines: lines.map((l) => JSON.parse(l) as Record<string, unknown>), code };
}

async function pngsOf(zip: string): Promise<Buffer[]> {
  const entries = await new ZipReader(
    new BlobReader(new Blob([new Uint8Array(await readFile(zip))])),
  ).getEntries();
  const files = entries.flatMap((e) => (e.directory ? [] : [e]));
  return Promise.all(
    files.map(async (e) => Buffer.from(await (await e.getData(new BlobWriter())).arrayBuffer())),
  );
}

test('a project file is rendered without a window as the browser renders it; a folder of them, some broken', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 10, 30);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'once' });
  await offerLooks(page);
  await addLook(page, 'Split');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const project = join(WORK, 'command.skipback.zip');
  await (await saved).saveAs(project);
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('File', { exact: true }).selectOption('png-frames');
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Save it/ }).click({ timeout: 60_000 });
  const inBrowser = join(WORK, 'command-browser.zip');
  await (await download).saveAs(inBrowser);

  const out = join(WORK, 'command-out.zip');
  const alone = await command(project, '--out', out, '--format', 'png-frames');
  expect(alone.code).toBe(0);
  expect(alone.lines.at(-1)).toEqual({ event: 'ended', good: 1, of: 1 });
  expect(alone.lines.find((l) => l['event'] === 'made')).toMatchObject({ frames: 76, asOrdered: true });
  const [here, there] = [await pngsOf(inBrowser), await pngsOf(out)];
  expect(there.length).toBe(76);
  here.forEach((png, i) => expect(png.equals(there[i]!)).toBe(true));

  const folder = join(WORK, 'command-queue');
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder);
  for (const name of ['one', 'two']) await copyFile(project, join(folder, `${name}.skipback.zip`));
  await writeFile(join(folder, 'broken.zip'), 'no zip');
  const to = join(WORK, 'command-files');
  const many = await command('--queue', folder, '--out', to, '--jobs', '2', '--quality', 'good');
  expect(many.code).toBe(2);
  expect(many.lines.at(-1)).toEqual({ event: 'ended', good: 2, of: 3 });
  expect(many.lines.find((l) => l['event'] === 'refused')).toMatchObject({
    sentence: expect.stringMatching(/not a project file/),
  });
  for (const name of ['one', 'two'])
    expect(await readNumbers(join(to, `${name}.mp4`))).toEqual(times(2, turnOnce(10, 30)));
});

test('what it is not told, or told wrong, is said in a line, and the code tells', async () => {
  for (const [args, sentence] of [
    [[], /--out/],
    [['a.zip', '--out', 'x', '--format', 'vhs'], /no format vhs/],
    [['nowhere.zip', '--out', 'x'], /no such file/],
  ] as const) {
    const { lines, code } = await command(...args);
    expect(code).toBe(2);
    expect(lines.find((l) => l['event'] === 'refused')).toMatchObject({
      sentence: expect.stringMatching(sentence),
    });
  }
});

/** All that a process has begun, and what that has begun. */
async function descendants(pid: number): Promise<number[]> {
  const parents = new Map<number, number>();
  for (const name of await readdir('/proc')) {
    const stat = /^\d+$/.test(name) && (await readFile(`/proc/${name}/stat`, 'utf8').catch(() => ''));
    const parent = stat && /\) \S (\d+)/.exec(stat)?.[1];
    if (parent) parents.set(Number(name), Number(parent));
  }
  const found = [pid];
  for (const one of found) for (const [child, parent] of parents) if (parent === one) found.push(child);
  return found.slice(1);
}

test('a project that lacks a clip is not called good; a browser that dies ends its file and not the others', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'), await codedClip('large'));
  await setSpan(page, 10, 250);
  await addBoomerang(page, { trips: 3, back: '100', turn: 'once' });
  await page
    .getByRole('button', { name: /large-30/ })
    .first()
    .click();
  await page.keyboard.press('Home');
  await page.keyboard.press('i');
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const whole = join(WORK, 'lacking-whole.skipback.zip');
  await (await saved).saveAs(whole);
  const lacking = join(WORK, 'lacking.skipback.zip');
  const writer = new ZipWriter(new BlobWriter());
  for (const entry of await new ZipReader(
    new BlobReader(new Blob([new Uint8Array(await readFile(whole))])),
  ).getEntries())
    if (!entry.directory && !entry.filename.includes('large-30'))
      await writer.add(entry.filename, new BlobReader(await entry.getData(new BlobWriter())));
  await writeFile(lacking, Buffer.from(await (await writer.close()).arrayBuffer()));

  const settings = ['--format', 'webm-vp9', '--quality', 'draft', '--scale', '0.2'];
  const alone = await command(lacking, '--out', join(WORK, 'lacking.webm'), ...settings);
  expect(alone.lines.at(-1)).toEqual({ event: 'ended', good: 0, of: 1 });
  expect(alone.code).not.toBe(0);
  expect(alone.lines.find((l) => l['event'] === 'made')).toMatchObject({
    asOrdered: false,
    lacks: [expect.stringMatching(/1 piece is not in it: the file of large-30.mp4 is not here/)],
  });

  const folder = join(WORK, 'dying');
  await rm(folder, { recursive: true, force: true });
  await mkdir(folder, { recursive: true });
  for (const name of ['a', 'b']) await copyFile(whole, join(folder, `${name}.skipback.zip`));
  const child = spawn('npx', ['tsx', 'server/render.ts', '--queue', folder, '--out', folder, ...settings], {
    cwd: join(import.meta.dirname, '..'),
  });
  let out = '';
  let killed = false;
  child.stdout.on('data', (data: Buffer) => {
    out += data.toString();
    if (killed || !out.includes('"progress"')) return;
    killed = true;
    void (async () => {
      for (const pid of await descendants(child.pid!)) {
        const line = await readFile(`/proc/${pid}/cmdline`, 'utf8').catch(() => '');
        if (line.includes('chrom') && !line.includes('--type=')) process.kill(pid, 'SIGKILL');
      }
    })();
  });
  const code = await new Promise<number | null>((resolve) => child.on('close', resolve));
  const lines = out
    .trim()
    .split('\n')
    .map((l) => JSON.parse(l) as Record<string, unknown>);
  expect(killed).toBe(true);
  expect(code).not.toBe(0);
  expect(lines.filter((l) => l['event'] === 'failed')).toHaveLength(1);
  expect(lines.find((l) => l['event'] === 'failed')).toMatchObject({
    sentence: expect.stringMatching(/browser/i),
  });
  // The other one is made by another browser.
  expect(lines.at(-1)).toEqual({ event: 'ended', good: 1, of: 2 });
});
