/**
 * `npm run firefox`: Debian's Firefox opens the demo, edits, plays and renders a WebM, which is decoded again and counted.
 * Prints what the first page says will not work there, and fails where something else does not.
 */
import { existsSync } from 'node:fs';
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { AddressInfo } from 'node:net';
import puppeteer from 'puppeteer-core';
import { createServer } from '../server/server';
import { run } from './coded-clips';

const FIREFOX = process.env['FIREFOX'] ?? '/usr/bin/firefox-esr';
if (!existsSync(FIREFOX)) {
  console.log(`There is no Firefox at ${FIREFOX}: apt-get install firefox-esr, or name it with FIREFOX.`);
  process.exit(2);
}
const folder = await mkdtemp(join(tmpdir(), 'skip-back-firefox-'));
const server = await createServer();
await server.listen({ host: '127.0.0.1', port: 0 });
const address = `http://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
const browser = await puppeteer.launch({
  browser: 'firefox',
  executablePath: FIREFOX,
  headless: true,
  extraPrefsFirefox: {
    'browser.download.folderList': 2,
    'browser.download.dir': folder,
    'browser.download.useDownloadDir': true,
    'browser.helperApps.neverAsk.saveToDisk': 'video/webm,video/mp4,application/octet-stream',
  },
});

const until = async <T>(
  words: string,
  ask: () => Promise<T | undefined | false>,
  forS: number,
): Promise<T> => {
  const ends = performance.now() + 1000 * forS;
  for (;;) {
    const answer = await ask().catch(() => undefined);
    if (answer) return answer;
    if (performance.now() > ends) throw new Error(`waited for ${words}`);
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
};

try {
  const page = await browser.newPage();
  await page.setViewport({ width: 1280, height: 800 });
  page.on('console', (m) => m.type() === 'error' && console.log('console:', m.text().slice(0, 600)));
  page.on('pageerror', (error) => console.log('error of the page:', String(error)));
  await page.goto(address);
  const text = () => page.evaluate(() => document.body.innerText);
  await until('the shelf', async () => (await text()).includes('Open the demo'), 30);
  await new Promise((resolve) => setTimeout(resolve, 1500));
  const lacks = await page.$('[aria-label="In this browser"] button');
  await lacks?.click();
  console.log(
    'not here:',
    await page.evaluate(
      () =>
        document.querySelector('[aria-label="In this browser"]')?.textContent ??
        'nothing is said to be lacking',
    ),
  );
  const press = (name: string) =>
    page.evaluate((words) => {
      const found = [...document.querySelectorAll('button, a')].find((b) => b.textContent?.trim() === words);
      (found as HTMLElement | undefined)?.click();
      return found !== undefined;
    }, name);
  await press('Open the demo');
  const length = () => page.$eval('[data-testid=length]', (e) => e.textContent ?? '');
  await until('the demo', async () => !(await length()).startsWith('0 f'), 60);
  console.log('open:', await length());
  await page.screenshot({ path: join(folder, 'firefox.png') });

  const out = (await page.$('[aria-label="Span out"]'))!;
  await out.click({ count: 3 });
  await page.keyboard.type('150');
  await page.keyboard.press('Enter');
  const edited = await until(
    'the edit',
    async () => ((await length()).startsWith('0 f') ? false : length()),
    5,
  );
  console.log('edited:', edited);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press(' ' as never);
  const timecode = () => page.$eval('[data-testid=timecode]', (e) => e.textContent ?? '');
  await until('playing', async () => (await timecode()) !== '00:00:00:00', 10);
  await page.keyboard.press(' ' as never);
  console.log('plays:', await timecode());

  await press('Render');
  await until('render', async () => (await text()).includes('Render a file'), 10);
  await page.select('[aria-label="File"]', 'webm-vp9');
  await page.evaluate(() => {
    const button = [...document.querySelectorAll('button')].find((b) =>
      /^Render \d+ frames?/.test(b.textContent ?? ''),
    );
    button?.click();
  });
  const proof = await until(
    'the file',
    () =>
      page.$eval(
        '[data-testid=render-proof]',
        (e) => `${e.getAttribute('data-as-ordered')} ${e.textContent}`,
      ),
    60,
  );
  console.log('made:', proof);
  const name = await until(
    'the download',
    async () => (await readdir(folder)).find((n) => n.endsWith('.webm')),
    20,
  );
  const counted = await run('ffprobe', [
    ...[
      '-count_frames',
      '-select_streams',
      'v',
      '-show_entries',
      'stream=nb_read_frames',
      '-of',
      'csv=p=0',
      join(folder, name),
    ],
  ]);
  const frames = Number(counted.toString().trim());
  const ordered = Number(/^(\d+) f/.exec(edited)?.[1]);
  console.log(`decoded: ${frames} frames of ${ordered}`);
  if (frames !== ordered || !proof.startsWith('true')) process.exitCode = 1;
} catch (problem) {
  const [page] = (await browser.pages()).slice(-1);
  console.log(String(problem), await page?.evaluate(() => document.body.innerText.slice(0, 1500)));
  process.exitCode = 1;
} finally {
  await browser.close();
  await server.close();
  if (!process.env['KEEP']) await rm(folder, { recursive: true, force: true });
}
