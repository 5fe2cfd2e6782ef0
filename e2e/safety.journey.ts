/** Nothing typed is lost, and two tabs never overwrite each other. */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip } from './coded-clips';
import { enter, expect, startWith, test } from './journey';
import { goTo } from './music-hands';

test('the last change is there whatever way the page is left, at once after it', async ({ page }) => {
  await startWith(page, await codedClip('vp9'));
  const address = page.url();
  const lengths = [37, 41, 43, 47, 53, 59];
  for (const [i, length] of lengths.entries()) {
    await enter(page, 'Span in', '0');
    await enter(page, 'Span out', String(length));
    // Away at once, in turn: by the address bar, by reloading, by closing while the machine is busy.
    if (i % 3 === 0) await page.goto('about:blank');
    else if (i % 3 === 1) await page.reload();
    else {
      const { context } = { context: page.context() };
      await page.evaluate(() => {
        const ends = performance.now() + 250;
        while (performance.now() < ends);
      });
      const other = await context.newPage();
      await page.close();
      page = other;
      await page.addInitScript('delete window.showSaveFilePicker');
    }
    await page.goto(address);
    await expect(page.getByLabel('Span out', { exact: true })).toHaveValue(String(length), {
      timeout: 15_000,
    });
  }
});

test('a second tab is told, can take over, and the first neither loses nor overwrites anything', async ({
  page,
}) => {
  await startWith(page, await codedClip('vp9'));
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '70');
  const second = await page.context().newPage();
  await second.goto(page.url());
  await expect(second.getByText('This project is open in another tab.')).toBeVisible();
  // The shelf of the second tab leaves alone what the first has open.
  const third = await page.context().newPage();
  await third.goto(new URL('/', page.url()).href);
  await third.getByRole('button', { name: /^More for/ }).click();
  await third.getByRole('menuitem', { name: 'Delete' }).click();
  await expect(third.getByText(/is open in another tab/)).toBeVisible();
  // It follows what is done there.
  const name = page.getByLabel('Name of the project');
  await name.fill('Quay at six');
  await name.press('Enter');
  await expect(third.getByRole('button', { name: /^Open Quay at six/ })).toBeVisible();
  await third.close();

  await enter(page, 'Span out', '90');
  await second.getByRole('button', { name: 'Work on it here' }).click();
  await expect(page.getByText('This project is now worked on in another tab.')).toBeVisible();
  await expect(second.getByLabel('Span out', { exact: true })).toHaveValue('90');
  await enter(second, 'Span out', '110');
  // And back again.
  await page.getByRole('button', { name: 'Work on it here' }).click();
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('110');
  await expect(second.getByText('This project is now worked on in another tab.')).toBeVisible();
  // Whoever looks at a tab that waits for it has it once the other is gone, without asking again.
  const fourth = await page.context().newPage();
  await fourth.goto(page.url());
  await expect(fourth.getByText('This project is open in another tab.')).toBeVisible();
  await second.getByRole('button', { name: 'Work on it here' }).click();
  await expect(second.getByLabel('Span out', { exact: true })).toHaveValue('110');
  await expect(fourth.getByText('This project is open in another tab.')).toBeVisible();
  await second.close();
  await expect(fourth.getByLabel('Span out', { exact: true })).toHaveValue('110');
});

test('a project that cannot be read is offered as a file, one that can in part is opened and says so', async ({
  page,
}) => {
  await startWith(page, await codedClip('vp9'));
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '70');
  const address = page.url();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await expect(page.getByRole('button', { name: /^More for/ })).toBeVisible();
  const spoil = (change: string) =>
    page.evaluate(
      ([how]) =>
        new Promise<void>((resolve, reject) => {
          const opening = indexedDB.open('skip-back');
          opening.onerror = () => reject(new Error('no database'));
          opening.onsuccess = () => {
            const store = opening.result.transaction('projects', 'readwrite').objectStore('projects');
            store.getAll().onsuccess = (event) => {
              const [record] = (event.target as IDBRequest<{ document: Record<string, unknown> }[]>).result;
              if (how === 'in part') record!.document['size'] = { width: -5, height: 1e9 };
              else record!.document['version'] = 99;
              store.put(record).onsuccess = () => resolve();
            };
          };
        }),
      [change],
    );
  await spoil('in part');
  await page.reload();
  await expect(page.getByText('damaged; opens as far as it can be read')).toBeVisible();
  await page.goto(address);
  await expect(page.getByText('Some values were out of range and were brought back.')).toBeVisible();
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('70');
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await expect(page.getByRole('button', { name: /^More for/ })).toBeVisible();
  await spoil('whole');
  await page.goto(address);
  await expect(page.getByText(/saved by a newer version \(99\)/)).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save it as a file' }).click();
  const file = join(WORK, 'spoilt.json');
  await (await download).saveAs(file);
  expect(JSON.parse(await readFile(file, 'utf8'))).toMatchObject({ version: 99 });
});

test('a project file with a flipped byte is refused by name', async ({ page }) => {
  await startWith(page, await codedClip('single'));
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const file = join(WORK, 'flipped.skipback.zip');
  await (await download).saveAs(file);
  const bytes = await readFile(file);
  // In the middle of the clip, which is most of the file.
  bytes[Math.floor(bytes.length / 2)]! ^= 8;
  await writeFile(file, bytes);
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByLabel('Choose videos or a project file').setInputFiles(file);
  await expect(page.getByText(/in this file is damaged: its checksum is wrong/)).toBeVisible();
});

test('a project opens with the picture it was left with, at the frame it was left at', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '90');
  await goTo(page, 40);
  // The shelf's picture is made a moment after it was seen, and kept with the next change.
  await page.waitForTimeout(2200);
  await enter(page, 'Span out', '91');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  const address = page.url();
  await page.goto('about:blank');
  // Before anything of its clips is read, it is there.
  const seen = page.waitForFunction(() => document.querySelector('[data-testid=last-picture]') !== null);
  await page.goto(address);
  await seen;
  await expect(page.getByTestId('last-picture')).toHaveCount(0);
  await expect(page.getByText('frame 40 of 91')).toBeVisible();
});
