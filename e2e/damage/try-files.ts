/** Broken files brought in as a person would, one after the other, and what became of each. */
import { readFileSync, readdirSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { BrokenFile } from './broken-files';

export interface Tried {
  readonly file: BrokenFile;
  /** `used`: it is in the project; `said`: it is not, and there is a sentence why; `both`: what is there is used, and said. */
  readonly outcome: 'used' | 'said' | 'both' | 'silent' | 'hung';
  readonly sentence: string;
  readonly seconds: number;
  /** Most memory of the page's process meanwhile, MB. */
  readonly peakMb: number;
  /** How much more that is than before. */
  readonly grownMb: number;
}

/** Memory of the largest process of a page that is running, MB. */
function rendererMb(): number {
  const sizes = readdirSync('/proc').map((entry) => {
    if (!/^\d/.test(entry)) return 0;
    try {
      if (!readFileSync(`/proc/${entry}/cmdline`, 'utf8').includes('--type=renderer')) return 0;
      return Number(/VmRSS:\s*(\d+)/.exec(readFileSync(`/proc/${entry}/status`, 'utf8'))?.[1] ?? 0) / 1024;
    } catch {
      // It ended meanwhile.
      return 0;
    }
  });
  return Math.round(Math.max(0, ...sizes));
}

/** Seconds after which a file counts as hung. */
const PATIENCE_S = 10;
/** What the harness itself takes to see it, seconds. */
const LOOKING_S = 2;

/** Tries a file in the open, empty project: plays what came of it, and takes it out again. */
export const tryFile = (page: Page, file: BrokenFile): Promise<Tried> =>
  file.as === 'project' ? tryProject(page, file) : tryInProject(page, file);

/** Opens a project file on the shelf, and goes back to the project that was open. */
async function tryProject(page: Page, file: BrokenFile): Promise<Tried> {
  const beforeMb = rendererMb();
  const open = page.url();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  const began = performance.now();
  await page.getByLabel('Choose videos or a project file').setInputFiles(file.path);
  const said = page.getByRole('alert').first();
  const settled = await Promise.race([
    page.waitForURL(/project/, { timeout: (PATIENCE_S + LOOKING_S) * 1000 }),
    said.waitFor({ timeout: (PATIENCE_S + LOOKING_S) * 1000 }),
  ]).then(
    () => true,
    () => false,
  );
  const seconds = (performance.now() - began) / 1000;
  await page.waitForTimeout(300);
  const used = /project\//.test(page.url());
  const sentence = (await said.count()) > 0 ? await said.innerText() : '';
  const peakMb = rendererMb();
  await page.goto(open);
  await page.getByText('Drop a video here').waitFor();
  const outcome = !settled ? 'hung' : used ? (sentence ? 'both' : 'used') : sentence ? 'said' : 'silent';
  return { file, outcome, sentence, seconds, peakMb, grownMb: peakMb - beforeMb };
}

async function tryInProject(page: Page, file: BrokenFile): Promise<Tried> {
  const beforeMb = rendererMb();
  let peakMb = beforeMb;
  const watch = setInterval(() => (peakMb = Math.max(peakMb, rendererMb())), 150);
  const about = page.getByRole('group', { name: 'About files' });
  const began = performance.now();
  try {
    await page.getByLabel('Choose videos', { exact: true }).setInputFiles(file.path);
    const settled = await page
      .waitForFunction(
        () => !/Reading |Converting |Finding the beats/.test(document.body.innerText),
        undefined,
        {
          timeout: (PATIENCE_S + LOOKING_S) * 1000,
          polling: 100,
        },
      )
      .then(
        () => true,
        () => false,
      );
    const seconds = (performance.now() - began) / 1000;
    const saidNow = async () => (await about.innerText()).replace(/\s+/g, ' ').trim();
    const usedNow = async () =>
      file.as === 'song'
        ? (await page.getByRole('slider', { name: 'Song, first frame' }).count()) > 0
        : (await page.getByTestId('length').filter({ hasNotText: /^0 f/ }).count()) > 0;
    // What was read is worked out a moment later.
    const ends = performance.now() + 1000 * LOOKING_S;
    while (!(await saidNow()) && !(await usedNow()) && performance.now() < ends)
      await page.waitForTimeout(50);
    const [sentence, used] = [await saidNow(), await usedNow()];
    if (used && file.as === 'clip') {
      // Played, and looked at near its end.
      await page.keyboard.press('Space');
      await page.waitForTimeout(250);
      await page.keyboard.press('Space');
      await page.keyboard.press('End');
      await page.waitForTimeout(150);
    }
    const outcome = !settled ? 'hung' : used ? (sentence ? 'both' : 'used') : sentence ? 'said' : 'silent';
    peakMb = Math.max(peakMb, rendererMb());
    return { file, outcome, sentence, seconds, peakMb, grownMb: peakMb - beforeMb };
  } finally {
    clearInterval(watch);
    for (const dismiss of await page.getByRole('button', { name: /^Dismiss / }).all())
      await dismiss.click({ timeout: 1000 }).catch(() => undefined);
    const undo = page.getByRole('button', { name: /^Undo/ });
    for (let n = 0; n < 4 && (await undo.isEnabled().catch(() => false)); n++) await undo.click();
  }
}

/** Whether a whole file still comes in and shows its picture. */
export async function stillWorks(page: Page, path: string): Promise<boolean> {
  const tried = await tryFile(page, { path, words: 'a whole one', as: 'clip' });
  return tried.outcome === 'used';
}
