/**
 * What large material costs: import, first picture, seeks, scrubbing, edits, drawing the weave, the start of a render, and
 * memory. Each time is told against a bare decoder of the same clip on the same machine, and has a bound.
 */
import { mkdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import type { Project } from '@skipback/core/project/schema';
import { WORK, run, x264 } from '../coded-clips';
import { addSong } from '../music-hands';
import { openEdited } from '../edited-project';
import { addBoomerang, addLook, condition, enter, expect, offerLooks, setSpan, startWith } from '../journey';
import { bytesHeld } from '../machine';

/** A figure with what it may be at most. */
export interface Figure {
  readonly words: string;
  readonly value: number;
  readonly most: number;
  readonly unit: string;
}

export interface Clip {
  readonly path: string;
  /** Milliseconds that a bare decoder of one thread takes for a frame, and frames from one key frame to the next. */
  readonly frameMs: number;
  readonly group: number;
}

const there = async (path: string) => ((await stat(path).catch(() => undefined))?.size ?? 0) > 0;

async function measured(path: string, group: number): Promise<Clip> {
  const begun = performance.now();
  await run('ffmpeg', ['-threads', '1', '-i', path, '-frames:v', '120', '-f', 'null', '-']);
  return { path, frameMs: (performance.now() - begun) / 120, group };
}

/** Ten seconds of 3840x2160, with a key frame in 250. */
export async function fourK(rate: 30 | 60): Promise<Clip> {
  await mkdir(WORK, { recursive: true });
  const path = join(WORK, `four-k-${rate}.mp4`);
  const input = ['-f', 'lavfi', '-i', `testsrc2=size=3840x2160:rate=${rate}:duration=10`];
  if (!(await there(path)))
    await run('ffmpeg', ['-y', ...input, ...x264('-preset', 'ultrafast', '-g', '250'), path]);
  return measured(path, 250);
}

/** Three hours of 1920x1080 at 30 frames a second: a minute, 180 times. */
export async function threeHours(): Promise<Clip> {
  await mkdir(WORK, { recursive: true });
  const path = join(WORK, 'three-hours.mp4');
  if (!(await there(path))) {
    const minute = join(WORK, 'one-minute.mp4');
    const input = ['-f', 'lavfi', '-i', 'testsrc2=size=1920x1080:rate=30:duration=60'];
    await run('ffmpeg', [
      '-y',
      ...input,
      ...x264('-preset', 'ultrafast', '-b:v', '2M', '-maxrate', '2M', '-bufsize', '4M', '-g', '60'),
      minute,
    ]);
    await run('ffmpeg', ['-y', '-stream_loop', '179', '-i', minute, '-c', 'copy', path]);
  }
  return measured(path, 60);
}

/** Half an hour of clicks over noise, other noise on either side. */
export async function halfHourSong(): Promise<string> {
  await mkdir(WORK, { recursive: true });
  const path = join(WORK, 'half-hour.ogg');
  const side = (n: number) => `0.02*(random(${n})-0.5)+0.6*sin(2*PI*90*t)*exp(-30*mod(t,0.5))`;
  const sound = `aevalsrc='${side(0)}|${side(1)}':s=44100:d=1800`;
  if (!(await there(path))) await run('ffmpeg', ['-y', '-f', 'lavfi', '-i', sound, '-c:a', 'libopus', path]);
  return path;
}

/** Two drawn pictures of the page from now. */
const drawn = (page: Page) =>
  page.evaluate(
    () => new Promise<void>((done) => requestAnimationFrame(() => requestAnimationFrame(() => done()))),
  );

const timed = async (what: () => Promise<unknown>): Promise<number> => {
  const begun = performance.now();
  await what();
  return performance.now() - begun;
};

/** Does something and waits until the picture's numbers say that a frame came of it. */
async function untilShown(page: Page, what: () => Promise<unknown>): Promise<number> {
  const stats = page.getByTestId('stats');
  const before = await stats.getAttribute('data-told');
  return timed(async () => {
    await what();
    await expect(stats).not.toHaveAttribute('data-told', before!, { timeout: 120_000 });
  });
}

/** Waits until the picture is not the same all over. */
async function anyPicture(page: Page): Promise<void> {
  // A PNG of one colour takes some thousand bytes.
  const bytes = async () => (await page.getByTestId('picture').screenshot()).length;
  await expect.poll(bytes, { timeout: 120_000 }).toBeGreaterThan(8000);
}

const median = (values: readonly number[]) => values.toSorted((a, b) => a - b)[values.length >> 1]!;

/** Milliseconds that the weave takes to be drawn again, closer and wider in turn. */
async function weaveMs(page: Page): Promise<number> {
  const took: number[] = [];
  for (let n = 0; n < 6; n++)
    took.push(
      await timed(async () => {
        await page.locator('body').press(n % 2 ? '-' : '+');
        await drawn(page);
      }),
    );
  return median(took);
}

/** Milliseconds from ordering a render until it says how far it is. */
async function renderBegun(page: Page): Promise<number> {
  await page.getByRole('link', { name: 'Render' }).first().click();
  const render = page.getByRole('button', { name: /^Render \d+ frames/ });
  await render.waitFor();
  return timed(async () => {
    await render.click();
    await page
      .getByText(/frames a second|of \d+ frames|\d+ %/)
      .first()
      .waitFor({ timeout: 120_000 });
  });
}

/** Brings a clip into a new project and works on it. */
export async function ofClip(page: Page, name: string, { path, frameMs, group }: Clip): Promise<Figure[]> {
  const heldBefore = bytesHeld();
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  const importMs = await timed(async () => {
    await page.getByLabel('Choose videos', { exact: true }).setInputFiles(path);
    await page.getByTestId('length').filter({ hasText: /[1-9]/ }).waitFor({ timeout: 120_000 });
  });
  await page.locator('body').press('Shift+L');
  const [firstMs, anyMs] = await Promise.all([
    timed(() => page.getByTestId('stats').waitFor({ timeout: 120_000 })),
    timed(() => anyPicture(page)),
  ]);
  const out = Number(await page.getByLabel('Span out', { exact: true }).inputValue());
  // The frame furthest behind its key frame that the span has.
  const far: number[] = [];
  const scrub: number[] = [];
  for (let n = 0; n < 4; n++) {
    await page.locator('body').press('Home');
    await page.waitForTimeout(300);
    far.push(await untilShown(page, () => page.locator('body').press('End')));
    for (let k = 0; k < 4; k++)
      scrub.push(
        await timed(async () => {
          await page.locator('body').press('ArrowLeft');
          await drawn(page);
        }),
      );
  }
  const editMs = await untilShown(page, () => enter(page, 'Span out', String(out - 7)));
  const weave = await weaveMs(page);
  const startMs = await renderBegun(page);
  const held = bytesHeld() - heldBefore;
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  const inFrames = (ms: number) => ms / frameMs;
  const decoded = 'bare decoded frames';
  return [
    { words: `${name}: imported`, value: importMs / 1000, most: 20, unit: 's' },
    {
      words: `${name}: first picture after that`,
      value: inFrames(firstMs),
      most: 2.5 * group + 450,
      unit: decoded,
    },
    {
      words: `${name}: any picture, on the way to that`,
      value: inFrames(anyMs),
      most: 450,
      unit: decoded,
    },
    { words: `${name}: furthest seek`, value: inFrames(median(far)), most: 1.5 * group + 60, unit: decoded },
    { words: `${name}: one frame on`, value: median(scrub), most: 250, unit: 'ms' },
    { words: `${name}: edit to picture`, value: inFrames(editMs), most: 1.5 * group + 60, unit: decoded },
    { words: `${name}: weave drawn again`, value: weave, most: 250, unit: 'ms' },
    { words: `${name}: render begun`, value: inFrames(startMs), most: 2 * group + 400, unit: decoded },
    { words: `${name}: memory of the page`, value: held / 2 ** 20, most: 1600, unit: 'MB' },
  ];
}

/** Plays a loop of the result for some seconds, and gives the share of its frames that were late, percent. */
async function latePercent(page: Page, seconds: number): Promise<number> {
  await page.locator('body').press('Home');
  await page.locator('body').press('Space');
  await page.waitForTimeout(1000 * seconds);
  const told = (await page.getByTestId('stats').textContent()) ?? '';
  await page.locator('body').press('k');
  const [, late, of] = /(\d+) late of (\d+)/.exec(told) ?? [];
  return (100 * Number(late ?? 0)) / Math.max(1, Number(of ?? 0));
}

/** Cuts with a small copy of a span that goes there and back: what making it takes, and what it spares. */
export async function ofCopy(page: Page, name: string, { path, frameMs }: Clip): Promise<Figure[]> {
  await startWith(page, path);
  await setSpan(page, 100, 160);
  await addBoomerang(page, { trips: 2, back: '100', turn: 'once' });
  await page.locator('body').press('Shift+L');
  await page.waitForTimeout(8000);
  const own = await latePercent(page, 8);
  const copy = page.getByRole('group', { name: 'Preview copy' });
  const frames = 60 + 2 * 30;
  const ms = await timed(async () => {
    await copy.getByRole('button', { name: 'Make a preview copy' }).click();
    await copy.getByText('preview copy in use').waitFor({ timeout: 120_000 });
  });
  await page.waitForTimeout(1500);
  const copied = await latePercent(page, 8);
  return [
    // From the key frame on: a hundred frames lie before the first that is wanted.
    {
      words: `${name}: a copy of ${frames} frames made`,
      value: ms / frameMs / (frames + 70),
      most: 16,
      unit: 'bare decodes a frame decoded',
    },
    { words: `${name}: late while playing the clip itself`, value: own, most: 100, unit: '%' },
    { words: `${name}: late while playing its small copy`, value: copied, most: 5, unit: '%' },
  ];
}

/** A song of half an hour: analysed, and what that takes. */
export async function ofSong(page: Page, clip: string, song: string): Promise<Figure[]> {
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(clip);
  await page.getByTestId('length').filter({ hasText: /[1-9]/ }).waitFor({ timeout: 120_000 });
  const heldBefore = bytesHeld();
  const ms = await timed(() => addSong(page, song));
  return [
    { words: 'song of 30 minutes: in, and its beats found', value: ms / 1000, most: 120, unit: 's' },
    {
      words: 'song of 30 minutes: memory',
      value: (bytesHeld() - heldBefore) / 2 ** 20,
      most: 1300,
      unit: 'MB',
    },
  ];
}

/** A clip that goes there and back for an hour, with looks on every way back. */
export async function ofHour(page: Page, path: string): Promise<Figure[]> {
  await startWith(page, path);
  const heldBefore = bytesHeld();
  await setSpan(page, 0, 300);
  await addBoomerang(page, { trips: 181, back: '100', turn: 'once' });
  await offerLooks(page);
  await addLook(page, 'Flash');
  await condition(page, 'Flash', 'first', { frames: '3', way: 'backward' });
  await expect(page.getByTestId('length')).toContainText(/10\d{4} f/);
  await page.locator('body').press('Shift+L');
  await page.waitForTimeout(3000);
  const edits: number[] = [];
  for (let n = 0; n < 6; n++)
    edits.push(await untilShown(page, () => enter(page, 'Span out', String(299 - n))));
  const weave = await weaveMs(page);
  await page.locator('body').press('Home');
  const far = await untilShown(page, () => page.locator('body').press('End'));
  const startMs = await renderBegun(page);
  const held = bytesHeld() - heldBefore;
  await page.getByRole('button', { name: 'Cancel', exact: true }).click();
  const name = 'a result of an hour';
  return [
    { words: `${name}: edit to picture`, value: median(edits), most: 1500, unit: 'ms' },
    { words: `${name}: weave drawn again`, value: weave, most: 250, unit: 'ms' },
    { words: `${name}: from its first frame to its last`, value: far, most: 1500, unit: 'ms' },
    { words: `${name}: render begun`, value: startMs / 1000, most: 5, unit: 's' },
    { words: `${name}: memory`, value: held / 2 ** 20, most: 1000, unit: 'MB' },
  ];
}

/** The open project with 300 pieces over 40 clips, 200 marks each on five of them, and an hour of result. */
function enlarged(project: Project): Project {
  const [clip] = project.clips;
  const [piece] = project.pieces;
  const marks = Array.from({ length: 200 }, (_, n) => ({ id: `m${n}`, frame: n, name: `mark ${n}` }));
  const clips = Array.from({ length: 40 }, (_, n) => ({
    ...clip!,
    id: `c${n}`,
    name: `clip ${n}`,
    marks: n < 5 ? marks : [],
  }));
  const pieces = Array.from({ length: 300 }, (_, n) => ({
    ...piece!,
    id: `p${n}`,
    clipId: `c${n % 40}`,
    span: { in: n % 20, out: (n % 20) + 200 },
    moves: [],
  }));
  return { ...project, clips, pieces } as Project;
}

export async function ofPieces(page: Page, path: string): Promise<Figure[]> {
  await page.getByRole('button', { name: 'New project', exact: true }).click();
  await page.waitForURL(/project/);
  await page.getByLabel('Choose videos', { exact: true }).setInputFiles(path);
  await page.getByTestId('length').filter({ hasText: /[1-9]/ }).waitFor({ timeout: 120_000 });
  const heldBefore = bytesHeld();
  const openMs = await timed(() => openEdited(page, 'many-pieces', enlarged));
  await page.locator('body').press('Shift+L');
  await page.waitForTimeout(3000);
  const edits: number[] = [];
  for (let n = 0; n < 6; n++)
    edits.push(
      await timed(async () => {
        await enter(page, 'Span out', String(190 - n));
        await drawn(page);
      }),
    );
  const weave = await weaveMs(page);
  const name = '300 pieces over 40 clips, 200 marks on five';
  return [
    { words: `${name}: opened`, value: openMs / 1000, most: 20, unit: 's' },
    { words: `${name}: an edit`, value: median(edits), most: 600, unit: 'ms' },
    { words: `${name}: weave drawn again`, value: weave, most: 250, unit: 'ms' },
    { words: `${name}: memory`, value: (bytesHeld() - heldBefore) / 2 ** 20, most: 1000, unit: 'MB' },
  ];
}
