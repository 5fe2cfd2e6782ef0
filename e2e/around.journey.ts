/** What goes on around an edit: drags that lose their handle, keys behind dialogs, jobs and views that are left in the middle. */
import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { join } from 'node:path';
import { WORK, codedClip, run } from './coded-clips';
import { addBoomerang, enter, expect, settled, setSpan, startWith, test } from './journey';
import { openDemo } from './stage';

const length = (page: Page) => page.getByTestId('length').textContent();
const undoes = async (page: Page) => {
  const button = page.getByRole('button', { name: 'Undo', exact: true });
  return !(await button.isDisabled());
};
const toShelf = (page: Page) => page.getByRole('link', { name: 'To the shelf' }).click();

test('a segment dragged until its handle is gone is let go all the same, and Escape later takes nothing', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 240);
  await addBoomerang(page, { trips: 6, back: '100 %', turn: 'twice' });
  const ends = page.getByTestId('segment-end');
  await page.getByRole('button', { name: 'Undo', exact: true }).waitFor();
  const end = ends.nth(1);
  const box = (await end.boundingBox())!;
  const before = await length(page);
  await page.mouse.move(box.x + 5, box.y + 10);
  await page.mouse.down();
  // So short that it can't be taken hold of any more.
  await page.mouse.move(box.x - 60, box.y + 10, { steps: 8 });
  await page.mouse.move(box.x - 110, box.y + 12, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => length(page)).not.toBe(before);
  const dragged = await length(page);
  await page.getByRole('button', { name: /^Add Stutter/ }).click();
  await expect.poll(() => length(page)).not.toBe(dragged);
  const held = await length(page);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Escape');
  await page.waitForTimeout(300);
  expect(await length(page)).toBe(held);
  await page.keyboard.press('Control+z');
  await expect.poll(() => length(page)).toBe(dragged);
  await page.keyboard.press('Control+z');
  await expect.poll(() => length(page)).toBe(before);
});

test('an undo, another form or another key in the middle of a drag changes nothing but the drag', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 60, 180);
  const edge = page.getByRole('slider', { name: /span.*(out|ends)/i }).last();
  const box = (await edge.boundingBox())!;
  const before = await length(page);
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 60, box.y + 10, { steps: 4 });
  await page.keyboard.press('Control+z');
  await page.keyboard.press('2');
  await page.keyboard.press('h');
  await page.mouse.move(box.x + 90, box.y + 10, { steps: 4 });
  await page.mouse.up();
  const dragged = await length(page);
  expect(dragged).not.toBe(before);
  await expect(page.getByText('Hold: At')).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect.poll(() => length(page)).toBe(before);
});

test('keys are silent behind dialogs; Space presses what was gone to by Tab, and plays after a press of the mouse', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await addBoomerang(page, { trips: 2, back: '100 %', turn: 'once' });
  const before = await length(page);
  await page.keyboard.press('Shift+Slash');
  const help = page.getByRole('dialog', { name: 'Shortcuts' });
  await help.waitFor();
  for (const key of ['h', 'm', 'Space', 'i', 'Control+z']) await page.keyboard.press(key);
  expect(await length(page)).toBe(before);
  await page.keyboard.press('Escape');
  await expect(help).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toHaveCount(0);

  // By keyboard: the button's own.
  const keys = page.getByRole('button', { name: 'Shortcuts' });
  await page.getByRole('button', { name: 'History', exact: true }).focus();
  // Past the two versions.
  for (let i = 0; i < 2; i++) await page.keyboard.press('Tab');
  await expect(keys).toBeFocused();
  await page.keyboard.press('Space');
  await help.waitFor();
  await settled(page);
  await page.keyboard.press('Escape');
  await expect(help).toHaveCount(0);
  await expect(keys).toBeFocused();
  await page.keyboard.press('Space');
  await help.waitFor();
  await settled(page);
  await page.keyboard.press('Escape');
  await expect(help).toHaveCount(0);

  // By the pointer: a switch keeps what it was set to, and the keys go on.
  const on = page.getByRole('switch').or(page.locator('input[type=checkbox]')).first();
  await on.click();
  await expect.poll(() => length(page)).not.toBe(before);
  const off = await length(page);
  expect(off).not.toBe(before);
  await page.keyboard.press('b');
  await expect(page.getByText(/There is no song with beats/)).toBeVisible();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toHaveCount(1);
  expect(await length(page)).toBe(off);
  await page.keyboard.press('k');
});

test('letters are letters on every keyboard', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await page.keyboard.press('Home');
  await page.keyboard.press('h');
  const held = await length(page);
  const press = (key: string, code: string, ctrlKey = false, shiftKey = false) =>
    page.evaluate(
      ([key, code, ctrlKey, shiftKey]) =>
        document.body.dispatchEvent(
          new KeyboardEvent('keydown', {
            key,
            code,
            ctrlKey,
            shiftKey,
            bubbles: true,
            cancelable: true,
          } as never),
        ),
      [key, code, ctrlKey, shiftKey] as const,
    );
  await press('z', 'KeyY', true);
  expect(await length(page)).not.toBe(held);
  await press('y', 'KeyZ', true);
  expect(await length(page)).toBe(held);
  await press('я', 'KeyZ', true);
  expect(await length(page)).not.toBe(held);
  await press('?', 'Minus', false, true);
  await page.getByRole('dialog', { name: 'Shortcuts' }).waitFor();
});

test('five files given to one project are in it, whichever is open when they have been read', async ({
  page,
}) => {
  const names = ['bframes', 'ntsc', 'fast', 'uneven', 'vp9'] as const;
  const paths = await Promise.all(names.map(codedClip));
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  const first = page.url();
  await enter(page, 'Name of the project', 'First');
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(paths);
  await toShelf(page);
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL((url) => /project/.test(url.href) && url.href !== first);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles([await codedClip('single')]);
  const stored = (id: string) =>
    page.evaluate(
      (id) =>
        new Promise<string[]>((resolve) => {
          const open = indexedDB.open('skip-back');
          open.onsuccess = () => {
            const get = open.result.transaction('projects').objectStore('projects').get(id);
            get.onsuccess = () => {
              open.result.close();
              const document = (get.result as { document: { clips: { name: string }[] } }).document;
              resolve(document.clips.map((c) => c.name));
            };
          };
        }),
      id,
    );
  const idOf = (url: string) => /project\/([^/]+)/.exec(url)![1]!;
  await expect.poll(() => stored(idOf(first)), { timeout: 60_000 }).toHaveLength(5);
  await expect(page.getByText(/^Reading /)).toHaveCount(0, { timeout: 30_000 });
  await expect.poll(() => stored(idOf(page.url()))).toEqual(['single.mp4']);
  await toShelf(page);
  await page.goto(first);
  await expect(page.getByTestId('length')).not.toHaveText(/^0 f/, { timeout: 30_000 });
});

test('the bench is as it was after Beats and Render; muted stays muted', async ({ page }) => {
  await openDemo(page);
  await page.keyboard.press('2');
  await page.keyboard.press('End');
  await page.getByRole('button', { name: 'Looks', exact: true }).click();
  await page.keyboard.press('u');
  const at = await page.getByTestId('timecode').textContent();
  for (const view of ['Beats', 'Render'] as const) {
    await page.getByRole('link', { name: view }).first().click();
    await page.getByRole('heading').first().waitFor();
    await page.getByRole('link', { name: 'Weave' }).click();
    await expect(page.getByRole('group', { name: /^Curve: / })).toBeVisible();
    expect(await page.getByTestId('timecode').textContent()).toBe(at);
    await expect(page.getByRole('button', { name: /^Add Flash/ })).toBeVisible();
    await page.getByRole('button', { name: 'Sound', exact: true }).click();
    await expect(page.getByLabel('Sound on')).not.toBeChecked();
    await page.keyboard.press('Escape');
  }
});

test('a render goes on while something else is done, is seen everywhere, and its tab asks before it is closed', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 0, 300);
  await addBoomerang(page, { trips: 3, back: '100 %', turn: 'once' });
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('File', { exact: true }).selectOption('gif');
  await page.getByLabel('File', { exact: true }).selectOption('webm-vp9');
  const download = page.waitForEvent('download', { timeout: 120_000 });
  await page.getByRole('button', { name: /^Render \d+ frames?/ }).click();
  await page.getByTestId('render-progress').waitFor();
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByTestId('render-sign')).toHaveText(/rendering/);
  await enter(page, 'Span out', '180');
  await toShelf(page);
  await expect(page.getByTestId('render-sign')).toHaveText(/rendering/);
  let asked = false;
  page.once('dialog', (dialog) => {
    asked = dialog.type() === 'beforeunload';
    void dialog.dismiss();
  });
  await page.reload({ timeout: 3000 }).catch(() => undefined);
  expect(asked).toBe(true);
  await expect(page.getByTestId('render-sign')).toHaveText(/rendering/);
  await page.getByTestId('render-sign').click();
  await (await download).path();
  await expect(page.getByTestId('render-proof')).toHaveAttribute('data-as-ordered', 'true');
  await expect(page.getByLabel('File', { exact: true })).toHaveValue('webm-vp9');
});

test('a sound that comes where a song is asks what it is; a file dropped on Render stays in the program', async ({
  page,
}) => {
  await startWith(page, await codedClip('vp9'));
  const path = join(WORK, 'beep.wav');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'sine=frequency=600:duration=1', path]);
  const sound = await readFile(path);
  const drop = (name: string, type: string, bytes: Buffer) =>
    page.evaluate(
      ([name, type, bytes]) => {
        const data = new DataTransfer();
        data.items.add(new File([Uint8Array.from(atob(bytes), (c) => c.charCodeAt(0))], name, { type }));
        for (const kind of ['dragover', 'drop'])
          document
            .querySelector('main')!
            .dispatchEvent(new DragEvent(kind, { dataTransfer: data, bubbles: true, cancelable: true }));
      },
      [name, type, bytes.toString('base64')] as const,
    );
  const before = await length(page);
  // The first is the song.
  await drop('beep.wav', 'audio/wav', sound);
  await expect.poll(() => undoes(page), { timeout: 30_000 }).toBe(true);
  await expect(page.getByText(/^Reading /)).toHaveCount(0);
  const question = page.getByRole('dialog', { name: 'What is beep.wav?' });
  await drop('beep.wav', 'audio/wav', sound);
  await question.getByRole('button', { name: 'Leave it' }).click();
  await expect(question).toHaveCount(0);
  await drop('beep.wav', 'audio/wav', sound);
  await question.getByRole('button', { name: 'Place it at the playhead' }).click();
  await expect(page.getByRole('slider', { name: /beep/ }).first()).toBeVisible();
  expect(await length(page)).toMatch(new RegExp(`^${before!}`));
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByRole('heading', { name: 'Render a file' }).waitFor();
  await drop('what.txt', 'text/plain', Buffer.from('no film'));
  await expect(page.getByText(/what\.txt/).first()).toBeVisible();
  expect(page.url()).toMatch(/render$/);
});

test('a recipe says what it replaces, and can be taken back for twelve seconds', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await addBoomerang(page, { trips: 2, back: '100 %', turn: 'once' });
  const before = await length(page);
  await page.getByRole('button', { name: 'Recipes', exact: true }).click();
  await page
    .getByRole('button', { name: /^Put on Soft boomerang/ })
    .first()
    .click();
  const notice = page.getByText(/It replaces 1 move\./);
  await expect(notice).toBeVisible();
  await page.waitForTimeout(8000);
  await expect(notice).toBeVisible();
  await page.getByRole('alert').getByRole('button', { name: 'Undo' }).click();
  await expect.poll(() => length(page)).toBe(before);
  await expect(notice).toHaveCount(0);
  // Somewhere else it could take nothing back.
  await page
    .getByRole('button', { name: /^Put on Soft boomerang/ })
    .first()
    .click();
  await expect(notice).toBeVisible();
  await toShelf(page);
  await expect(notice).toHaveCount(0);
});
