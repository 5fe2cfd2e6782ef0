/**
 * A long sitting: edits of all kinds over five clips with looks, playing in between, and everything undone at the end.
 * What grows while somebody works shows here: memory, open pictures, the time a step takes.
 */
import { isDeepStrictEqual } from 'node:util';
import type { Page } from '@playwright/test';
import { codedClip } from '../coded-clips';
import { startWith } from '../journey';
import { bytesHeld } from '../machine';
import { between, oneOf, seeded } from '../damage/random';

const MOVES = ['Boomerang', 'Hold', 'Speed', 'Rewind', 'Stutter', 'Scratch', 'Step', 'Ramp'];
const LOOKS = ['Flash', 'Punch', 'Grade', 'Vignette', 'Blur', 'Shake'];
/** Pieces and moves above which the next edit takes one away. */
const MOST = { pieces: 10, moves: 4, looks: 3 };
/** Edits after which it plays, and for how long. */
const PLAYS = { every: 10, ms: 2500 };

export interface Sitting {
  readonly edits: ReadonlyMap<string, number>;
  /** Milliseconds from an edit to the page's next picture, on the same state: before all of it and after. */
  readonly stepMs: { readonly before: number; readonly after: number };
  /**
   * Bytes the page's process holds at the first state, played and at rest: after half of the edits were made and undone, and
   * after all of them. What is kept to be quick has found its size by the first; what grows with each edit is between them.
   */
  readonly bytes: { readonly before: number; readonly after: number };
  /** Decoded pictures that nobody had closed, at most at any rest. */
  readonly open: number;
  readonly late: { readonly frames: number; readonly of: number };
  readonly minutes: number;
  /** Whether undoing everything gave the first state exactly, and doing the half again the state it was undone from. */
  readonly same: boolean;
}

/** The project as it is kept, without when it was changed. */
const keptProject = (page: Page) =>
  page.evaluate(
    () =>
      new Promise<unknown>((resolve) => {
        const opening = indexedDB.open('skip-back');
        opening.onsuccess = () => {
          const all = opening.result.transaction('projects').objectStore('projects').getAll();
          all.onsuccess = () => {
            opening.result.close();
            resolve((all.result as { document: unknown }[])[0]!.document);
          };
        };
      }),
  );

/** Bytes that the page's process holds, after what nobody needs is let go. */
async function bytesOf(page: Page): Promise<number> {
  const session = await page.context().newCDPSession(page);
  await session.send('HeapProfiler.collectGarbage');
  await page.waitForTimeout(500);
  await session.send('HeapProfiler.collectGarbage');
  await session.detach();
  return bytesHeld();
}

const median = (values: readonly number[]): number =>
  values.toSorted((a, b) => a - b)[values.length >> 1] ?? 0;

/** Sits and works: `count` edits of seed `seed`, so slowly that all takes about `minutes`. */
export async function sit(page: Page, count: number, seed: number, minutes: number): Promise<Sitting> {
  const random = seeded(seed);
  const begun = performance.now();
  const button = (name: string | RegExp) => page.getByRole('button', { name, exact: true });
  const paths = [];
  for (const clip of ['bframes', 'large', 'vp9', 'ntsc', 'fast'] as const) paths.push(await codedClip(clip));
  await startWith(page, ...paths);
  for (const name of await page.getByRole('button', { name: /^Add a piece of / }).all()) await name.click();
  await page.waitForTimeout(6000);
  // What is undone goes back to where a project was opened.
  await page.reload();
  await page.getByTestId('length').filter({ hasText: /[1-9]/ }).waitFor();
  await page.keyboard.press('Shift+L');

  const stats = page.getByTestId('stats');
  const late = { frames: 0, of: 0 };
  let open = 0;
  const atRest = async () => {
    await page.waitForTimeout(700);
    const [, still] = /(\d+) open/.exec((await stats.textContent({ timeout: 5000 })) ?? '') ?? [];
    open = Math.max(open, Number(still ?? 0));
  };
  const play = async () => {
    await page.locator('body').press('Space');
    await page.waitForTimeout(PLAYS.ms);
    const [, lost, of] = /(\d+) late of (\d+)/.exec((await stats.textContent()) ?? '') ?? [];
    late.frames += Number(lost ?? 0);
    late.of += Number(of ?? 0);
    await page.locator('body').press('k');
    await atRest();
  };
  await page.locator('body').press('Home');
  await play();
  const first = await keptProject(page);
  const drawn = () =>
    page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));

  const type = async (label: string, value: number) => {
    const field = page.getByLabel(label, { exact: true });
    await field.fill(String(value));
    await field.press('Enter');
  };
  const pressWhile = async (name: string, keys: string) => {
    for (let n = 0; n < 2 * count && (await button(name).isEnabled()); n++)
      await page.locator('body').press(keys);
    await page.waitForTimeout(1500);
  };
  const undoAll = () => pressWhile('Undo', 'Control+z');
  const redoAll = () => pressWhile('Redo', 'Control+Shift+z');
  let same = true;
  /** Everything undone: what is kept then has to be the first state. */
  const atFirst = async () => {
    await undoAll();
    same &&= isDeepStrictEqual(await keptProject(page), first);
    await page.locator('body').press('Home');
    await play();
    return bytesOf(page);
  };
  /** The median of edits and their undoing, at the first state. */
  const stepAtFirst = async () => {
    const took: number[] = [];
    await page.locator('body').press('Home');
    for (let n = 0; n < 12; n++) {
      const at = performance.now();
      await type('Span out', 100 + n);
      await drawn();
      took.push(performance.now() - at);
    }
    await undoAll();
    return median(took);
  };
  const before = await stepAtFirst();
  const bytes = { before: 0, after: 0 };
  const pieces = page.getByRole('button', { name: /^Piece \d+/ });
  const taken = page.getByRole('button', { name: new RegExp(`^Take (${MOVES.join('|')}) away$`) });
  const looksTaken = page.getByRole('button', { name: new RegExp(`^Take (${LOOKS.join('|')}) away$`) });
  /** Where an edit goes: another piece now and then. */
  const choose = async () => {
    await page.locator('body').press('Home');
    for (let n = between(random, 0, 60); n > 0; n -= 10) await page.locator('body').press('Shift+ArrowRight');
  };
  const kinds: Record<string, () => Promise<unknown>> = {
    'span out': () => type('Span out', between(random, 60, 190)),
    'span in': () => type('Span in', between(random, 0, 50)),
    'a move': async () => {
      await button('Moves').click();
      if ((await taken.count()) >= MOST.moves) return taken.first().click();
      return page
        .getByRole('button', { name: new RegExp(`^Add ${oneOf(random, MOVES)}\\b`) })
        .first()
        .click();
    },
    'a move away': async () => ((await taken.count()) > 0 ? taken.last().click() : undefined),
    'a look': async () => {
      await button('Looks').click();
      if ((await looksTaken.count()) >= MOST.looks) return looksTaken.first().click();
      return page.getByRole('button', { name: new RegExp(`^Add ${oneOf(random, LOOKS)}\\.`) }).click();
    },
    'a piece twice': async () =>
      (await pieces.count()) < MOST.pieces
        ? button('Duplicate the piece').click()
        : button('Remove the piece').click(),
    'a piece elsewhere': async () => {
      const later = button('Later in the result');
      return (await later.isEnabled()) ? later.click() : button('Earlier in the result').click();
    },
    'a mark': () => page.locator('body').press('m'),
  };
  const names = Object.keys(kinds);
  const edits = new Map<string, number>();
  for (let n = 0; n < count; n++) {
    await choose();
    const kind = names[n % names.length]!;
    await page.mouse.move(640, 250);
    await kinds[kind]!();
    await drawn();
    edits.set(kind, (edits.get(kind) ?? 0) + 1);
    if (n % PLAYS.every === PLAYS.every - 1) await play();
    const due = begun + (minutes * 60_000 * (n + 1)) / count;
    await page.waitForTimeout(Math.max(0, due - performance.now()));
    if (n + 1 === count >> 1) {
      await page.waitForTimeout(1500);
      const half = await keptProject(page);
      bytes.before = await atFirst();
      await redoAll();
      same &&= isDeepStrictEqual(await keptProject(page), half);
    }
  }
  bytes.after = await atFirst();
  return {
    edits,
    stepMs: { before, after: await stepAtFirst() },
    bytes,
    open,
    late,
    minutes: (performance.now() - begun) / 60_000,
    same,
  };
}
