/** Projects changed as a stranger's program might: the saved file, its document edited, opened again. */
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import type { Project } from '@skipback/core/project/schema';
import { BlobReader, BlobWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { WORK } from './coded-clips';

/** Saves the open project, edits its document, and opens that; what is given is written as it is. */
export async function openEdited(
  page: Page,
  name: string,
  edit: (project: Project) => object,
): Promise<void> {
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as a file' }).click();
  const path = join(WORK, `${name}.skipback.zip`);
  await (await saved).saveAs(path);
  const zip = new ZipReader(new BlobReader(new Blob([new Uint8Array(await readFile(path))])));
  const writer = new ZipWriter(new BlobWriter());
  for (const entry of await zip.getEntries()) {
    if (entry.directory) continue;
    let data = await entry.getData(new BlobWriter());
    if (entry.filename.endsWith('.json'))
      data = new Blob([JSON.stringify(edit(JSON.parse(await data.text()) as Project))]);
    await writer.add(entry.filename, new BlobReader(data));
  }
  await writeFile(path, Buffer.from(await (await writer.close()).arrayBuffer()));
  await page.getByRole('link', { name: 'To the shelf' }).click();
  await page.getByLabel('Choose videos or a project file').setInputFiles(path);
  await page.waitForURL(/project/);
  await page.getByTestId('length').filter({ hasNotText: /^0 f/ }).waitFor();
}
