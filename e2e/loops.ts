/** `npm run demo:loops`: renders the small loops of the first page with the application itself, from the demo's clips. */
import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, run } from './coded-clips';
import { enter, render, setSpan, startWith } from './journey';
import { openStage } from './stage';

interface Loop {
  readonly name: string;
  readonly clip: string;
  readonly span: readonly [number, number];
  make(page: Page): Promise<void>;
}

const add = (page: Page, move: string) =>
  page.getByRole('button', { name: new RegExp(`^Add ${move}\\.`) }).click();

const LOOPS: readonly Loop[] = [
  {
    name: 'there-and-back',
    clip: 'lantern.mp4',
    span: [24, 62],
    async make(page) {
      await add(page, 'Boomerang');
      await enter(page, 'Boomerang: Round trips', '1');
    },
  },
  {
    name: 'scratch',
    clip: 'drummer.mp4',
    span: [112, 168],
    async make(page) {
      await add(page, 'Speed');
      await enter(page, 'Speed: Speed', '60');
      await add(page, 'Scratch');
      await enter(page, 'Scratch: At', '18');
      await enter(page, 'Scratch: Slice', '5');
      await add(page, 'Boomerang');
      await enter(page, 'Boomerang: Round trips', '1');
    },
  },
  {
    name: 'freeze',
    clip: 'tea.mp4',
    span: [120, 232],
    async make(page) {
      await add(page, 'Speed');
      await enter(page, 'Speed: Speed', '60');
      await add(page, 'Hold');
      await enter(page, 'Hold: For', '14');
      await add(page, 'Boomerang');
      await enter(page, 'Boomerang: Round trips', '1');
    },
  },
  {
    name: 'stop-motion',
    clip: 'pinwheels.webm',
    span: [30, 75],
    async make(page) {
      await add(page, 'Boomerang');
      await enter(page, 'Boomerang: Round trips', '1');
      await add(page, 'Step');
      await enter(page, 'Step: Pictures a second', '7');
    },
  },
];

const to = join(import.meta.dirname, '..', 'web', 'public', 'loops');
await mkdir(to, { recursive: true });
const stage = await openStage();
try {
  for (const loop of LOOPS) {
    const { page } = await stage.newPage();
    await startWith(page, join(import.meta.dirname, '..', 'demo', 'media', loop.clip));
    await setSpan(page, ...loop.span);
    await loop.make(page);
    const file = await render(page, 'webm-vp9', join(WORK, `loop-${loop.name}.webm`));
    await run('ffmpeg', [
      ...['-y', '-i', file, '-vf', 'scale=432:-2', '-an', '-c:v', 'libvpx-vp9', '-crf', '36', '-b:v', '0'],
      join(to, `${loop.name}.webm`),
    ]);
    await page.context().close();
    console.log(loop.name);
  }
} finally {
  await stage.close();
}
