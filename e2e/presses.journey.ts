/** The jobs that people do most, in as few presses as they may take. */
import type { Page } from '@playwright/test';
import { codedClip } from './coded-clips';
import { card, expect, startWith, test } from './journey';
import { BEATS, withClicks } from './music-hands';
import { clickTrack } from './songs';
import { Presses } from './presses';

const length = (page: Page) => page.getByTestId('length');
const looks = (page: Page) => page.getByRole('group', { name: 'Looks of this piece' });
const moves = (page: Page) => page.getByRole('button', { name: 'Moves', exact: true }).click();

/** A piece of its own for a job: the clip as it came in. */
async function fresh(page: Page, clip = 'bframes-30.mp4'): Promise<void> {
  await page.getByRole('button', { name: `Add a piece of ${clip}` }).click();
  await moves(page);
}
const job = (page: Page) => (words: string, aim: number) => new Presses(page, words, aim);

test('loops, pace and stops, each in a handful of presses', async ({ page }) => {
  const begin = job(page);
  await startWith(page, await codedClip('bframes'));

  let hand = begin('there and back to exactly 8 s', 3);
  await hand.add('Boomerang');
  await hand.choose('Boomerang: Set by', { label: 'total length' });
  await hand.type('Boomerang: Total length', '8 s');
  await expect(length(page)).toContainText('240 f');
  hand.done();

  await fresh(page);
  hand = begin('zones with their own speeds, own sound following', 4);
  await hand.add('Ramp');
  await hand.button('Ramp: Speeds as text');
  await hand.type('Ramp: Speeds', '0: 50, 20: -100, 40: 200');
  await hand.key('Shift+U');
  await expect(page.getByText('The clips’ own sound is heard')).toBeVisible();
  hand.done();

  await fresh(page);
  hand = begin('fast back, colours split on the way back', 3);
  await hand.recipe('Colours split on the way back');
  await expect(
    looks(page)
      .getByRole('button', { name: 'Where Split applies: backward parts' })
      .or(card(page, 'Split'))
      .first(),
  ).toBeVisible();
  hand.done();

  await fresh(page);
  hand = begin('crawl, burst, bump back, torn bars, home, whoosh', 8);
  await hand.recipe('Crawl, burst, bump back');
  await expect(card(page, 'Torn bars')).toBeVisible();
  hand.done();

  await fresh(page);
  await page.keyboard.press('End');
  hand = begin('a freeze', 2);
  await hand.key('h');
  await hand.type('Hold: For', '30');
  hand.done();
  hand = begin('a hold typed and dragged', 4);
  await hand.key('h');
  await hand.type('Hold: For', '20');
  await hand.drag(page.getByRole('slider', { name: /^End of segment 2, result frame/ }).last(), 12, 0);
  hand.done();

  await fresh(page);
  hand = begin('fast-slow-fast, pulsing wandering outline, bursts of blur, a key slid', 11);
  await hand.recipe('Fast, slow, fast, outlined');
  await hand.button('What moves Outline: Own shift across');
  await hand.choose('Outline: Own shift across moves', 'keys');
  await hand.type('Outline: Own shift across, keyframe 2 at', '12');
  hand.done();

  await fresh(page);
  hand = begin('smear held', 3);
  await hand.recipe('Slow smear');
  await expect(card(page, 'Smear')).toBeVisible();
  hand.done();
  hand = begin('smear held, less in one place', 6);
  hand.count = 2;
  await hand.button('What moves Smear: Strength');
  await hand.choose('Smear: Strength moves', 'keys');
  await hand.type('Smear: Strength, keyframe 2', '20');
  hand.done();

  await fresh(page);
  hand = begin('spool in a part: tape, sign, sound', 4);
  await hand.recipe('Fast-forward under tape lines');
  await hand.menu('Spool', 'Apply to a part');
  await expect(
    looks(page)
      .getByRole('button', { name: /^Where (Blur|Worn tape|Sign) applies|its values$/ })
      .first(),
  ).toBeVisible();
  hand.done();

  await fresh(page);
  hand = begin('three rewinds, one taken away', 8);
  for (let i = 0; i < 3; i++) {
    await hand.add('Rewind');
    await hand.type('Rewind: Back to source frame', String(110 + 10 * i));
  }
  await hand.key('Delete');
  await expect(page.getByText('Rewind is removed.')).toBeVisible();
  hand.done();
});

test('on the music, and on what is tracked', async ({ page }) => {
  const begin = job(page);
  await startWith(page, await codedClip('bframes'), await codedClip('fast'));
  await withClicks(page);

  let hand = begin('surge on beats, shutter, contrast, vignette', 5);
  await moves(page);
  await hand.recipe('Surge on every beat, graded');
  await expect(card(page, 'Vignette')).toBeVisible();
  hand.done();

  await fresh(page);
  hand = begin('turns on drops, two of them soft, blur and shake where fast', 9);
  await hand.recipe('Turns on the beats, two soft');
  await expect(card(page, 'Shake')).toBeVisible();
  hand.done();

  await fresh(page);
  hand = begin('kicks push, two hits, shake, subject apart, whoosh', 10);
  await hand.add('Push');
  await hand.button('Looks');
  await hand.add('Flash');
  await hand.add('Shake');
  await hand.add('Backdrop');
  await expect(page.getByLabel('Backdrop: region', { exact: true })).toHaveValue('ellipse');
  await hand.button('Sound');
  await hand.click(page.getByLabel(/^Whoosh/i).first());
  await page.keyboard.press('Escape');
  // Two hits that rest.
  await page.keyboard.press('Home');
  for (let i = 0; i < 2; i++) await hand.key('h');
  hand.done();

  await fresh(page);
  hand = begin('hit on the beat, flash, tinted copy shifted in a region', 7);
  await hand.recipe('Hit with flash and shifted copy');
  await page.getByRole('button', { name: 'Moves', exact: true }).click();
  hand.count++;
  await hand.add('Land');
  await hand.click(card(page, 'Tint'));
  await hand.choose('Tint: region', 'ellipse');
  await page.keyboard.press('Escape');
  hand.done();

  await fresh(page);
  hand = begin('fast-forward under an overlay with its sound', 3);
  await hand.add('Spool');
  await hand.button('Looks');
  await hand.add('Overlay');
  await expect(page.getByLabel('Overlay: Picture of', { exact: true })).not.toHaveValue('');
  hand.done();

  await fresh(page);
  hand = begin('out and back further, softened, subject locked and centred', 5);
  await hand.key('t');
  hand.count++;
  await page.getByTestId('choose-place').click({ position: { x: 300, y: 200 } });
  await expect(page.getByText(/tracked over|nothing to hold on to/).first()).toBeVisible({ timeout: 30_000 });
  await page.keyboard.press('Escape');
  await hand.recipe('Locked out and back');
  hand.done();

  await fresh(page);
  hand = begin('trail in a followed region, behind a post, on a quick pass', 7);
  await hand.recipe('Trail on a quick pass');
  await hand.choose('Trail: region', { label: 'on what I track now …' });
  hand.count++;
  await page.getByTestId('choose-place').click({ position: { x: 320, y: 210 } });
  await expect(page.getByLabel('Trail: region', { exact: true })).toHaveValue('ellipse');
  await expect(page.getByText(/tracked over|nothing to hold on to/).first()).toBeVisible({ timeout: 30_000 });
  await page.keyboard.press('Escape');
  await hand.button('Looks');
  await hand.add('Plate');
  await expect(page.getByText(/^looking through/)).toBeVisible();
  const region = page.getByLabel('Plate: region', { exact: true });
  await expect(region).toHaveValue('rectangle');
  // Onto the post: it is on the picture already.
  await page.getByRole('button', { name: 'Leave the picture' }).waitFor();
  await hand.drag(page.getByLabel('The region', { exact: true }), 120, 0);
  await expect(page.getByText(/^looking through/)).toHaveCount(0, { timeout: 30_000 });
  hand.done();
});

test('the first minutes: own clip to a loop, to the beat of an own song, flash on its kicks, file', async ({
  page,
}) => {
  // As a newcomer has it: what is added plays at once.
  await page.evaluate(() => localStorage.removeItem('skip-back-plays-added'));
  await page.addInitScript("localStorage['skip-back-plays-added'] = 'yes'");
  await page.reload();
  const begin = job(page);
  const hand = begin('own clip to a looping boomerang', 3);
  hand.count++;
  await page.getByLabel('Choose videos or a project file').setInputFiles(await codedClip('bframes'));
  await page.waitForURL(/project/);
  await hand.button('Moves');
  await hand.add('Boomerang');
  const plays = page.getByRole('button', { name: 'Stop', exact: true });
  await expect(plays).toBeVisible();
  await expect(page.getByTestId('timecode')).not.toHaveText('00:00:00:00');
  const looped = await length(page).textContent();
  hand.done();

  let on = begin('… to the beat of an own song', 6);
  on.count = hand.count + 1;
  await page
    .getByLabel('Choose videos', { exact: true })
    .setInputFiles(await clickTrack('first.wav', BEATS, 20));
  const offer = page.getByRole('group', { name: 'What can listen to the song' });
  await expect(offer).toBeVisible({ timeout: 60_000 });
  await on.click(offer.getByRole('button', { name: /^Fit to \d+ bars?$/ }));
  await expect(length(page)).not.toHaveText(looped!);
  // Still where one was, still playing.
  await expect(plays).toBeVisible();
  await expect(card(page, 'Fit')).toBeVisible();
  on.done();

  const { count } = on;
  on = begin('… flash on its kicks', 7);
  on.count = count;
  await on.button('Looks');
  await on.add('Flash');
  await expect(
    looks(page)
      .getByText(/on (kicks|beats|snares)/)
      .first(),
  ).toBeVisible();
  on.done();

  const before = on.count;
  on = begin('… file', 9);
  on.count = before;
  await on.click(page.getByRole('link', { name: 'Render' }).first());
  const download = page.waitForEvent('download');
  await on.button(/^Render \d+ frames/);
  await download;
  on.done();
});
