/** What lies between two shots of one clip: nothing. */
import { texture } from '@skipback/core/flow/moving-textures';
import { join } from 'node:path';
import { WORK, type ClipRecipe, codedLuma, drawnClip, readNumbers, run, x264 } from './coded-clips';
import { enter, expect, openReading, render, setSpan, startWith, test } from './journey';

const CUT = 37;
const recipe: ClipRecipe = {
  ...{ file: 'two-shots-30.mp4', width: 320, height: 180, frames: 80, rate: '30' },
  // Not a key frame at the cut: it is found by what is seen.
  encode: x264('-bf', '2', '-g', '250', '-keyint_min', '250', '-sc_threshold', '0'),
};

/** A corner that says in which shot one is. */
const SIGN = { side: 40, lights: [70, 180] } as const;

/** Two shots of clouds that drift, alike in light and in kind, with the frame's number across. */
const twoShots = (): Promise<string> =>
  drawnClip(recipe, (n, luma) => {
    codedLuma(recipe, n, luma);
    const [seed, drift] = n < CUT ? [41, 1.5] : [43, -1.2];
    for (let y = 0; y < recipe.height; y++) {
      if (y >= recipe.height * 0.35 && y < recipe.height * 0.65) continue;
      for (let x = 0; x < recipe.width; x++)
        luma[y * recipe.width + x] =
          x < SIGN.side && y < SIGN.side
            ? SIGN.lights[n < CUT ? 0 : 1]
            : 40 + Math.round(170 * texture(x - drift * n, y, seed, 24));
    }
  });

/** How light the corner is in each frame of a file. */
const signsOf = async (file: string): Promise<number[]> => [
  ...(await run('ffmpeg', [
    ...['-i', file, '-fps_mode', 'passthrough', '-vf', 'crop=24:24:8:8,scale=1:1:flags=area'],
    ...['-f', 'rawvideo', '-pix_fmt', 'gray', '-'],
  ])),
];

test('over a cut nothing is mixed or moved, whatever makes the frames between: it is said, and the file shows it', async ({
  page,
}) => {
  await startWith(page, await twoShots());
  await setSpan(page, CUT - 7, CUT + 7);
  await page.getByRole('button', { name: /^Add Speed/ }).click();
  await enter(page, 'Speed: Speed', '50 %');
  const cuts = page.getByRole('group', { name: 'Cuts' });
  await expect(cuts).toHaveCount(0);
  await openReading(page);
  const between = page.getByLabel('In-between frames', { exact: true });
  await between.selectOption('mix');
  await expect(cuts).toHaveText(`a cut at${CUT} ×· the nearer frame stands there`);
  for (const way of ['mix', 'flow']) {
    await between.selectOption(way);
    await page.getByRole('link', { name: 'Render' }).first().click();
    await page.getByLabel('Quality', { exact: true }).selectOption('finest');
    const file = await render(page, 'webm-vp9', join(WORK, `over-a-cut-${way}.webm`));
    const [numbers, signs] = [await readNumbers(file), await signsOf(file)];
    expect(numbers).toHaveLength(28);
    // Each picture is of one shot: the corner is never between, and both frames at the cut are there as they are.
    const own = signs.map((light) =>
      SIGN.lights.map((of) => Math.abs(light - ((of - 16) * 255) / 219) < 8).indexOf(true),
    );
    // By flow at half speed every second picture is a frame as it is, and what lies between two is as near to both.
    const first = way === 'mix' ? 14 : 13;
    expect(own).toEqual(Array.from({ length: 28 }, (_, i) => (i < first ? 0 : 1)));
    expect(numbers[first - 1]).toBe(CUT - 1);
    expect(numbers[first]).toBe(CUT);
    await page.getByRole('link', { name: 'Weave' }).click();
  }
  // Kept with the clip: there at once when the project is opened again.
  await page.reload();
  await expect(cuts).toContainText(`a cut at${CUT}`);
  // Said to be none, frames are mixed over it, until it may be one again.
  await page.getByRole('button', { name: `${CUT} is no cut` }).click();
  await expect(cuts).toHaveText('1 cut taken awayBring back');
  await page.getByLabel('In-between frames', { exact: true }).selectOption('mix');
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const signs = await signsOf(await render(page, 'webm-vp9', join(WORK, 'over-no-cut.webm')));
  const mixed = signs.filter((light) =>
    SIGN.lights.every((of) => Math.abs(light - ((of - 16) * 255) / 219) > 25),
  );
  expect(mixed).toHaveLength(2);
  await page.getByRole('link', { name: 'Weave' }).click();
  await page.getByRole('button', { name: 'Bring back', exact: true }).click();
  await expect(cuts).toContainText(`a cut at${CUT}`);
  await enter(page, 'Span out', String(CUT));
  await expect(cuts).toHaveCount(0);
});

test('the cuts of a long clip are looked for where they are needed', async ({ page }) => {
  const LENGTH = 3200;
  const long: ClipRecipe = { ...recipe, file: 'long-two-shots.mp4', width: 192, height: 108, frames: LENGTH };
  const at = 2950;
  const path = await drawnClip(long, (n, luma) => {
    const [seed, drift] = n < at ? [41, 0.5] : [43, -0.4];
    for (let y = 0; y < long.height; y++)
      for (let x = 0; x < long.width; x++)
        luma[y * long.width + x] = 40 + Math.round(170 * texture(x - drift * (n % 40), y, seed, 24));
  });
  await startWith(page, path);
  await setSpan(page, at - 12, at + 12);
  const cuts = page.getByRole('group', { name: 'Cuts' });
  await openReading(page);
  await page.getByLabel('In-between frames', { exact: true }).selectOption('mix');
  await expect(cuts).toContainText(`a cut at${at}`, { timeout: 30_000 });
  const read = () =>
    page.evaluate(async () => {
      const db = await new Promise<IDBDatabase>((resolve) => {
        const asked = indexedDB.open('skip-back');
        asked.onsuccess = () => resolve(asked.result);
      });
      const all = db.transaction('media').objectStore('media').getAll();
      await new Promise((resolve) => (all.onsuccess = resolve));
      return (all.result as { shots?: unknown }[])[0]!.shots;
    });
  // Around the span only: by steps of 240 frames.
  expect(await read()).toEqual({ read: [[2640, 3120]], cuts: [at] });
});
