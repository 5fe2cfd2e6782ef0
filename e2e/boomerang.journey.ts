import { join } from 'node:path';
import { CODED, WORK, codedClip, pictureHashes, probe, readNumbers, unevenTimes } from './coded-clips';
import {
  type BoomerangChoice,
  addBoomerang,
  down,
  expect,
  render,
  setBoomerang,
  setSpan,
  startWith,
  test,
  times,
  up,
  turnOnce,
} from './journey';

const once: BoomerangChoice = { trips: 1, back: '100', turn: 'once' };
/** A boomerang of [a, b) with one result frame a source frame. */
const turnTwice = (a: number, b: number) => [...up(a, b - 1), ...down(b - 1, a)];

interface Case {
  readonly span: [number, number];
  readonly choice: BoomerangChoice;
  readonly shows: number[];
  readonly formats?: ('mp4-h264' | 'webm-vp9' | 'webm-av1')[];
}

/** By clip: the boomerangs built on it one after the other, and what is read back of their files. */
const CLIPS: readonly {
  readonly words: string;
  readonly clip: keyof typeof CODED;
  readonly projectRate?: string;
  readonly cases: readonly Case[];
}[] = [
  {
    words: 'B-frames and one long group, turning once, twice, and backward at 200 %',
    clip: 'bframes',
    cases: [
      {
        span: [100, 160],
        choice: once,
        shows: turnOnce(100, 160),
        formats: ['mp4-h264', 'webm-vp9', 'webm-av1'],
      },
      { span: [100, 160], choice: { ...once, turn: 'twice' }, shows: turnTwice(100, 160) },
      {
        span: [100, 160],
        choice: { trips: 3, back: '200 %', turn: 'twice' },
        shows: times(3, [...up(100, 159), ...down(159, 101, 2)]),
        formats: ['webm-vp9'],
      },
    ],
  },
  {
    words: 'VP9, three trips',
    clip: 'vp9',
    cases: [
      {
        span: [110, 140],
        choice: { ...once, trips: 3 },
        shows: times(3, turnOnce(110, 140)),
        formats: ['mp4-h264', 'webm-vp9'],
      },
    ],
  },
  { words: '29.97', clip: 'ntsc', cases: [{ span: [50, 80], choice: once, shows: turnOnce(50, 80) }] },
  {
    words: '60 in a project of 30',
    clip: 'fast',
    projectRate: '30',
    cases: [
      {
        span: [100, 160],
        choice: once,
        shows: [...up(101, 159, 2), ...down(157, 103, 2)],
        formats: ['webm-vp9'],
      },
    ],
  },
  {
    words: 'uneven frame times',
    clip: 'uneven',
    cases: [
      {
        span: [60, 90],
        choice: { ...once, turn: 'twice' },
        shows: (() => {
          const starts = unevenTimes(200);
          const there = Array.from({ length: 40 }, (_, i) =>
            starts.findLastIndex((t) => t <= 60 / 30 + 20 / 30 + (i + 0.5) / 30),
          );
          return [...there, ...there.toReversed()];
        })(),
        formats: ['mp4-h264', 'webm-vp9'],
      },
    ],
  },
];

for (const { words, clip, projectRate, cases } of CLIPS)
  test(`boomerangs of coded frames come out exact: ${words}`, async ({ page }) => {
    await startWith(page, await codedClip(clip));
    if (projectRate) {
      await page.getByRole('link', { name: 'Render' }).first().click();
      await page.getByLabel('Project rate').selectOption(projectRate);
      await page.getByRole('link', { name: 'Weave' }).click();
    }
    const rate = projectRate ?? (clip === 'uneven' ? '30' : CODED[clip].rate);
    const [num, den = 1] = rate.split('/').map(Number) as [number, number?];
    for (const [i, c] of cases.entries()) {
      await setSpan(page, ...c.span);
      if (i === 0) await page.getByRole('button', { name: /^Add Boomerang/ }).click();
      await setBoomerang(page, c.choice);
      await expect(page.getByTestId('length')).toContainText(`${c.shows.length} f`);
      await expect(page.getByRole('button', { name: /^All checks/ })).not.toContainText('jump');
      for (const format of c.formats ?? ['mp4-h264']) {
        const file = await render(page, format, join(WORK, `out-${clip}.${format.slice(0, 4)}`));
        expect(await readNumbers(file)).toEqual(c.shows);
        const found = await probe(file);
        expect(Math.abs(found.durationS - (c.shows.length * den) / num)).toBeLessThan((0.5 * den) / num);
      }
      await page.getByRole('link', { name: 'Weave' }).click();
    }
  });

test('what repeats is encoded once: the file plays its loops and trips without a seam, each picture as the first time', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 10, 40);
  await addBoomerang(page, { ...once, trips: 2 });
  await page.getByRole('link', { name: 'Render' }).first().click();
  await page.getByLabel('Times it plays').fill('3');
  await page.getByLabel('Times it plays').press('Enter');
  for (const format of ['mp4-h264', 'webm-vp9', 'webm-av1'] as const) {
    const file = await render(page, format, join(WORK, `out-loops.${format.slice(0, 4)}`));
    await expect(page.getByTestId('render-proof')).toContainText('58 pictures; the others repeat them');
    const shown = await readNumbers(file);
    expect(shown).toEqual(times(6, turnOnce(10, 40)));
    shown.forEach((n, i) => expect(Math.abs(n - shown[(i + 1) % shown.length]!)).toBe(1));
    const pictures = await pictureHashes(file);
    expect(pictures).toEqual(times(6, pictures.slice(0, 58)));
  }
});
