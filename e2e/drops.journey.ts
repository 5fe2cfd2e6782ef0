/** Files that come in from outside: dropped anywhere, pasted, several at once, there already; and what is said of them. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { join } from 'node:path';
import { WORK, codedClip, run } from './coded-clips';
import { enter, expect, setSpan, startWith, test } from './journey';
import { openDemo } from './stage';

/** Drops or pastes files on what a selector finds. */
async function give(page: Page, how: 'drop' | 'paste', paths: readonly string[], on = 'main'): Promise<void> {
  const files = await Promise.all(
    paths.map(async (path) => ({
      name: path.split('/').pop()!,
      bytes: (await readFile(path)).toString('base64'),
    })),
  );
  await page.evaluate(
    ([how, on, files]) => {
      const data = new DataTransfer();
      for (const { name, bytes } of files) {
        const type = name.endsWith('.png')
          ? 'image/png'
          : name.endsWith('.zip')
            ? 'application/zip'
            : 'video/mp4';
        data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], name, { type }));
      }
      const target = document.querySelector(on)!;
      const init = { bubbles: true, cancelable: true };
      if (how === 'paste')
        target.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, ...init }));
      else
        for (const kind of ['dragover', 'drop'])
          target.dispatchEvent(new DragEvent(kind, { dataTransfer: data, ...init }));
    },
    [how, on, files] as const,
  );
}
const toShelf = (page: Page) => page.getByRole('link', { name: 'To the shelf' }).click();

test('a clip that is there already is shown and said; pictures and clips can be pasted', async ({ page }) => {
  await startWith(page, await codedClip('bframes'), await codedClip('vp9'));
  await setSpan(page, 0, 60);
  await give(page, 'drop', [await codedClip('vp9')]);
  await expect(page.getByText('vp9-30.webm is in the project already.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Show on the source strip: vp9/ })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.getByRole('button', { name: 'Dismiss vp9-30.webm' }).click();
  const png = join(WORK, 'poster.png');
  await run('ffmpeg', [
    '-y',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=size=320x180:rate=1:duration=1',
    '-frames:v',
    '1',
    png,
  ]);
  await give(page, 'paste', [png]);
  await expect(page.getByRole('button', { name: /^Add a piece of poster/ })).toBeVisible();
  await give(page, 'paste', [await codedClip('fast')]);
  await expect(page.getByRole('button', { name: /^Add a piece of fast/ })).toBeVisible();
  // On Beats a film goes into the project, and that is said.
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByRole('heading', { name: 'Drop a song here' }).waitFor();
  await give(page, 'drop', [await codedClip('ntsc')]);
  await expect(page.getByText('ntsc.mp4 is in the project')).toBeVisible({ timeout: 30_000 });
  await give(page, 'drop', [png]);
  await expect(page.getByText('poster.png is in the project already.')).toBeVisible();
});

test('several project files at once; the demo is on the shelf once, as it was left', async ({ page }) => {
  const saved: string[] = [];
  for (const name of ['First', 'Second']) {
    await startWith(page, await codedClip(name === 'First' ? 'bframes' : 'vp9'));
    await enter(page, 'Name of the project', name);
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as a file' }).click();
    const path = join(WORK, `${name}.skipback.zip`);
    await (await download).saveAs(path);
    saved.push(path);
    await toShelf(page);
  }
  const projects = page.getByRole('list', { name: 'Projects' }).getByRole('listitem');
  await expect(projects).toHaveCount(2);
  const broken = join(WORK, 'broken.skipback.zip');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'color=size=16x16:duration=0.1', '-f', 'rawvideo', broken]);
  await give(page, 'drop', [...saved, broken]);
  await expect(page.getByText('2 projects are on the shelf')).toBeVisible({ timeout: 30_000 });
  await expect(page.getByText(/^broken\.skipback\.zip: /)).toBeVisible();
  await expect(projects).toHaveCount(4);
  await openDemo(page);
  await enter(page, 'Name of the project', 'Mine now');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await toShelf(page);
  await expect(projects.filter({ hasText: 'Mine now' })).toHaveCount(1);
  const count = await projects.count();
  await openDemo(page);
  await expect(page.getByText(/The demo is on the shelf already/)).toBeVisible();
  await expect(page.getByLabel('Name of the project')).toHaveValue('Mine now');
  await toShelf(page);
  await expect(projects).toHaveCount(count);
});

test.use({ allowedErrors: [/status of 422/] });

test('what is under way is seen in every view and can be stopped; what is said of it stays', async ({
  page,
}) => {
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  const first = page.url();
  await enter(page, 'Name of the project', 'First');
  const text = join(WORK, 'no-film.mp4');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'color=size=16x16:duration=0.1', '-f', 'rawvideo', text]);
  const add = async (...names: (Parameters<typeof codedClip>[0] | 'text')[]) =>
    page
      .getByLabel('Choose videos', { exact: true })
      .setInputFiles(await Promise.all(names.map((n) => (n === 'text' ? text : codedClip(n)))));
  // One film is not wanted after all.
  // Pressed by the page itself: reading is soon done.
  const stopped = page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const timer = setInterval(() => {
          const stops = [...document.querySelectorAll<HTMLElement>('[aria-label="About files"] button')];
          if (stops.length < 3) return;
          clearInterval(timer);
          stops.at(-1)!.click();
          resolve();
        }, 2);
      }),
  );
  await add('large', 'bframes', 'ntsc');
  await stopped;
  await expect(page.getByText(/^Reading /)).toHaveCount(0, { timeout: 30_000 });
  await expect(page.getByRole('button', { name: /^Add a piece of / })).toHaveCount(2);
  // The others are wanted, and the project is left.
  // Left by the page itself as soon as the first is being read, for the same reason.
  const left = page.evaluate(
    () =>
      new Promise<void>((resolve) => {
        const timer = setInterval(() => {
          if (!document.querySelector('[aria-label="About files"]')?.textContent?.includes('Reading')) return;
          clearInterval(timer);
          document.querySelector<HTMLElement>('a[aria-label="To the shelf"]')!.click();
          resolve();
        }, 2);
      }),
  );
  await add('cinema', 'fast', 'uneven', 'vp9', 'text');
  await left;
  await expect(page.getByRole('button', { name: 'Open First' })).toBeVisible();
  await expect(page.getByText(/ is in First\.$/).first()).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId('jobs-sign')).toHaveCount(0, { timeout: 60_000 });
  await page.getByRole('button', { name: 'Open First' }).click();
  expect(page.url()).toContain(first);
  await expect(page.getByRole('button', { name: /^Add a piece of / })).toHaveCount(6, { timeout: 30_000 });
  await expect(
    page
      .getByRole('group', { name: 'About files' })
      .getByText(/no-film\.mp4/)
      .first(),
  ).toBeVisible();
});

test('what went wrong with a file is still said after other views were looked at', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  const text = join(WORK, 'no-film.mp4');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'color=size=16x16:duration=0.1', '-f', 'rawvideo', text]);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles([text]);
  const said = page.getByRole('group', { name: 'About files' }).getByText(/no-film\.mp4/);
  await expect(said.first()).toBeVisible();
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByRole('heading').first().waitFor();
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(said.first()).toBeVisible();
  await page.getByRole('button', { name: 'Dismiss no-film.mp4' }).click();
  await expect(said).toHaveCount(0);
});

test('a drag over twelve pieces adds no style rules, and commits as often as it moves', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 60, 120);
  for (let i = 0; i < 11; i++) await page.getByRole('button', { name: 'Duplicate the piece' }).click();
  const rules = () =>
    page.evaluate(() => [...document.styleSheets].reduce((n, sheet) => n + sheet.cssRules.length, 0));
  const edge = page.getByRole('slider', { name: 'Span out, frame' });
  const box = (await edge.boundingBox())!;
  await page.mouse.move(box.x + 9, box.y + 20);
  await page.mouse.down();
  // What the label beside the hand brings with it is there once.
  await page.mouse.move(box.x + 12, box.y + 20);
  await page.waitForTimeout(300);
  const before = await rules();
  for (let i = 0; i < 40; i++) await page.mouse.move(box.x + 13 + i, box.y + 20);
  await page.waitForTimeout(300);
  const after = await rules();
  await page.mouse.up();
  expect(after - before).toBeLessThan(4);
  // The wheel neither.
  await page.mouse.move(640, 700);
  await page.mouse.wheel(0, -100);
  await page.waitForTimeout(200);
  const zoomed = await rules();
  for (let i = 0; i < 25; i++) await page.mouse.wheel(0, i % 2 ? 90 : -100);
  await page.waitForTimeout(300);
  expect((await rules()) - zoomed).toBeLessThan(6);
});
