/** `npm run render -- PROJECT.skipback.zip --out FILE`: renders projects without a window (docs/render.md). */
import { existsSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { parseArgs } from 'node:util';
import { chromium } from '@playwright/test';
import { chromiumPath, commandBrowser } from './chromium';
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

/** What the page tells. */
interface Told {
  readonly event: string;
  readonly asOrdered?: boolean;
  readonly damaged?: number;
}

/** How long nothing may be heard of a file, milliseconds. */
const QUIET_MS = 10 * 60_000;

/**
 * Renders one project in a browser of its own: whether the file is there as ordered, is not, or was never begun. Its profile,
 * and with it the project's clips and the file while it is made, lie on the disk, not in memory.
 */
async function render(executablePath: string, address: string, { project, out }: Task): Promise<Ended> {
  const tell = (line: object) => say({ ...line, file: project });
  const profile = await mkdtemp(join(tmpdir(), 'skip-back-render-'));
  const context = await chromium
    .launchPersistentContext(profile, {
      ...{ executablePath, acceptDownloads: true, serviceWorkers: 'block' },
      ...commandBrowser(),
    })
    .catch(() => undefined);
  if (!context) {
    await rm(profile, { recursive: true, force: true });
    tell({ event: 'failed', sentence: 'The browser ended before the file was begun.' });
    return 'failed';
  }
  try {
    const page = await context.newPage();
    let ended: (how: Ended) => void = () => undefined;
    const end = new Promise<Ended>((resolve) => (ended = resolve));
    let asOrdered = false;
    let quiet: ReturnType<typeof setTimeout> | undefined;
    const fail = (sentence: string) => {
      tell({ event: 'failed', sentence });
      ended('failed');
    };
    // Whatever becomes of it, it ends.
    const wait = () => {
      clearTimeout(quiet);
      quiet = setTimeout(() => fail('Nothing was heard of it for ten minutes: it was given up.'), QUIET_MS);
    };
    void end.then(() => clearTimeout(quiet));
    wait();
    await page.exposeFunction('told', (line: Told) => {
      wait();
      tell(line);
      if (line.event === 'refused' || line.event === 'failed') ended(line.event);
      if (line.event === 'made') asOrdered = line.asOrdered === true && !line.damaged;
    });
    page.on('crash', () => fail('The browser ran out of memory.'));
    const gone = () => fail('The browser ended before the file was made.');
    page.on('close', gone);
    context.on('close', gone);
    void end.then(() => {
      page.off('close', gone);
      context.off('close', gone);
    });
    page.on('download', (download) => {
      void download
        .saveAs(out)
        .then(() => {
          tell({ event: 'done', out, asOrdered });
          ended(asOrdered ? 'good' : 'failed');
        })
        .catch(() => fail(`${out} cannot be written.`));
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
    const begun = page.evaluate(
      (given) => (window as unknown as { renderProject(o: unknown): Promise<void> }).renderProject(given),
      order,
    );
    // It may end before that does, or without it.
    return await Promise.race([end, begun.then(() => end)]);
  } catch (problem) {
    const missing = problem instanceof Error && /ENOENT|no such file/i.test(problem.message);
    tell({
      event: missing ? 'refused' : 'failed',
      sentence: missing ? 'There is no such file.' : String(problem),
    });
    return missing ? 'refused' : 'failed';
  } finally {
    await context.close().catch(() => undefined);
    await rm(profile, { recursive: true, force: true, maxRetries: 5 }).catch(() => undefined);
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
const ends: Ended[] = [];
const count = left.length;
await Promise.all(
  Array.from({ length: Math.min(jobs, count) }, async () => {
    for (let task = left.shift(); task; task = left.shift())
      ends.push(await render(executablePath, address, task));
  }),
);
await server.close();
say({ event: 'ended', good: ends.filter((e) => e === 'good').length, of: count });
process.exitCode = ends.includes('failed')
  ? EXIT.failed
  : ends.includes('refused')
    ? EXIT.refused
    : EXIT.good;
