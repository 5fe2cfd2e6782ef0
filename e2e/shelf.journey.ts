import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip } from './coded-clips';
import { expect, setSpan, startWith, test } from './journey';

test('a project is renamed, duplicated, deleted and brought back', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  const name = page.getByLabel('Name of the project');
  await name.fill('Pier at night');
  await name.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
  await page.getByRole('link', { name: 'To the shelf' }).click();
  const menu = async (project: string, item: string) => {
    await page.getByRole('button', { name: `More for ${project}`, exact: true }).click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  await menu('Pier at night', 'Duplicate');
  await expect(page.getByRole('button', { name: 'Open Pier at night, copy' })).toBeVisible();
  await menu('Pier at night, copy', 'Rename');
  await page.getByLabel('New name').fill('Pier at dawn');
  await page.getByLabel('New name').press('Enter');
  await expect(page.getByRole('button', { name: 'Open Pier at dawn' })).toBeVisible();
  await menu('Pier at night', 'Delete');
  await expect(page.getByRole('button', { name: 'Open Pier at night' })).toHaveCount(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByRole('button', { name: 'Open Pier at night', exact: true }).click();
  await expect(page.getByTestId('length')).toContainText('60 f');
});

test('a project saved as a file opens in another browser with its clips', async ({ page, stage }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 20, 50);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const file = join(WORK, 'project.skipback.zip');
  await (await download).saveAs(file);
  expect((await readFile(file)).subarray(0, 2).toString()).toBe('PK');
  const other = await stage.newPage();
  await other.page.getByLabel('Choose videos or a project file').setInputFiles(file);
  await expect(other.page.getByTestId('length')).toContainText('30 f');
  await expect(other.page.getByLabel('Span in', { exact: true })).toHaveValue('20');
  await other.page.context().close();
});

test('a video dropped on the shelf starts a project; a broken project file says so', async ({ page }) => {
  const input = page.getByLabel('Choose videos or a project file');
  await input.setInputFiles({
    name: 'old.skipback.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('not a zip'),
  });
  await expect(page.getByText(/This is not a project file/)).toBeVisible();
  await input.setInputFiles(await codedClip('fast'));
  await expect(page.getByTestId('length')).toContainText('120 f');
});
