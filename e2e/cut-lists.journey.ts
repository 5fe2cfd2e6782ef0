import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip } from './coded-clips';
import { addBoomerang, expect, setSpan, startWith, test } from './journey';

test('cut lists are saved with what they cannot carry said first, and read back as pieces', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 130);
  await addBoomerang(page, { trips: 1, back: '200', turn: 'twice' });
  await page.getByRole('link', { name: 'Render' }).first().click();
  const lists = page.getByRole('group', { name: 'Cut lists' });
  await expect(lists).toContainText('Carries everything.');
  const saved: Record<string, string> = {};
  for (const [label, ending] of [
    ['EDL, CMX 3600', 'edl'],
    ['OpenTimelineIO', 'otio'],
    ['CSV, every frame', 'frames.csv'],
  ] as const) {
    const download = page.waitForEvent('download');
    await lists.getByRole('button', { name: `Save ${label}` }).click();
    const path = join(WORK, `list.${ending}`);
    await (await download).saveAs(path);
    saved[ending] = path;
  }
  const edl = await readFile(saved['edl']!, 'utf8');
  expect(edl).toContain('001  BFRAMES3 V     C        00:00:03:10 00:00:04:10 00:00:00:00 00:00:01:00');
  expect(edl).toMatch(/M2 {3}BFRAMES3 {6}-060\.0/);
  const frames = (await readFile(saved['frames.csv']!, 'utf8'))
    .trim()
    .split('\r\n')
    .slice(1)
    .map((row) => Number(row.split(',')[3]));
  expect(frames.slice(28, 34)).toEqual([128, 129, 129, 127, 125, 123]);

  await page.getByRole('link', { name: 'Weave' }).click();
  for (const ending of ['edl', 'otio']) {
    await page.getByLabel('Choose videos', { exact: true }).setInputFiles(saved[ending]!);
    await expect(page.getByTestId('length')).toContainText('90 f');
    await page.keyboard.press('Control+z');
    await expect(page.getByTestId('length')).toContainText('45 f');
  }
});
