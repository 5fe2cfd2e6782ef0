/** `npm run render -- PROJECT.skipback.zip --out FILE`: renders projects without a window (docs/render.md). */
import { existsSync } from 'node:fs';
import { mkdir, readdir } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { basename, join } from 'node:path';
import { parseArgs } from 'node:util';
import { type Browser, chromium } from '@playwright/test';
import { HEADLESS_FLAGS, chromiumPath } from './chromium';
import { createServer } from './server';

/** How a run ended, for whoever started it. */
const EXIT = { good: 0, failed: 1, refused: 2, noBrowser: 3 } as const;

const ENDINGS: Record<string, string> = {
  ...{ 'mp4-h264': 'mp4', 'webm-vp9': 'webm', 'webm-av1': 'webm' },
  ...{ gif: 'gif', apng: 'png', 'png-frames': 'zip', 'jpeg-frames': 'zip' },
};

const say = (line: object): void => console.log(JSON.stringify(line));

/** What is to be rendered, and where each file goes. */
interface Task {
  readonly project: string;
  readonly out: string;
}

function refuse(sentence: string): never {
  say({ event: 'refused', sentence });
  process.exit(EXIT.refused);
}

const { values, positionals } = (() => {
  try {
    return parseArgs({
      allowPositionals: true,
      options: {
        out: { type: 'string' },
        queue: { type: 'string' },
        jobs: { type: 'string', default: '1' },
        format: { type: 'string', default: 'mp4-h264' },
        quality: { type: 'string', default: 'high' },
        scale: { type: 'string', default: '1' },
        loops: { type: 'string', default: '1' },
        every: { type: 'string', default: '1' },
        'loop-safe': { type: 'boolean', default: false },
        silent: { type: 'boolean', default: false },
      },
    });
  } catch (problem) {
    return refuse(problem instanceof Error ? problem.message : 'These arguments cannot be read.');
  }
})();

async function tasks(): Promise<Task[]> {
  const ending = ENDINGS[values.format];
  if (!ending) refuse(`There is no format ${values.format}. There are ${Object.keys(ENDINGS).join(', ')}.`);
  const { out, queue } = values;
  if (!out) refuse('Say where the file goes: --out FILE, or --out FOLDER with --queue.');
  if (queue === undefined) {
    if (positionals.length !== 1) refuse('Name one project file, or a folder of them with --queue.');
    return [{ project: positionals[0]!, out }];
  }
  const names = await readdir(queue).catch(() => refuse(`The folder ${queue} cannot be read.`));
  await mkdir(out, { recursive: true });
  const projects = names.filter((n) => n.endsWith('.zip')).sort();
  if (projects.length === 0) refuse(`There is no project file (.skipback.zip) in ${queue}.`);
  return projects.map((name) => ({
    project: join(queue, name),
    out: join(out, `${basename(name).replace(/(\.skipback)?\.zip$/, '')}.${ending}`),
  }));
}

type Ended = 'good' | 'failed' | 'refused';

/** Renders one project in a page of its own: whether the file is there as ordered, is not, or was never begun. */
async function render(browser: Browser, address: string, { project, out }: Task): Promise<Ended> {
  const context = await browser.newContext({ acceptDownloads: true, serviceWorkers: 'block' });
  const tell = (line: object) => say({ ...line, file: project });
  try {
    const page = await context.newPage();
    let ended: (how: Ended) => void = () => undefined;
    const end = new Promise<Ended>((resolve) => (ended = resolve));
    let asOrdered = false;
    await page.exposeFunction('told', (line: { event: string; asOrdered?: boolean }) => {
      tell(line);
      if (line.event === 'refused' || line.event === 'failed') ended(line.event);
      if (line.event === 'made') asOrdered = line.asOrdered === true;
    });
    page.on('crash', () => {
      tell({ event: 'failed', sentence: 'The browser ran out of memory.' });
      ended('failed');
    });
    page.on('download', (download) => {
      void download
        .saveAs(out)
        .then(() => {
          tell({ event: 'done', out, asOrdered });
          ended(asOrdered ? 'good' : 'failed');
        })
        .catch(() => {
          tell({ event: 'failed', sentence: `${out} cannot be written.` });
          ended('failed');
        });
    });
    await page.goto(`${address}/headless.html`);
    await page.getByLabel('Project file').setInputFiles(project);
    await page.waitForFunction(() => 'renderProject' in window);
    const order = {
      settings: {
        format: values.format,
        quality: values.quality,
        scale: Number(values.scale),
        loops: Number(values.loops),
        every: Number(values.every),
        loopSafe: values['loop-safe'],
      },
      sound: !values.silent,
    };
    await page.evaluate(
      (given) => (window as unknown as { renderProject(o: unknown): Promise<void> }).renderProject(given),
      order,
    );
    return await end;
  } catch (problem) {
    const missing = problem instanceof Error && /ENOENT|no such file/i.test(problem.message);
    tell({
      event: missing ? 'refused' : 'failed',
      sentence: missing ? 'There is no such file.' : String(problem),
    });
    return missing ? 'refused' : 'failed';
  } finally {
    await context.close();
  }
}

const left = await tasks();
const jobs = Number(values.jobs);
if (!Number.isInteger(jobs) || jobs < 1 || jobs > 64) refuse('--jobs is a number from 1 to 64.');
const built = join(import.meta.dirname, '..', 'web', 'dist', 'headless.html');
if (!existsSync(built)) refuse('The program is not built yet. Run: npm run build');
const executablePath = await chromiumPath();
if (!executablePath) {
  say({
    event: 'refused',
    sentence: 'There is no Chromium. Install it (on Debian: apt install chromium), or name it in CHROMIUM.',
  });
  process.exit(EXIT.noBrowser);
}
const server = await createServer();
await server.listen({ host: '127.0.0.1', port: 0 });
const address = `http://127.0.0.1:${(server.server.address() as AddressInfo).port}`;
const browser = await chromium.launch({ executablePath, args: HEADLESS_FLAGS });
const ends: Ended[] = [];
const count = left.length;
await Promise.all(
  Array.from({ length: Math.min(jobs, count) }, async () => {
    for (let task = left.shift(); task; task = left.shift()) ends.push(await render(browser, address, task));
  }),
);
await browser.close();
await server.close();
say({ event: 'ended', good: ends.filter((e) => e === 'good').length, of: count });
process.exitCode = ends.includes('failed')
  ? EXIT.failed
  : ends.includes('refused')
    ? EXIT.refused
    : EXIT.good;
