/** Storage that is full, refused, or looked at; and workers that die. */
import { appendFile, copyFile, readFile, rm, stat, truncate } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, codedClip } from './coded-clips';
import { addBoomerang, enter, expect, setSpan, startWith, test } from './journey';

/** Lets the page keep no more than so many bytes beyond what it keeps now; undefined lifts it. */
async function allow(page: Page, more: number | undefined): Promise<void> {
  const session = await page.context().newCDPSession(page);
  const used = await page.evaluate(async () => (await navigator.storage.estimate()).usage ?? 0);
  await session.send('Storage.overrideQuotaForOrigin', {
    origin: new URL(page.url()).origin,
    ...(more !== undefined && { quotaSize: Math.round(used + more) }),
  });
}

test('when the room runs out in the middle of an import or a render it is said, and the project can be saved as a file', async ({
  page,
}) => {
  await startWith(page, await codedClip('vp9'));
  await enter(page, 'Span in', '0');
  await enter(page, 'Span out', '60');
  const large = await codedClip('large');
  await allow(page, (await stat(large)).size / 2);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(large);
  const about = page.getByRole('group', { name: 'About files' });
  await expect(about.getByText(/would not keep large-30.mp4: its storage is full/)).toBeVisible();
  // It works all the same, as long as the page is open.
  await expect(page.getByRole('button', { name: 'Add a piece of large-30.mp4' })).toBeVisible();

  await allow(page, 2000);
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await expect(page.getByText(/There is no room left for the file/)).toBeVisible({ timeout: 30_000 });
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const file = join(WORK, 'without-room.zip');
  await (await download).saveAs(file);
  const zip = (await readFile(file)).toString('latin1');
  expect(zip).toContain('large-30.mp4');
  // With room again the same press makes the file.
  await allow(page, undefined);
  const made = page.waitForEvent('download', { timeout: 60_000 });
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await made;
});

test('where a file cannot even be begun it is said, and it is made once it can be', async ({ page }) => {
  await startWith(page, await codedClip('vp9'));
  await setSpan(page, 0, 20);
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.evaluate(() => {
    const { prototype } = FileSystemDirectoryHandle;
    const get = prototype.getFileHandle;
    prototype.getFileHandle = () => {
      prototype.getFileHandle = get;
      return Promise.reject(new DOMException('no room', 'QuotaExceededError'));
    };
  });
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await expect(page.getByText(/There is no room left for the file/)).toBeVisible();
  const made = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await made;
});

test('when the room runs out in the middle of a save it is said, nothing is lost, and it is saved once there is room', async ({
  page,
}) => {
  await startWith(page, await codedClip('vp9'));
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  // Browsers count what a database holds late: it is the database that refuses here.
  await page.evaluate(() => {
    const put = IDBObjectStore.prototype.put;
    IDBObjectStore.prototype.put = function (...given: Parameters<typeof put>) {
      if (this.name === 'projects') throw new DOMException('no room', 'QuotaExceededError');
      return put.apply(this, given);
    };
    addEventListener('room-again', () => (IDBObjectStore.prototype.put = put), { once: true });
  });
  await enter(page, 'Span in', '20');
  await enter(page, 'Span out', '50');
  await expect(page.getByText('Not saved: storage is full')).toBeVisible();
  await page.evaluate(() => dispatchEvent(new Event('room-again')));
  await enter(page, 'Span out', '60');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await enter(page, 'Span in', '25');
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByLabel('Span in', { exact: true })).toHaveValue('25');
  await expect(page.getByLabel('Span out', { exact: true })).toHaveValue('60');
});

test.describe('without a database', () => {
  test.use({ allowedErrors: [/./] });
  test('projects are made, worked on and saved as files', async ({ page }) => {
    await page.addInitScript(() => {
      IDBFactory.prototype.open = () => {
        throw new DOMException('The user denied permission to access the database.', 'UnknownError');
      };
    });
    await page.reload();
    await expect(page.getByText(/does not let this page keep anything/)).toBeVisible();
    await startWith(page, await codedClip('vp9'));
    await enter(page, 'Span in', '0');
    await enter(page, 'Span out', '44');
    await expect(page.getByTestId('length')).toContainText('44 f');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as a file' }).click();
    expect((await stat(await (await download).path())).size).toBeGreaterThan(10_000);
  });

  test('what a newer version keeps is not touched, and it is said', async ({ page, stage }) => {
    // Of the same origin, without the program.
    await page.goto(`${stage.address}/demo/projects/index.json`);
    await page.evaluate(
      () =>
        new Promise<void>((resolve, reject) => {
          // As a later version of the program would leave it: an unknown table, and another key.
          const removing = indexedDB.deleteDatabase('skip-back');
          removing.onerror = () => reject(new Error('not removed'));
          removing.onblocked = () => undefined;
          removing.onsuccess = () => {
            const opening = indexedDB.open('skip-back', 9990);
            opening.onupgradeneeded = () => {
              opening.result.createObjectStore('projects', { keyPath: 'number' });
            };
            opening.onerror = () => reject(new Error('not made'));
            opening.onsuccess = () => {
              opening.result.close();
              resolve();
            };
          };
        }),
    );
    await page.goto(stage.address);
    await expect(page.getByText(/A newer version of this program has worked in this browser/)).toBeVisible();
    expect(
      await page.evaluate(
        async () => (await indexedDB.databases()).find((d) => d.name === 'skip-back')?.version,
      ),
    ).toBe(9990);
  });
});

test('what is kept is shown by who uses it; a project taken away is put back until the page closes', async ({
  page,
}) => {
  await startWith(page, await codedClip('vp9'));
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByRole('button', { name: 'Storage', exact: true }).click();
  const sheet = page.getByRole('dialog', { name: 'What is kept here' });
  const size = `${((await stat(await codedClip('vp9'))).size / 1e6).toFixed(1)} MB`;
  await expect(sheet.getByText(size, { exact: true })).toBeVisible();
  await sheet.getByRole('button', { name: /^Delete / }).click();
  await expect(sheet.getByText('Clips and songs of no project, until this page closes')).toBeVisible();
  await sheet.getByRole('button', { name: /^Put .* back$/ }).click();
  await expect(sheet.getByRole('button', { name: /^Delete / })).toBeVisible();
  await page.keyboard.press('Escape');
  await page
    .getByRole('button', { name: /^Open / })
    .first()
    .click();
  await expect(page.getByTestId('length')).not.toContainText('0 f =');
});

test.describe('a worker that dies', () => {
  test.use({ allowedErrors: [/on purpose|picture’s worker died/] });
  test('is begun again, with the picture as it was, and it is said', async ({ page }) => {
    await startWith(page, await codedClip('vp9'));
    await enter(page, 'Span in', '0');
    await enter(page, 'Span out', '90');
    const die = async () => {
      const pictures = () => page.workers().filter((w) => w.url().includes('preview-worker'));
      // On a busy machine the one begun anew is not there at once.
      await expect.poll(() => pictures().length).toBe(1);
      const [worker] = pictures();
      await worker!.evaluate(() => {
        setTimeout(() => {
          throw new Error('on purpose');
        });
      });
    };
    await die();
    await expect(page.getByText('The picture stopped, and was started again.')).toBeVisible();
    await page.keyboard.press('Space');
    await expect(page.getByTestId('timecode')).not.toHaveText('00:00:00:00', { timeout: 5000 });
    await page.keyboard.press('Space');
    // Again and again it is not begun any more, and what helps is said.
    for (let n = 0; n < 3; n++) {
      await page.waitForTimeout(300);
      await die();
    }
    await expect(page.getByText(/The picture stopped again and again/)).toBeVisible();
  });
});

test('a large file is worked with while it is copied, and is there when the page opens again', async ({
  page,
}) => {
  const path = join(WORK, 'padded.mp4');
  await copyFile(await codedClip('bframes'), path);
  // Something no reader takes anything from stands after its end.
  const padding = Buffer.alloc(200 * 1024 * 1024);
  padding.writeUInt32BE(padding.length, 0);
  padding.write('free', 4);
  await appendFile(path, padding);
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(path);
  const keeping = page.getByText(/^Copying padded\.mp4 into this browser, \d+ %/);
  await expect(keeping).toBeVisible();
  await addBoomerang(page, { trips: 2, back: '100', turn: 'once' });
  await expect(keeping).toBeVisible();
  await expect(keeping).toHaveCount(0, { timeout: 60_000 });
  const length = await page.getByTestId('length').innerText();
  await page.reload();
  await expect(page.getByTestId('length')).toHaveText(length);

  // The page goes in the middle of another: that one is missing, and found again by choosing it.
  await truncate(path, 210 * 1024 * 1024);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(path);
  await expect(keeping).toBeVisible();
  await page
    .getByRole('button', { name: /^Add a piece of padded/ })
    .last()
    .click();
  await expect(page.getByText('Saved', { exact: true })).toBeVisible();
  await page.reload();
  await expect(page.getByText(/padded\.mp4 is not in this browser any more/)).toBeVisible();
  await page.getByLabel('Choose the file of padded.mp4').setInputFiles(path);
  await expect(page.getByText(/is not in this browser any more/)).toHaveCount(0);
  await expect(keeping).toHaveCount(0, { timeout: 60_000 });
  await rm(path);
});
