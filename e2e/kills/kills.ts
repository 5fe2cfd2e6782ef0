/**
 * The page, or the whole browser, killed at moments of chance while something goes on, and what is there when it is opened
 * again. Nothing is told to anybody before: the processes are ended from outside.
 */
import { execFileSync } from 'node:child_process';
import { appendFile, copyFile, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { type BrowserContext, type Page, chromium } from '@playwright/test';
import { HEADLESS_FLAGS } from '../../server/chromium';
import { codedClip } from '../coded-clips';
import { between, oneOf, seeded } from '../damage/random';
import { clickTrack } from '../songs';

const ACTIVITIES = ['editing', 'importing', 'rendering', 'queue', 'analysing', 'tracking'] as const;
type Activity = (typeof ACTIVITIES)[number];

export interface Killed {
  readonly activity: Activity;
  readonly what: 'page' | 'browser';
  readonly afterMs: number;
  /** What is wrong afterwards; empty where nothing is. */
  readonly faults: readonly string[];
}

/** No dialog to save with, which cannot be driven; and what the compiler of this file leaves in functions that go to the page. */
const PREPARED = 'delete window.showSaveFilePicker; globalThis.__name = (f) => f;';

/** An edit older than this has to be there, milliseconds. */
const OLDEST_LOST_MS = 1000;

/** How long an empty page may take to be there. */
const NEW_PAGE_MS = 10_000;

/** A browser profile that outlives its browser. */
export class Victim {
  private context: BrowserContext | undefined;
  private page: Page | undefined;
  private project = '';
  private files = 0;

  private constructor(
    private readonly profile: string,
    private readonly random: () => number,
  ) {}

  /** Begins a profile with one project of one clip. */
  static async begin(address: string, seed: number): Promise<Victim> {
    const victim = new Victim(await mkdtemp(join(tmpdir(), 'skip-back-kills-')), seeded(seed));
    const page = await victim.open(address);
    await page.getByRole('button', { name: 'New project', exact: true }).click();
    await page.waitForURL(/project/);
    await page.getByLabel('Choose videos', { exact: true }).setInputFiles(await codedClip('bframes'));
    // From the first frame on, so that every end that is typed later is one.
    await page.getByLabel('Span in', { exact: true }).fill('0');
    await page.getByLabel('Span in', { exact: true }).press('Enter');
    victim.project = page.url();
    await page.waitForTimeout(800);
    return victim;
  }

  async end(): Promise<void> {
    await this.context?.close().catch(() => undefined);
    await rm(this.profile, { recursive: true, force: true });
  }

  private async open(address: string): Promise<Page> {
    this.context = await chromium.launchPersistentContext(this.profile, {
      executablePath: '/usr/bin/chromium',
      args: HEADLESS_FLAGS,
      viewport: { width: 1280, height: 800 },
      serviceWorkers: 'block',
      acceptDownloads: true,
    });
    const page = (this.page = this.context.pages()[0] ?? (await this.context.newPage()));
    await page.addInitScript(PREPARED);
    await page.goto(address);
    return page;
  }

  /** Does something, kills at a moment of chance, opens again, and looks. */
  async once(): Promise<Killed> {
    const { random } = this;
    const activity = oneOf(random, ACTIVITIES);
    const what = oneOf(random, ['page', 'browser'] as const);
    const afterMs = between(random, 0, 2600);
    const page = this.page!;
    const edits: { value: number; at: number }[] = [];
    let over = false;
    const editing = (async () => {
      const out = page.getByLabel('Span out', { exact: true });
      for (let n = 0; !over; n++) {
        const value = 40 + ((this.files * 37 + n) % 250);
        // It may be there without having been seen to be.
        const edit = { value, at: Infinity };
        edits.push(edit);
        await out.fill(String(value), { timeout: 3000 });
        await out.press('Enter', { timeout: 3000 });
        edit.at = performance.now();
        await page.waitForTimeout(90);
      }
    })().catch(() => undefined);
    const begun = this.begin(activity, page).catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 300 + afterMs));
    const killedAt = performance.now();
    await this.kill(what);
    over = true;
    await Promise.all([editing, begun]);
    const faults = await this.lookAgain(edits, killedAt, what);
    return { activity, what, afterMs, faults };
  }

  private async begin(activity: Activity, page: Page): Promise<void> {
    this.files++;
    if (activity === 'importing') {
      // Another file each time, to the program: something stands after its end.
      const path = join(this.profile, `clip-${this.files}.mp4`);
      await copyFile(await codedClip('large'), path);
      await appendFile(
        path,
        Buffer.from([0, 0, 0, 12, 0x66, 0x72, 0x65, 0x65, ...Buffer.from(String(1000 + this.files))]),
      );
      await page.getByLabel('Choose videos', { exact: true }).setInputFiles(path);
    } else if (activity === 'analysing')
      await page
        .getByLabel('Choose videos', { exact: true })
        .setInputFiles(await clickTrack(`kills-${this.files % 3}.wav`, [0.5, 1, 1.5, 2, 2.5, 3], 8));
    else if (activity === 'tracking') {
      await page.getByTestId('picture').click({ position: { x: 200, y: 120 } });
      await page.keyboard.press('t');
      await page.getByTestId('picture').click({ position: { x: 200, y: 120 } });
    } else if (activity !== 'editing') {
      await page.getByRole('link', { name: 'Render' }).first().click();
      await page.getByLabel('Times it plays').fill('20');
      await page.getByLabel('Times it plays').press('Enter');
      const name = activity === 'queue' ? 'Add to the queue' : /^Render \d+ frames/;
      await page.getByRole('button', { name }).click();
    }
  }

  private async kill(what: 'page' | 'browser'): Promise<void> {
    const rows = execFileSync('ps', ['-eo', 'pid,args'], { encoding: 'utf8', maxBuffer: 1 << 24 }).split(
      '\n',
    );
    const ours = rows.filter((r) => r.includes(this.profile));
    const isPart = (row: string) => row.includes('--type=');
    const chosen = ours.filter((r) =>
      what === 'browser' ? true : isPart(r) && r.includes('--type=renderer'),
    );
    for (const row of chosen.sort((a, b) => Number(isPart(a)) - Number(isPart(b)))) {
      try {
        process.kill(Number.parseInt(row, 10), 'SIGKILL');
      } catch {
        // It went with another.
      }
    }
    if (what === 'browser') await new Promise((resolve) => setTimeout(resolve, 250));
  }

  /** Opens the project again, in the browser if that is still there; whether it is open then. */
  private async reopen(what: 'page' | 'browser'): Promise<boolean> {
    const before = this.context!;
    // A page that was given a process which was killed at its birth never answers: then the browser is begun anew.
    const given = new Promise<undefined>((resolve) => setTimeout(resolve, NEW_PAGE_MS));
    const fresh =
      what === 'page' ? await Promise.race([before.newPage().catch(() => undefined), given]) : undefined;
    if (fresh) {
      await this.page!.close().catch(() => undefined);
      this.page = fresh;
      await fresh.addInitScript(PREPARED);
      await fresh.goto(this.project);
    } else {
      // The browser went, with its page or by itself.
      await this.kill('browser');
      await before.close().catch(() => undefined);
      await rm(join(this.profile, 'SingletonLock'), { force: true });
      await this.open(this.project);
    }
    await this.page!.getByLabel('Span out', { exact: true }).waitFor({ timeout: 15_000 });
    return true;
  }

  private async lookAgain(
    edits: readonly { value: number; at: number }[],
    killedAt: number,
    what: 'page' | 'browser',
  ): Promise<string[]> {
    const opened =
      (await this.reopen(what).catch(() => false)) || (await this.reopen('browser').catch(() => false));
    if (!opened) return ['the project did not open'];
    const faults: string[] = [];
    const page = this.page!;
    const out = page.getByLabel('Span out', { exact: true });
    const shown = Number(await out.inputValue());
    const due = edits.findLastIndex((e) => killedAt - e.at > OLDEST_LOST_MS);
    const found = edits.findLastIndex((e) => e.value === shown);
    if (due >= 0 && found < due)
      faults.push(
        `an edit ${Math.round(killedAt - edits[due]!.at)} ms old is missing: ${edits[due]!.value}, shown ${shown}`,
      );
    if (await page.getByText(/damaged|cannot be read|could not be read/).count())
      faults.push('something is said to be damaged');
    faults.push(...(await page.evaluate(looksWrong)));
    // What waited in the queue is offered, and not gone on with by itself; it is taken out for the next time.
    for (const remove of await page
      .getByRole('group', { name: 'Queue' })
      .getByRole('button', { name: /^Remove / })
      .all())
      await remove.click({ timeout: 1000 }).catch(() => undefined);
    return faults;
  }
}

/** In the page: files that are half there but offered as whole, and what ought to have been tidied away. */
async function looksWrong(): Promise<string[]> {
  const wrong: string[] = [];
  const rows = <T>(table: string) =>
    new Promise<T[]>((resolve, reject) => {
      const opening = indexedDB.open('skip-back');
      opening.onerror = () => reject(new Error('no database'));
      opening.onsuccess = () => {
        const all = opening.result.transaction(table).objectStore(table).getAll();
        all.onsuccess = () => {
          opening.result.close();
          resolve(all.result as T[]);
        };
      };
    });
  // Tidying goes on beside the page.
  await new Promise((resolve) => setTimeout(resolve, 400));
  const root = await navigator.storage.getDirectory();
  const sizes = async (folder: string) => {
    const found = new Map<string, number>();
    const handle = await root.getDirectoryHandle(folder).catch(() => undefined);
    if (!handle) return found;
    const files = handle as unknown as { values(): AsyncIterable<FileSystemFileHandle> };
    for await (const file of files.values()) found.set(file.name, (await file.getFile()).size);
    return found;
  };
  const media = await sizes('media');
  const known = await rows<{ id: string; bytes: number; name: string }>('media');
  const songs = await rows<{ id: string; bytes: number; name: string }>('songs');
  for (const { id, bytes, name } of [...known, ...songs])
    if (media.get(id) !== bytes) wrong.push(`${name} is known as ${bytes} bytes and has ${media.get(id)}`);
  const projects = await rows<{
    document: { clips: { mediaId: string }[]; song: { mediaId: string } | null };
  }>('projects');
  const used = new Set(
    projects.flatMap(({ document }) => [
      ...document.clips.map((c) => c.mediaId),
      ...(document.song ? [document.song.mediaId] : []),
    ]),
  );
  for (const id of used) if (!media.has(id)) wrong.push('a clip of a project is not there');
  for (const id of media.keys())
    if (!used.has(id)) wrong.push('a file that no project reads was not tidied away');
  if ((await sizes('renders')).size > 0) wrong.push('a half-made render was not tidied away');
  const queue = await rows<{ id: string; state: string; proof?: { bytes: number } }>('queue');
  const queued = await sizes('queued');
  for (const { id, state, proof } of queue)
    if (state === 'done' && queued.get(id) !== proof?.bytes)
      wrong.push('a file of the queue is offered and not whole');
  return wrong;
}
