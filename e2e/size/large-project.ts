/** A project whose clip is of several gigabytes: brought in, saved as a file, opened from it, and what is held of it. */
import { copyFile, mkdtemp, open, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type Page, chromium } from '@playwright/test';
import { HEADLESS_FLAGS } from '../../server/chromium';
import { createServer } from '../../server/server';
import { codedClip } from '../coded-clips';
import { bytesTaken } from '../machine';
import type { Figure } from './size';

const GIB = 2 ** 30;
const WHOLE_MS = 900_000;

/** A clip with a box of nothing behind its pictures, which takes no room on a disk that leaves out what is empty. */
async function swollen(folder: string, bytes: number): Promise<string> {
  const path = join(folder, 'swollen.mp4');
  await copyFile(await codedClip('bframes'), path);
  const file = await open(path, 'r+');
  const { size } = await file.stat();
  const box = Buffer.alloc(16);
  box.writeUInt32BE(1, 0);
  box.write('free', 4);
  box.writeBigUInt64BE(BigInt(bytes), 8);
  await file.write(box, 0, box.length, size);
  await file.truncate(size + bytes);
  await file.close();
  return path;
}

/** What the browser holds at most while something is done, bytes. */
async function mostHeld<T>(what: () => Promise<T>): Promise<{ result: T; most: number }> {
  let most = bytesTaken();
  const timer = setInterval(() => (most = Math.max(most, bytesTaken())), 500);
  try {
    return { result: await what(), most };
  } finally {
    clearInterval(timer);
  }
}

/** Profiles lie on the disk: one that is off the record keeps its files in memory. */
export async function ofLargeProject(gib: number): Promise<Figure[]> {
  const folder = await mkdtemp(join(tmpdir(), 'skip-back-large-'));
  const server = await createServer();
  await server.listen({ host: '127.0.0.1', port: 0 });
  const address = `http://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
  const inBrowser = async <T>(name: string, what: (page: Page) => Promise<T>) => {
    const options = { executablePath: '/usr/bin/chromium', args: HEADLESS_FLAGS, acceptDownloads: true };
    const profile = join(folder, name);
    const context = await chromium.launchPersistentContext(profile, { ...options, downloadsPath: folder });
    const page = context.pages()[0]!;
    await page.addInitScript('delete window.showSaveFilePicker');
    await page.goto(address);
    const held = await mostHeld(() => what(page));
    await context.close();
    await rm(profile, { recursive: true });
    return held;
  };
  const comesIn = async (page: Page, path: string) => {
    await page.locator('input[type=file]').first().setInputFiles(path);
    await page.getByLabel('Span out', { exact: true }).waitFor({ timeout: WHOLE_MS });
  };
  const project = join(folder, 'project.zip');
  try {
    const clip = await swollen(folder, gib * GIB);
    const saved = await inBrowser('first', async (page) => {
      await comesIn(page, clip);
      const coming = page.waitForEvent('download', { timeout: WHOLE_MS });
      await page.getByRole('button', { name: 'Save as a file' }).click();
      await (await coming).saveAs(project);
    });
    const opened = await inBrowser('second', (page) => comesIn(page, project));
    const figure = (words: string, bytes: number): Figure => ({
      ...{ words: `a project of ${gib} GB: memory while it ${words}`, value: bytes / 2 ** 20 },
      ...{ most: 1500, unit: 'MB' },
    });
    return [figure('comes in and is saved', saved.most), figure('is opened from its file', opened.most)];
  } finally {
    await server.close();
    await rm(folder, { recursive: true, force: true });
  }
}
