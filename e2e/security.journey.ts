/** What the page asks for, and what names and words of files may do: nothing. */
import { copyFile, mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { BlobReader, BlobWriter, TextReader, TextWriter, ZipReader, ZipWriter } from '@zip.js/zip.js';
import { WORK, codedClip } from './coded-clips';
import { addLook, expect, offerLooks, render, setSpan, startWith, test } from './journey';
import { openDemo } from './stage';

test('no request leaves the page’s own origin, whatever is done', async ({ page, stage }) => {
  const elsewhere: string[] = [];
  page.context().on('request', (request) => {
    const { protocol, origin } = new URL(request.url());
    if (protocol !== 'blob:' && protocol !== 'data:' && origin !== stage.address)
      elsewhere.push(request.url());
  });
  await openDemo(page);
  await offerLooks(page);
  await addLook(page, 'Flash');
  await page.getByRole('link', { name: 'Beats' }).click();
  await page.getByRole('link', { name: 'Weave' }).click();
  await render(page, 'mp4-h264', join(WORK, 'own-origin.mp4'));
  expect(elsewhere).toEqual([]);
});

test.describe('what is refused', () => {
  test.use({ allowedErrors: [/Content Security Policy|ERR_|Failed to fetch|Refused/] });
  test('the policy lets no script ask elsewhere', async ({ page }) => {
    const asked = await page.evaluate(() =>
      fetch('https://example.org/').then(
        () => 'answered',
        () => 'refused',
      ),
    );
    expect(asked).toBe('refused');
  });

  test('scripts in names and words of files stay words; keys of prototypes do nothing', async ({ page }) => {
    const script = '<img src=x onerror="window.stolen = true">';
    await mkdir(join(WORK, 'hostile'), { recursive: true });
    const path = join(WORK, 'hostile', `${script.replace('/', '')}.mp4`);
    await copyFile(await codedClip('bframes'), path);
    await startWith(page, path);
    await setSpan(page, 0, 30);
    await page.getByLabel('Name of the project').fill(script);
    await page.getByLabel('Name of the project').press('Enter');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as a file' }).click();
    const zip = await (await download).path();

    const entries = await new ZipReader(
      new BlobReader(new Blob([new Uint8Array(await readFile(zip))])),
    ).getEntries();
    const out = new ZipWriter(new BlobWriter('application/zip'), { level: 0 });
    for (const entry of entries) {
      if (entry.directory) continue;
      if (entry.filename === 'project.json') {
        const document = JSON.parse(await entry.getData(new TextWriter())) as { id: string; clips: object[] };
        const text = JSON.stringify({ ...document, link: 'javascript:alert(1)' }).replace(
          '{',
          '{"__proto__":{"polluted":true},"constructor":{"prototype":{"polluted":true}},',
        );
        await out.add('project.json', new TextReader(text));
      } else await out.add(entry.filename, new BlobReader(await entry.getData(new BlobWriter())));
    }
    const hostile = join(WORK, 'hostile', 'hostile.skipback.zip');
    await writeFile(hostile, Buffer.from(await (await out.close()).arrayBuffer()));
    await page.getByRole('link', { name: 'To the shelf' }).click();
    await page.getByLabel('Choose videos or a project file').setInputFiles(hostile);
    await page.waitForTimeout(1500);
    const what = await page.evaluate(() => ({
      stolen: (window as unknown as { stolen?: boolean }).stolen,
      polluted: ({} as { polluted?: boolean }).polluted,
      links: [...document.querySelectorAll('a')].filter((a) => !/^https?:|^blob:/.test(a.href)).length,
    }));
    expect(what).toEqual({ stolen: undefined, polluted: undefined, links: 0 });
  });
});
