import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { WORK, codedClip, probe, run } from './coded-clips';
import { expect, render, startWith, test } from './journey';

/** Writes a file for a journey and gives its path. */
async function made(name: string, bytes: Buffer): Promise<string> {
  const path = join(WORK, name);
  await writeFile(path, bytes);
  return path;
}

async function noisy(): Promise<string> {
  const bytes = Buffer.from(await readFile(await codedClip('bframes')));
  const from = Math.floor(bytes.length * 0.45);
  for (let i = 0; i < 4000; i++) bytes[from + i] = (i * 197 + 31) & 255;
  return made('noisy.mp4', bytes);
}

const REFUSED: readonly { words: string; path: () => Promise<string>; says: RegExp }[] = [
  { words: 'zero bytes', path: () => made('zero.mp4', Buffer.alloc(0)), says: /zero\.mp4 is empty/ },
  {
    words: 'text named .mp4',
    path: () => made('letter.mp4', Buffer.from('Dear editor, '.repeat(200))),
    says: /letter\.mp4 is not a video or a picture/,
  },
  {
    words: 'sound only',
    path: async () => {
      const path = join(WORK, 'only-sound.mp4');
      await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'sine=440:duration=1', '-c:a', 'aac', path]);
      return path;
    },
    says: /only-sound\.mp4 has sound but no picture/,
  },
  {
    words: 'cut off before its table',
    path: async () => {
      const whole = await readFile(await codedClip('bframes'));
      return made('cut.mp4', whole.subarray(0, whole.length >> 1));
    },
    says: /cut\.mp4 is broken/,
  },
  {
    words: 'a codec the browser cannot decode',
    path: async () => {
      const path = join(WORK, 'archive.mov');
      await run('ffmpeg', [
        '-y',
        '-f',
        'lavfi',
        '-i',
        'testsrc=size=320x180:rate=25:duration=1',
        '-c:v',
        'prores_ks',
        path,
      ]);
      return path;
    },
    says: /archive\.mov is ProRes, which this browser cannot decode\..*Install ffmpeg.*export it as H\.264/,
  },
];

test('what cannot be used is refused with its sentence, the project whole', async ({ page }) => {
  // As on a machine without ffmpeg: elsewhere it would be converted.
  await page.route('**/convert', (route) =>
    route.fulfill({ json: { available: false, token: '', mostBytes: 0 } }),
  );
  await startWith(page, await codedClip('bframes'));
  for (const { words, path, says } of REFUSED) {
    await page.getByLabel('Choose videos', { exact: true }).setInputFiles(await path());
    await expect(page.getByRole('alert'), words).toContainText(says);
    await expect(page.getByTestId('length')).toContainText('60 f');
    await page.getByRole('button', { name: /^Dismiss/ }).click();
    await expect(page.getByRole('alert')).toHaveCount(0);
  }
});

test('a sound file dropped among the clips becomes the song', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  const path = join(WORK, 'tune.m4a');
  await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', 'sine=440:duration=3', '-c:a', 'aac', path]);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(path);
  await expect(page.getByRole('slider', { name: 'Song, first frame' })).toBeVisible({ timeout: 30_000 });
  await expect(page.getByRole('alert')).toHaveCount(0);
});

test('noise in the middle: used, and the card says which frames are damaged', async ({ page }) => {
  await startWith(page, await noisy());
  await expect(page.getByRole('alert')).toContainText(/damaged/, { timeout: 30_000 });
  await expect(page.getByTestId('length')).toContainText('60 f');
});

test('a WebM cut off near its end is used as far as it goes', async ({ page }) => {
  const whole = await readFile(await codedClip('vp9'));
  await startWith(page, await made('most.webm', whole.subarray(0, Math.floor(whole.length * 0.92))));
  await expect(page.getByText(/most\.webm ends too early/)).toBeVisible();
  await expect(page.getByTestId('length')).toContainText('60 f');
});

test('a clip of one frame, of odd size, or that begins late works', async ({ page, stage }) => {
  for (const [name, frames] of [
    ['single', 1],
    ['odd', 50],
    ['late', 50],
  ] as const) {
    await page.goto(stage.address);
    await startWith(page, await codedClip(name));
    await expect(page.getByTestId('length')).toContainText(`${frames} f`);
    await expect(page.getByRole('alert')).toHaveCount(0);
    await page.getByRole('button', { name: /^Add Boomerang/ }).click();
    await render(page, 'mp4-h264', join(WORK, `works-${name}.mp4`));
  }
});

test('a clip turned a quarter, or of non-square pixels, is seen and rendered as it is meant', async ({
  page,
  stage,
}) => {
  for (const { args, size } of [
    { args: ['-c', 'copy', '-metadata:s:v:0', 'rotate=90'], size: { width: 360, height: 640 } },
    { args: ['-c:v', 'libx264', '-vf', 'setsar=4/3'], size: { width: 852, height: 360 } },
  ]) {
    const path = join(WORK, `shape-${size.width}.mp4`);
    await run('ffmpeg', ['-y', '-i', await codedClip('single'), ...args, path]);
    await page.goto(stage.address);
    await startWith(page, path);
    await expect(page.getByTestId('length')).toContainText('1 f');
    const file = await render(page, 'mp4-h264', join(WORK, `shape-${size.width}-out.mp4`));
    expect(await probe(file)).toMatchObject(size);
  }
});

test('a render goes straight to the file chosen, where the browser can', async ({ page }) => {
  await page.addInitScript(() => {
    const pick = async () =>
      (await navigator.storage.getDirectory()).getFileHandle('chosen.mp4', { create: true });
    Object.assign(window, { showSaveFilePicker: pick });
  });
  await page.reload();
  await startWith(page, await codedClip('bframes'));
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await expect(page.getByTestId('render-proof')).toContainText('chosen.mp4 is ready');
  await expect(page.getByTestId('render-proof')).toHaveAttribute('data-as-ordered', 'true');
  const bytes = await page.evaluate(async () => {
    const root = await navigator.storage.getDirectory();
    return (await (await root.getFileHandle('chosen.mp4')).getFile()).size;
  });
  expect(bytes).toBeGreaterThan(10_000);
});

test.describe('when the browser will not keep files', () => {
  test.use({ allowedErrors: [/quota/i] });
  test('the user is told, and can go on and save a file', async ({ page }) => {
    await page.addInitScript(() => {
      const refuse = () => Promise.reject(new DOMException('full', 'QuotaExceededError'));
      navigator.storage.getDirectory = refuse;
    });
    await page.reload();
    await startWith(page, await codedClip('bframes'));
    await expect(page.getByRole('alert')).toContainText('The browser would not keep bframes-30.mp4');
    await expect(page.getByTestId('length')).toContainText('60 f');
    const download = page.waitForEvent('download');
    await page.getByRole('button', { name: 'Save as a file' }).click();
    expect((await download).suggestedFilename()).toMatch(/\.skipback\.zip$/);
  });
});

test('a cancelled render leaves nothing behind', async ({ page }) => {
  await startWith(page, await codedClip('large'));
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Times it plays').fill('200');
  await page.getByLabel('Times it plays').press('Enter');
  await page.getByRole('button', { name: /^Render \d+ frames/ }).click();
  await expect(page.getByTestId('render-progress')).toContainText(/[1-9]\d* of 12000 frames/);
  await page.getByRole('button', { name: 'Cancel' }).click();
  await expect(page.getByText('Cancelled. Nothing was left behind.')).toBeVisible();
  const left = await page.evaluate(async () => {
    const names: string[] = [];
    const root = await navigator.storage.getDirectory();
    const renders = await root.getDirectoryHandle('renders').catch(() => undefined);
    if (renders) for await (const name of renders.keys()) names.push(name);
    return names;
  });
  expect(left).toEqual([]);
});
