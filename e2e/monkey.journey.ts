/** Things done at random over three projects: afterwards history, saved records and screen agree. */
import type { Page } from '@playwright/test';
import { codedClip } from './coded-clips';
import { expect, setSpan, startWith, test } from './journey';
import { withClicks } from './music-hands';

/** `npm run monkey` does two thousand; with the other journeys, as many as there is time for. */
const ACTIONS = Number(process.env['MONKEY_ACTIONS'] ?? 90);
const SEED = Number(process.env['MONKEY_SEED'] ?? 20261201);

/** Keys that are pressed: all that do something, and some that do not. */
const KEYS = [
  ...'jklm io p s h w r n b u 1 2 3 4 = - + _ 0 z f . , v a x g t c y q'.replace(/[ p]/g, ''),
  ...[
    'Space',
    'ArrowLeft',
    'ArrowRight',
    'ArrowUp',
    'ArrowDown',
    'Home',
    'End',
    'Escape',
    'Escape',
    'Tab',
    'Tab',
  ],
  ...[
    'Shift+Tab',
    'Enter',
    'Delete',
    'Shift+ArrowRight',
    'Shift+B',
    'Shift+H',
    'Shift+P',
    'Shift+Space',
    '?',
  ],
  ...['Control+z', 'Control+z', 'Control+Shift+z', 'Control+y', 'Insert', 'Backspace', 'Alt+ArrowRight'],
];

/** What is not pressed: what leaves the program, takes files or makes them, or takes long. */
const NOT =
  /save|choose|import|bring in|render \d|queue|many at once|measure|compare|download|midi|qualit|another song|cut list|markers|preview copy|storage|delete/i;

function random(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

interface Spot {
  readonly x: number;
  readonly y: number;
  readonly name: string;
}

/** Where things lie that can be pressed, or dragged. */
const spots = (page: Page, selector: string): Promise<Spot[]> =>
  page.evaluate((selector) => {
    const modal = document.querySelector('.MuiModal-root');
    return [...(modal ?? document).querySelectorAll<HTMLElement>(selector)].flatMap((e) => {
      const box = e.getBoundingClientRect();
      const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
      if (box.width === 0 || x < 0 || y < 0 || x > innerWidth || y > innerHeight) return [];
      const top = document.elementFromPoint(x, y);
      if (!top || !(e.contains(top) || top.contains(e))) return [];
      return [{ x, y, name: `${e.getAttribute('aria-label') ?? ''} ${e.textContent ?? ''} ${e.title}` }];
    });
  }, selector);

const idOf = (url: string): string => /project\/([^/]+)/.exec(url)?.[1] ?? '';

/** A project as it is saved, once it is. */
async function saved(page: Page): Promise<string> {
  await expect(page.getByText('Saved', { exact: true })).toBeVisible({ timeout: 20_000 });
  return page.evaluate(
    (id) =>
      new Promise<string>((resolve) => {
        const open = indexedDB.open('skip-back');
        open.onsuccess = () => {
          const get = open.result.transaction('projects').objectStore('projects').get(id);
          get.onsuccess = () => {
            open.result.close();
            const { document, other, letter } = get.result as Record<string, unknown>;
            resolve(JSON.stringify({ document, other: other ?? null, letter: letter ?? 'A' }));
          };
        };
      }),
    idOf(page.url()),
  );
}

/** Closes whatever lies over the view, and lets go. */
async function calm(page: Page): Promise<void> {
  await page.mouse.up();
  for (let i = 0; i < 6 && (await page.locator('.MuiModal-root').count()) > 0; i++)
    await page.keyboard.press('Escape');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Escape');
}

/** Undone all the way and done again, it is what it was; what is saved is what is shown. */
async function agrees(page: Page, said: () => string): Promise<void> {
  await calm(page);
  await page.getByRole('link', { name: 'Weave' }).click();
  await page.keyboard.press('k');
  const length = page.getByTestId('length');
  await length.waitFor();
  const before = await saved(page);
  const shown = await length.textContent();
  const letter = await page
    .locator('[aria-label^="Version"][aria-pressed="true"]')
    .getAttribute('aria-label');
  expect(letter, said()).toBe(`Version ${(JSON.parse(before) as { letter: string }).letter}`);
  const [undo, redo] = ['Undo', 'Redo'].map((name) =>
    page.getByRole('banner').getByRole('button', { name, exact: true }),
  );
  let steps = 0;
  while (await undo!.isEnabled()) {
    await page.keyboard.press('Control+z');
    expect(++steps, said()).toBeLessThanOrEqual(500);
  }
  for (let i = 0; i < steps; i++) await page.keyboard.press('Control+Shift+z');
  if (steps > 0) await expect(undo!).toBeEnabled();
  // What was undone before may still be done again; that is not gone through.
  expect(await redo!.count()).toBe(1);
  await expect.poll(() => saved(page), { message: said() }).toBe(before);
  expect(await length.textContent(), said()).toBe(shown);
}

test('things done at random over three projects leave history, records and screen agreed', async ({
  page,
}) => {
  test.setTimeout(600_000);
  page.on('dialog', (dialog) => void dialog.accept());
  page.on('filechooser', () => undefined);
  const projects: string[] = [];
  for (const clips of [['bframes', 'vp9'], ['ntsc'], ['uneven', 'fast']] as const) {
    await startWith(page, ...(await Promise.all(clips.map(codedClip))));
    if (clips[0] === 'ntsc') await withClicks(page);
    await setSpan(page, 5, 45);
    projects.push(page.url().replace(/\/(beats|render)$/, ''));
    await page.getByRole('link', { name: 'To the shelf' }).click();
  }
  const next = random(SEED);
  const pick = <T>(from: readonly T[]): T => from[Math.floor(next() * from.length)]!;
  const done: string[] = [];
  const said = () => `seed ${SEED}, after: ${done.slice(-25).join(' | ')}`;
  await page.goto(projects[0]!);
  for (let i = 0; i < ACTIONS; i++) {
    const what = next();
    if (!page.url().includes('/project/')) {
      const to = pick(projects);
      done.push(`open ${projects.indexOf(to) + 1}`);
      await page.evaluate((url) => {
        history.pushState({}, '', url);
        dispatchEvent(new PopStateEvent('popstate'));
      }, to);
      await page.getByLabel('Name of the project').waitFor({ timeout: 20_000 });
      continue;
    }
    if (what < 0.5) {
      const key = pick(KEYS);
      done.push(key);
      await page.keyboard.press(key);
    } else if (what < 0.76) {
      const found = (
        await spots(page, 'button, [role="switch"], input[type="checkbox"], [role="slider"], canvas')
      ).filter(({ name }) => !NOT.test(name));
      if (found.length === 0) continue;
      const at = pick(found);
      done.push(`press ${at.name.slice(0, 30)}`);
      await page.mouse.click(at.x, at.y);
    } else if (what < 0.93) {
      const found = await spots(page, '[role="slider"], canvas, input');
      if (found.length === 0) continue;
      const at = pick(found);
      done.push(`drag ${at.name.slice(0, 30)}`);
      await page.mouse.move(at.x, at.y);
      await page.mouse.down();
      for (let k = 0; k < 3; k++) {
        await page.mouse.move(at.x + (next() - 0.5) * 300, at.y + (next() - 0.5) * 60);
        // One press too many in the middle of it.
        if (next() < 0.25) await page.keyboard.press(pick(KEYS));
      }
      if (next() < 0.9) await page.mouse.up();
    } else if (what < 0.97) {
      await page.mouse.move(100 + next() * 1000, 100 + next() * 650);
      await page.mouse.wheel(0, (next() - 0.5) * 400);
      done.push('wheel');
    } else {
      const link = page.getByRole('link', {
        name: pick(['Weave', 'Beats', 'Render', 'To the shelf']),
        exact: true,
      });
      done.push(`go`);
      await page.mouse.up();
      if ((await page.locator('.MuiModal-root').count()) === 0) await link.first().click({ timeout: 5000 });
    }
    if (i % 90 === 89 && page.url().includes('/project/')) await agrees(page, said);
  }
  for (const project of projects) {
    await calm(page);
    await page.goto(project);
    await page.getByTestId('length').waitFor();
    const [record, shown] = [await saved(page), await page.getByTestId('length').textContent()];
    await agrees(page, said);
    // The record opens as what it was saved as.
    await page.reload();
    await expect(page.getByTestId('length'), said()).toHaveText(shown!, { timeout: 30_000 });
    expect(await saved(page), said()).toBe(record);
  }
});
