import { codedClip } from './coded-clips';
import { addBoomerang, expect, setSpan, test } from './journey';
import { ALONE } from './machine';
import { openStage } from './stage';

test('once it was opened it opens and works with the server gone, with what was made before', async () => {
  const stage = await openStage();
  const { page, errors } = await stage.newPage('keeps-program');
  try {
    expect(await (await page.request.get(`${stage.address}/manifest.webmanifest`)).json()).toMatchObject({
      name: 'Skip Back',
      display: 'standalone',
    });
    // Built files are not asked for again, whose names tell what is in them; the page is.
    const kept = async (path: string) =>
      (await page.request.get(`${stage.address}${path}`)).headers()['cache-control'];
    const built = await page.locator('script[type=module]').first().getAttribute('src');
    expect([await kept('/'), await kept(built!)]).toEqual([
      expect.stringContaining('max-age=0'),
      expect.stringContaining('immutable'),
    ]);
    const packed = await page.request.get(`${stage.address}${built!}`);
    expect(packed.headers()['content-encoding']).toBe('gzip');
    // Everything is kept once it is active.
    await page.evaluate(() => navigator.serviceWorker.ready.then(() => undefined));
    await page.getByRole('button', { name: 'New project', exact: true }).click();
    await page.waitForURL(/project/);
    await page.getByLabel('Choose videos', { exact: true }).setInputFiles(await codedClip('bframes'));
    await setSpan(page, 10, 40);
    await addBoomerang(page, { trips: 1, back: '100', turn: 'once' });
    await expect(page.getByRole('status').filter({ hasText: /^Saved$/ })).toBeVisible();
    await stage.stopServing();
    await page.reload();
    await expect(page.getByTestId('length')).toContainText('58 f');
    expect(await page.evaluate(() => crossOriginIsolated)).toBe(true);
    await page.getByRole('link', { name: 'Render' }).first().click();
    const download = page.waitForEvent('download', { timeout: 60_000 });
    await page.getByRole('button', { name: 'Render 58 frames' }).click();
    await download;
    await expect(page.getByTestId('render-proof')).toHaveAttribute('data-as-ordered', 'true');
    await page.goto(stage.address);
    await expect(page.getByRole('button', { name: /^Open New project/ })).toBeVisible();
    expect(errors.filter((e) => !/Failed to load resource|ERR_CONNECTION|demo/.test(e))).toEqual([]);
  } finally {
    await stage.close();
  }
});

test(
  'the bar is painted soon after the page’s own scripts came; the shelf starts without the bench',
  ALONE,
  async ({ page, stage }) => {
    const own = (await (await page.request.get(stage.address)).text()).match(/\/assets\/[\w.-]+\.js/g)!;
    const starts = () =>
      page.evaluate((own) => {
        const scripts = performance.getEntriesByType('resource') as PerformanceResourceTiming[];
        const first = scripts.filter((s) => own.some((o) => s.name.endsWith(o)));
        const came = Math.max(0, ...first.map((s) => s.responseEnd));
        const [painted] = performance.getEntriesByName('first-contentful-paint');
        return { after: painted!.startTime - came, names: scripts.map((s) => s.name) };
      }, own);
    const after: number[] = [];
    for (let turn = 0; turn < 8 && Math.min(Infinity, ...after) >= 150; turn++) {
      await page.reload();
      await expect(page.getByRole('button', { name: 'New project', exact: true })).toBeVisible();
      const { after: ms, names } = await starts();
      expect(names.filter((n) => /project-pages|render-page/.test(n))).toEqual([]);
      after.push(ms);
    }
    console.log(`  painted after the scripts: ${after.map(Math.round)} ms`);
    expect(Math.min(...after)).toBeLessThan(150);
  },
);
