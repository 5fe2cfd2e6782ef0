/** `npm run size`: what large material costs, each figure with its bound; fails where one is passed. Part of `npm run bench`. */
import { codedClip } from '../coded-clips';
import { openStage } from '../stage';
import { type Figure, fourK, halfHourSong, ofClip, ofPieces, ofSong, threeHours } from './size';
import type { Page } from '@playwright/test';

let passed = 0;
async function print(what: (page: Page) => Promise<Figure[]>): Promise<void> {
  // A browser each: what one held is not the next one's.
  const stage = await openStage();
  const { page } = await stage.newPage();
  for (const { words, value, most, unit } of await what(page)) {
    if (value > most) passed++;
    console.log(`  ${words}: ${value.toFixed(1)} ${unit}, at most ${most}${value > most ? ' PASSED' : ''}`);
  }
  await stage.close();
}
console.log('Size:');
const [slow, fast, long] = [await fourK(30), await fourK(60), await threeHours()];
await print((page) => ofClip(page, '4K at 30', slow));
await print((page) => ofClip(page, '4K at 60', fast));
await print((page) => ofClip(page, 'three hours of 1080p', long));
const song = await halfHourSong();
await print((page) => ofSong(page, slow, song));
await print(async (page) => ofPieces(page, await codedClip("large")));
process.exit(passed > 0 ? 1 : 0);
