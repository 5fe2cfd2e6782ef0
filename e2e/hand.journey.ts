import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { WORK, codedClip, readNumbers, soundingClip } from './coded-clips';
import { expect, render, setSpan, startWith, test } from './journey';
import { RATE, goTo, withClicks } from './music-hands';
import { toneTrack } from './songs';

type Point = readonly [at: number, source: number];

/** The points of the curve, as its field has them. */
async function pointsOf(page: Page): Promise<Point[]> {
  await page.getByLabel('Curve: Points as text').click();
  const typed = await page.getByLabel('Curve: Points', { exact: true }).inputValue();
  await page.getByLabel('Curve: Points as text').click();
  return typed.split(', ').map((p) => p.split(': ').map(Number) as [number, number]);
}

/** Points at which the source turns round. */
const turnsOf = (points: readonly Point[]): Point[] =>
  points.filter(
    ([, s], i) => i > 0 && points[i + 1] && (s - points[i - 1]![1]) * (points[i + 1]![1] - s) < 0,
  );

const kept = (page: Page) => page.getByText(/frames by hand, \d+ points/);

test('played by hand, the gesture becomes a curve at the playhead, tidied to the beat', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await withClicks(page);
  await setSpan(page, 100, 190);
  await goTo(page, 30);
  await page.keyboard.press('g');
  const wheel = (await page.getByRole('slider', { name: /^Wheel/ }).boundingBox())!;
  const x = wheel.x + wheel.width / 2;
  const y = wheel.y + wheel.height / 2;
  await page.mouse.move(x, y);
  await page.mouse.down();
  await expect(page.getByText('Recording: let go to keep it')).toBeVisible();
  for (const way of [1, -1, 1])
    for (let i = 0; i < 12; i++) {
      await page.mouse.move(x + (way === 1 ? i : 12 - i) * 12, y);
      await page.waitForTimeout(30);
    }
  await page.mouse.up();
  await expect(page.getByText(/frames by hand, \d+ points/)).toBeVisible();
  const points = await pointsOf(page);
  // Before the playhead nothing changed; after the gesture the rest follows, pushed on.
  expect(points[0]).toEqual([0, 0]);
  expect(points.some(([at, source]) => at === 30 && Math.abs(source - 30) < 1)).toBe(true);
  expect(points[points.length - 1]![0]).toBeGreaterThan(100);
  expect(turnsOf(points).length).toBeGreaterThanOrEqual(2);
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Curve: Points as text')).toHaveCount(0);
});

test('dragging on the picture while G is held is a gesture; what was recorded is what is rendered', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 190);
  await goTo(page, 20);
  await page.keyboard.down('g');
  await expect(page.getByRole('group', { name: 'Play by hand' })).toBeVisible();
  const picture = (await page.getByTestId('picture').boundingBox())!;
  const [x, y] = [picture.x + picture.width / 2, picture.y + 60];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (const [i, dx] of [0, 30, 60, 90, 120, 90, 60, 30, 0, -30].entries()) {
    await page.mouse.move(x + dx, y);
    await page.waitForTimeout(i === 4 ? 60 : 35);
  }
  await page.mouse.up();
  await expect(kept(page)).toBeVisible();
  await page.keyboard.up('g');
  await expect(page.getByRole('group', { name: 'Play by hand' })).toHaveCount(0);
  const points = await pointsOf(page);
  // With the one it begins at: where the way up is even, the first point after it is the turn.
  const [top] = turnsOf(points.filter(([at]) => at >= 20));
  // Five pixels are a frame: 24 frames on from the one under the playhead.
  expect(Math.abs(top![1] - 44)).toBeLessThan(2);
  const numbers = await readNumbers(await render(page, 'mp4-h264', join(WORK, 'by-hand.mp4')));
  expect(numbers.slice(0, 20)).toEqual(Array.from({ length: 20 }, (_, i) => 100 + i));
  expect(Math.max(...numbers.slice(20, top![0] + 8))).toBeGreaterThanOrEqual(100 + top![1] - 3);
  expect(numbers[numbers.length - 1]).toBe(189);
});

test('the arrows turn the wheel; the rest after the last turn is not part of the gesture', async ({
  page,
}) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 190);
  await goTo(page, 30);
  await page.getByRole('button', { name: 'Play by hand' }).click();
  // How long the keys were held, by the page's clock: a busy machine holds them longer than is asked here.
  await page.evaluate(() => {
    const held: number[] = [];
    for (const kind of ['keydown', 'keyup'] as const)
      window.addEventListener(kind, (e) => e.repeat || held.push(e.timeStamp), { capture: true });
    Object.assign(window, { held });
  });
  for (const key of ['ArrowLeft', 'ArrowRight']) {
    await page.keyboard.down(key);
    await page.waitForTimeout(400);
    await page.keyboard.up(key);
  }
  await expect(kept(page)).toBeVisible();
  const [leftDown, leftUp, , rightUp] = await page.evaluate(
    () => (window as unknown as { held: number[] }).held,
  );
  const points = await pointsOf(page);
  const low = Math.min(...points.filter(([at]) => at > 30).map(([, source]) => source));
  // 45 frames a second, and no further than the clip's start.
  const turned = ((leftUp! - leftDown!) / 1000) * 45;
  expect(Math.abs(low - Math.max(-100, 30 - turned))).toBeLessThan(3);
  // The gesture is as long as the keys were held, without the time it waited afterwards.
  const frames = Number(/(\d+) frames by hand/.exec((await kept(page).textContent())!)![1]);
  expect(Math.abs(frames - ((rightUp! - leftDown!) / 1000) * RATE)).toBeLessThan(4);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('group', { name: 'Play by hand' })).toHaveCount(0);
});

test('a machine that stalls loses nothing of the gesture', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await setSpan(page, 100, 190);
  await goTo(page, 60);
  await page.getByRole('button', { name: 'Play by hand' }).click();
  await page.evaluate(() => {
    const stall = (ms: number) => {
      for (const end = performance.now() + ms; performance.now() < end;);
    };
    const key = (type: string) =>
      window.dispatchEvent(new KeyboardEvent(type, { key: 'ArrowLeft', bubbles: true }));
    document.body.addEventListener('click', () => {
      key('keydown');
      stall(600);
      key('keyup');
    });
    document.body.click();
  });
  await expect(kept(page)).toBeVisible();
  const low = Math.min(...(await pointsOf(page)).filter(([at]) => at > 60).map(([, source]) => source));
  // 600 ms at 45 frames a second are 27.
  expect(Math.abs(low - (60 - 27))).toBeLessThan(3);
});

test('a MIDI control turns the wheel; a device that is plugged in later is told', async ({ page }) => {
  await startWith(page, await codedClip('bframes'));
  await page.evaluate(() => {
    const input = { name: 'Pier Deck 2', onmidimessage: null as null | ((e: unknown) => void) };
    const access = { inputs: new Map(), onstatechange: null as null | (() => void) };
    Object.assign(navigator, { requestMIDIAccess: () => Promise.resolve(access) });
    Object.assign(window, {
      plugIn: () => {
        access.inputs.set('deck', input);
        access.onstatechange?.();
      },
      send: (...data: number[]) =>
        input.onmidimessage?.({ data: Uint8Array.from(data), timeStamp: performance.now() }),
    });
  });
  await setSpan(page, 100, 190);
  await goTo(page, 30);
  await page.keyboard.press('g');
  await page.getByRole('button', { name: 'Connect' }).click();
  await expect(page.getByTestId('midi')).toHaveText('No MIDI device is connected yet: plug one in.');
  await page.evaluate(() => (window as unknown as { plugIn: () => void }).plugIn());
  await expect(page.getByTestId('midi')).toContainText('Pier Deck 2');
  const turn = (value: number, times: number) =>
    page.evaluate(
      async ([v, n]) => {
        const { send } = window as unknown as { send: (...data: number[]) => void };
        for (let i = 0; i < n!; i++) {
          send(0xb0, 21, v!);
          await new Promise((resolve) => setTimeout(resolve, 30));
        }
      },
      [value, times],
    );
  await turn(2, 8);
  await turn(126, 8);
  await expect(page.getByTestId('midi')).toHaveText('Control 1:21 is the wheel.');
  await expect(kept(page)).toBeVisible();
  const top = Math.max(...(await pointsOf(page)).filter(([at]) => at < 50).map(([, source]) => source));
  expect(Math.abs(top - 46)).toBeLessThan(2);
});

test('the clip’s own sound is under the hand, a record’s where it has none, or nothing', async ({ page }) => {
  // What reaches the loudspeaker is listened to in the page.
  await page.addInitScript(() => {
    const connect = AudioNode.prototype.connect;
    const meters: AnalyserNode[] = [];
    Object.assign(window, {
      heard: () =>
        Math.max(
          0,
          ...meters.map((m) => {
            const data = new Float32Array(m.fftSize);
            m.getFloatTimeDomainData(data);
            return Math.max(...data.map(Math.abs));
          }),
        ),
    });
    const listening = function (this: AudioNode, to: AudioNode, output?: number, input?: number): AudioNode {
      if (to instanceof AudioDestinationNode) {
        const meter = new AnalyserNode(this.context, { fftSize: 8192 });
        connect.call(this, meter as never);
        meters.push(meter);
      }
      connect.apply(this, [to, output, input] as never);
      return to;
    };
    Object.assign(AudioNode.prototype, { connect: listening });
  });
  await page.reload();
  await startWith(page, await soundingClip('tone.mp4', await toneTrack('tone.wav', 500, 10)));
  await setSpan(page, 100, 190);
  await goTo(page, 30);
  await page.keyboard.press('g');
  await expect(page.getByText('Sound of the clip')).toBeVisible();
  await page.waitForTimeout(1500);
  const loudest = async () => {
    let most = 0;
    await page.keyboard.down('ArrowRight');
    for (let i = 0; i < 8; i++) {
      await page.waitForTimeout(60);
      most = Math.max(
        most,
        await page.evaluate(() => (window as unknown as { heard: () => number }).heard()),
      );
    }
    await page.keyboard.up('ArrowRight');
    await expect(page.getByText('Recording: let go to keep it')).toHaveCount(0);
    return most;
  };
  expect(await loudest()).toBeGreaterThan(0.1);
  await page.getByLabel('Sound under the hand').click();
  await page.waitForTimeout(400);
  expect(await loudest()).toBeLessThan(0.01);
});
