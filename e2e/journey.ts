import { test as base, expect, type Locator, type Page } from '@playwright/test';
import { type Stage, openStage } from './stage';

/** A journey gets a page on the shelf, in a profile with nothing in it; page errors fail it. */
export const test = base.extend<{ page: Page; allowedErrors: RegExp[] }, { stage: Stage }>({
  stage: [
    async ({}, give) => {
      const stage = await openStage();
      await give(stage);
      await stage.close();
    },
    { scope: 'worker' },
  ],
  allowedErrors: async ({}, give) => give([]),
  page: async ({ stage, allowedErrors }, give) => {
    const { page, errors } = await stage.emptiedPage();
    await give(page);
    await Promise.all(
      page
        .context()
        .pages()
        .map((p) => p.close()),
    );
    expect(errors.filter((e) => !allowedErrors.some((a) => a.test(e)))).toEqual([]);
  },
});
export { expect };

/** Makes an empty project and imports files into it. */
export async function startWith(page: Page, ...paths: string[]): Promise<void> {
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(paths);
  await expect(page.getByText(/^Reading /)).toHaveCount(0, { timeout: 60_000 });
}

/** Types into a field of the bench and enters it. */
export async function enter(page: Page, label: string, value: string): Promise<void> {
  const field = page.getByLabel(label, { exact: true });
  await field.fill(value);
  await field.press('Enter');
}

/** The line of a card that opens and folds it; folded, it tells what the move or look is set to. */
export const card = (page: Page, name: string): Locator =>
  page.getByRole('button', { name: new RegExp(`^${name}( .*)?: its values$`) });

/** How wide the weave is in the window of journeys: what the column leaves of it, pixels. */
export const WEAVE = 1280 - 318;

/** Opens the card of a move or a look, where it is folded. */
export async function openCard(page: Page, name: string, nth = 0): Promise<void> {
  const head = card(page, name).nth(nth);
  if ((await head.getAttribute('aria-expanded')) === 'false') await head.click();
}

/** Does what stands in the menu of something. */
export async function fromMenu(page: Page, of: string, words: string | RegExp, nth = 0): Promise<void> {
  await page
    .getByRole('button', { name: `More for ${of}`, exact: true })
    .nth(nth)
    .click();
  await page.getByRole('menuitem', { name: words }).click();
}

/** Removes a move or a look. */
export const removeCard = (page: Page, name: string): Promise<void> => fromMenu(page, name, 'Remove');

/** Opens how the piece's clip is read, where it is folded. */
export async function openReading(page: Page): Promise<void> {
  const line = page.getByRole('button', { name: /^How the clip is read/ });
  if ((await line.getAttribute('aria-expanded')) === 'false') await line.click();
}

export async function setSpan(page: Page, first: number, end: number): Promise<void> {
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', String(end));
  await enter(page, 'Span in', String(first));
}

export interface BoomerangChoice {
  readonly trips: number;
  readonly back: string;
  readonly turn: 'once' | 'twice';
}

export async function addBoomerang(page: Page, choice: BoomerangChoice): Promise<void> {
  await page.getByRole('button', { name: /^Add Boomerang/ }).click();
  await setBoomerang(page, choice);
}

export async function setBoomerang(page: Page, choice: BoomerangChoice): Promise<void> {
  await enter(page, 'Boomerang: Round trips', String(choice.trips));
  await enter(page, 'Boomerang: Backward speed', choice.back);
  await page.getByLabel('Boomerang: Turn frame').selectOption(choice.turn);
}

export async function offerLooks(page: Page, of: 'piece' | 'all' = 'piece'): Promise<void> {
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await page.getByRole('button', { name: of, exact: true }).click();
}

export async function addLook(page: Page, name: string): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^Add ${name}\\.`) }).click();
  // Off the card, so that nothing is tried out; it may begin where it belongs.
  await page.mouse.move(640, 250);
  await page
    .getByRole('group', { name: `Usual places of ${name}` })
    .getByRole('button', { name: 'everywhere' })
    .click();
}

/** Until nothing moves into its place any more: what is pressed while it moves may be let go beside it. */
export const settled = (page: Page): Promise<unknown> =>
  page.waitForFunction(() =>
    document.getAnimations().every((a) => !(a instanceof CSSTransition) || a.playState !== 'running'),
  );

/** Opens where a look applies, and puts one condition there. */
export async function condition(
  page: Page,
  name: string,
  kind: string,
  values: Record<string, string>,
): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^Where ${name} applies`) }).click();
  await settled(page);
  const old = page.getByRole('button', { name: `Remove condition 1 of ${name}` });
  while ((await old.count()) > 0) await old.click();
  await page.getByRole('button', { name: 'Add a condition' }).click();
  await page.getByLabel(`${name}: condition 1`, { exact: true }).selectOption(kind);
  for (const [field, value] of Object.entries(values)) {
    const element = page.getByLabel(`${name}: condition 1, ${field}`, { exact: true });
    if ((await element.evaluate((e) => e.tagName)) === 'SELECT') await element.selectOption(value);
    else await enter(page, `${name}: condition 1, ${field}`, value);
  }
  await page.keyboard.press('Escape');
  await expect(page.getByRole('group', { name: `Where ${name} applies` })).toHaveCount(0);
}

/** Renders what is open as a file kind and gives the path of the download. */
export async function render(
  page: Page,
  format: 'mp4-h264' | 'webm-vp9' | 'webm-av1',
  to: string,
): Promise<string> {
  if (!page.url().endsWith('/render')) await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('File', { exact: true }).selectOption(format);
  const download = page.waitForEvent('download', { timeout: 90_000 });
  await page.getByRole('button', { name: /^Render \d+ frames?/ }).click();
  await (await download).saveAs(to);
  await expect(page.getByTestId('render-proof')).toHaveAttribute('data-as-ordered', 'true');
  return to;
}

export const up = (a: number, b: number, by = 1): number[] =>
  Array.from({ length: Math.floor((b - a) / by) + 1 }, (_, i) => a + i * by);
export const down = (a: number, b: number, by = 1): number[] =>
  Array.from({ length: Math.floor((a - b) / by) + 1 }, (_, i) => a - i * by);
export const times = <T>(n: number, row: readonly T[]): T[] => Array.from({ length: n }, () => row).flat();

/** The frames of one trip over [a, b) that turns once at each end. */
export const turnOnce = (a: number, b: number): number[] => [...up(a, b - 1), ...down(b - 2, a + 1)];
