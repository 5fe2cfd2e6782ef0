import { join } from 'node:path';
import { WORK, codedClip, readNumbers } from './coded-clips';
import { expect, startWith, test } from './journey';

test('a queue of three: one cancelled, the page closed in the middle; what was made stays, the rest is offered again', async ({
  page,
}) => {
  // The first gives the size of all: large, so that each takes long enough to be interrupted.
  const clips = await Promise.all((['large', 'bframes', 'ntsc'] as const).map((c) => codedClip(c)));
  await startWith(page, ...clips);
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByRole('button', { name: 'Many at once' }).click();
  const dialog = page.getByRole('dialog', { name: 'Many at once' });
  await dialog.getByRole('button', { name: 'Clips with a recipe' }).click();
  await dialog.getByLabel('Recipe of the clips').selectOption('Colours split on the way back');
  for (const clip of ['large-30.mp4', 'bframes-30.mp4', 'ntsc.mp4']) await dialog.getByLabel(clip).check();
  await dialog.getByLabel('Names').fill('{n}-{clip}');
  await dialog.getByRole('button', { name: 'Add 3 to the queue' }).click();
  const queue = page.getByRole('group', { name: 'Queue' });
  const files = queue.getByRole('listitem');
  await expect(files).toHaveCount(3);
  const names = await files.locator('[title]').allTextContents();
  expect(names).toEqual(['1-large-30.mp4', '2-bframes-30.mp4', '3-ntsc.mp4']);
  // Work goes on meanwhile; the bar says how far it is.
  await page.getByRole('link', { name: 'Weave' }).click();
  await expect(page.getByText(/^file \d of 3/)).toBeVisible();
  await page.getByRole('link', { name: /^file \d of 3/ }).click();
  await queue.getByRole('button', { name: 'Cancel 3-ntsc.mp4' }).click();
  await expect(files.nth(2)).toHaveAttribute('data-state', 'cancelled');
  await expect(files.nth(0)).toHaveAttribute('data-state', 'done', { timeout: 30_000 });
  await expect(files.nth(0)).toContainText(/178 f, [\d.]+ MB, checked/);
  await expect(files.nth(1)).toHaveAttribute('data-state', 'rendering');
  await page.reload();
  await expect(queue.getByRole('alert')).toHaveText('A file was still waiting when the page was closed.');
  await expect(files.nth(0)).toHaveAttribute('data-state', 'done');
  await expect(files.nth(1)).toHaveAttribute('data-state', 'waiting');
  await queue.getByRole('button', { name: 'Resume' }).click();
  await expect(files.nth(1)).toHaveAttribute('data-state', 'done', { timeout: 60_000 });
  for (const [i, name] of ['1-large-30.mp4', '2-bframes-30.mp4'].entries()) {
    const download = page.waitForEvent('download');
    await queue.getByRole('button', { name: `Save ${name}` }).click();
    const path = join(WORK, `queue-${i}.mp4`);
    await (await download).saveAs(path);
    expect((await readNumbers(path)).length).toBe(178);
  }
  // One that failed or was cancelled can be made after all, two can change places.
  await queue.getByRole('button', { name: 'Render 3-ntsc.mp4 again' }).click();
  await expect(files.nth(2)).toHaveAttribute('data-state', 'done', { timeout: 60_000 });
  await queue.getByRole('button', { name: 'Remove what has ended' }).click();
  await expect(queue).toHaveCount(0);
});
