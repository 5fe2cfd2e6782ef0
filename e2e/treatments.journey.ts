/** Every treatment by itself: the picture on the screen and the file, held against the core on the frames of another decoder. */
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { drawStack, layersOf, tablesOf } from '@skipback/core/looks/draw';
import { LookSchema } from '@skipback/core/looks/look';
import { TREATMENTS as ALL } from '@skipback/core/looks/registry';
import { resolveLooks } from '@skipback/core/looks/resolve';
import { Matter } from '@skipback/core/pixels/matter';
import { planesBytes, planesIn } from '@skipback/core/pixels/planes';
import { Surface } from '@skipback/core/pixels/surface';
import { WORK, run } from './coded-clips';
import { openEdited } from './edited-project';
import { expect, render, setSpan, startWith, test } from './journey';

/** Those that draw on one picture; what the others make of several is measured in journeys of their own. */
const TREATMENTS = ALL.filter((t) => !t.gather);
const LANTERN = join(import.meta.dirname, '../demo/media/lantern.mp4');
const SIZE = { width: 640, height: 360 };
/** Frames that each look is given, one look after the other. */
const EACH = 1;

/** Brings the picture on the bench to the project's own size. */
async function pictureAtFullSize(page: Page): Promise<void> {
  for (let height = 700; height < 1100; height++) {
    await page.setViewportSize({ width: 1400, height });
    // Until the page has been laid out anew.
    await page.evaluate(async () => {
      for (let i = 0; i < 3; i++) await new Promise((next) => requestAnimationFrame(next));
    });
    const box = await page.getByTestId('picture').boundingBox();
    if (box!.width === SIZE.width && box!.height === SIZE.height) return;
    if (box!.height < SIZE.height) height += Math.max(0, Math.floor((SIZE.height - box!.height) * 1.5) - 2);
  }
  throw new Error('the picture never has the size of the project');
}

const decibels = (a: Uint8Array, b: Uint8Array): number => {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i]! - b[i]!) ** 2;
  return 10 * Math.log10((255 * 255 * a.length) / Math.max(1e-9, sum));
};

test('every treatment, one of them driven: picture and file show what the core makes of the decoded frames', async ({
  page,
}) => {
  test.setTimeout(300_000);
  const { width, height } = SIZE;
  // As on a machine of four cores, where three threads draw.
  const threads: string[] = [];
  page.context().on('request', (request) => {
    if (/pixel-worker/.test(request.url())) threads.push(request.url());
  });
  await page.addInitScript(() => Object.defineProperty(navigator, 'hardwareConcurrency', { value: 4 }));
  await page.reload();
  const clip = join(WORK, 'small-lantern.mp4');
  await run('ffmpeg', [
    ...['-y', '-i', LANTERN, '-vf', `scale=${width}:${height}`, '-an', '-c:v', 'libx264', '-crf', '16'],
    ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', clip],
  ]);
  await startWith(page, clip);
  await setSpan(page, 20, 20 + EACH * TREATMENTS.length);
  const frames = EACH * TREATMENTS.length;
  // One of them by the speed: from its own value at none to one half as large again at twice the clip's.
  const own = Number(TREATMENTS.find((t) => t.id === 'punch')!.defaults['zoom']);
  const bySpeed = {
    kind: 'speed',
    fromPercent: 0,
    from: own,
    toPercent: 200,
    to: own + Math.max(20, own / 2),
  };
  // One on what differs from the clip's own first frame; what is laid on is of the same clip too.
  const values = (id: string, clipId: string): object =>
    id === 'punch'
      ? { zoom: bySpeed }
      : id === 'overlay'
        ? { clip: clipId, blend: 'screen', x: 40, size: 80, turn: 9, from: 3 }
        : id === 'plate'
          ? { frame: 2, x: 5.5 }
          : {};
  const looksOf = (clipId: string) =>
    TREATMENTS.map(({ id }, i) =>
      LookSchema.parse({
        id,
        look: id,
        values: values(id, clipId),
        scope: { all: [{ kind: 'range', from: EACH * i, to: EACH * (i + 1) }] },
        matte: id === 'grade' ? { frame: 0, threshold: 4 } : null,
      }),
    );
  let clipId = '';
  await openEdited(page, 'every-look', (project) => {
    clipId = project.clips[0]!.id;
    return { ...project, looks: looksOf(clipId) };
  });
  // The same in plain calls of the core, on the frames that another program decodes.
  const bytes = planesBytes(width, height);
  const decode = (file: string, filter: string) =>
    run('ffmpeg', [
      '-i',
      file,
      '-vf',
      filter,
      '-fps_mode',
      'passthrough',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'yuv420p',
      '-',
    ]);
  const all = await decode(clip, `trim=end_frame=${20 + frames}`);
  const source = all.subarray(20 * bytes);
  const planes = (n: number) =>
    planesIn(new Uint8Array(all.subarray(n * bytes, (n + 1) * bytes)), width, height);
  const rate = { num: 30_000, den: 1001 };
  const { drawn } = resolveLooks(
    looksOf(clipId),
    {
      frames,
      rateHz: rate.num / rate.den,
      speeds: new Float64Array(frames).fill(1),
      joins: [0],
      turns: [],
      marks: new Map(),
      music: undefined,
    },
    {
      around: () => ({
        ...{ clipId, framing: 'fit', clipFrames: 120, first: 0, end: frames },
        held: () => undefined,
        shotOf: () => ({ first: 0, end: 120 }),
        shown: (frame) => 20 + frame,
        madeOf: (frame) => new Map([[20 + frame, 1]]),
      }),
      brought: () => ({
        ...{ name: '', size: SIZE, framing: 'fit', clear: false, hasSound: false },
        table: { kind: 'constant', rate, count: 120 },
      }),
    },
  );
  const surface = new Surface(width, height);
  const matter = new Matter(width, height);
  const predicted = drawn.map((stack, n) => {
    surface.load(planes(20 + n));
    const layers = stack.flatMap(layersOf).map((l) => planes(l.frames[0]!));
    drawStack(surface, stack, 1, tablesOf({}), layers, ({ matte }) => {
      const half = matter.make(planes(20 + n), layers[layers.length - 1]!, matte!, 1);
      return matter.spread(half, matte!, width, height, 1);
    });
    const rgba = surface.pixels.slice();
    const stored = new Uint8Array(bytes);
    surface.store(planesIn(stored, width, height));
    return { rgba, planes: stored };
  });

  await pictureAtFullSize(page);
  const differing: string[] = [];
  for (const [i, { name }] of TREATMENTS.entries()) {
    await page.keyboard.press('Home');
    for (let n = 0; n < EACH * i; n++) await page.keyboard.press('ArrowRight');
    await expect(page.getByText(`frame ${EACH * i} of ${frames}`)).toBeVisible();
    await expect(async () => {
      const shot = join(WORK, 'treated.png');
      await page.getByTestId('picture').screenshot({ path: shot });
      const seen = await run('ffmpeg', ['-i', shot, '-f', 'rawvideo', '-pix_fmt', 'rgba', '-']);
      let others = 0;
      const { rgba } = predicted[EACH * i]!;
      for (let b = 0; b < rgba.length; b++) if (b % 4 !== 3 && rgba[b] !== seen[b]) others++;
      // Its rounded corners are not part of the picture.
      expect(others, name).toBeLessThan(200);
      differing.push(`${name} ${others}`);
    }).toPass({ timeout: 20_000 });
  }

  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Quality', { exact: true }).selectOption('finest');
  const file = await render(page, 'webm-vp9', join(WORK, 'every-look.webm'));
  await expect(page.getByTestId('render-proof')).toContainText('drawn on');
  const made = await decode(file, 'null');
  expect(made.length).toBe(bytes * frames);
  const near: string[] = [];
  for (let n = 0; n < frames; n++) {
    const shown = made.subarray(n * bytes, (n + 1) * bytes);
    const { name } = TREATMENTS[Math.floor(n / EACH)]!;
    const db = decibels(shown, predicted[n]!.planes);
    near.push(`${name} ${db.toFixed(1)}`);
    // What the encoder leaves of it at its finest; an outline is all edges, which it finds hardest.
    expect(db, near.join('; ')).toBeGreaterThan(36);
    if (drawn[n]!.length > 0)
      expect(db).toBeGreaterThan(decibels(shown, source.subarray(n * bytes, (n + 1) * bytes)) + 4);
  }
  expect(threads.length).toBeGreaterThanOrEqual(6);
  console.log(`bytes that differ on the screen: ${differing.join(', ')}\nfile: ${near.join(', ')} dB`);
});
