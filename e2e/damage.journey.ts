/** Broken files, brought in one after the other; `npm run damage` does the same with hundreds. */
import { codedClip } from './coded-clips';
import { brokenFiles } from './damage/broken-files';
import { stillWorks, tryFile } from './damage/try-files';
import { expect, test } from './journey';

test.describe('broken files', () => {
  test.use({ allowedErrors: [/status of 422|Error (parsing|deserializing|during)/] });
  test.setTimeout(240_000);
  test('are each used as far as they go, or get their sentence; none hangs, and whole ones come in afterwards', async ({
    page,
  }) => {
    const files = await brokenFiles(12, 7);
    await page.getByRole('button', { name: 'New project', exact: true }).click();
    await page.waitForURL(/project/);
    for (const file of files) {
      const tried = await tryFile(page, file);
      expect([file.words, ['used', 'said', 'both'].includes(tried.outcome)], tried.outcome).toEqual([
        file.words,
        true,
      ]);
      expect(tried.seconds, file.words).toBeLessThan(10);
      expect(tried.grownMb, file.words).toBeLessThan(1024);
    }
    expect(await stillWorks(page, await codedClip('vp9'))).toBe(true);
  });
});
