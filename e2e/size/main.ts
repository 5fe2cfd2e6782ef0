/** `npm run size [-- 4k copy 4k60 long song hour pieces project]`: what large material costs, each figure with its bound; fails where one is passed. Part of `npm run bench`. */
import { codedClip } from '../coded-clips';
import { openStage } from '../stage';
import {
  type Figure,
  fourK,
  halfHourSong,
  ofClip,
  ofCopy,
  ofHour,
  ofPieces,
  ofSong,
  threeHours,
} from './size';
import { ofLargeProject } from './large-project';
import type { Page } from '@playwright/test';

let passed = 0;
function tell(figures: readonly Figure[]): void {
  for (const { words, value, most, unit } of figures) {
    if (value > most) passed++;
    console.log(`  ${words}: ${value.toFixed(1)} ${unit}, at most ${most}${value > most ? ' PASSED' : ''}`);
  }
}
async function print(what: (page: Page) => Promise<Figure[]>): Promise<void> {
  // A browser each: what one held is not the next one's.
  const stage = await openStage();
  const { page } = await stage.newPage();
  tell(await what(page));
  await stage.close();
}
const all: Record<string, (page: Page) => Promise<Figure[]>> = {
  '4k': async (page) => ofClip(page, '4K at 30', await fourK(30)),
  copy: async (page) => ofCopy(page, '4K at 30', await fourK(30)),
  '4k60': async (page) => ofClip(page, '4K at 60', await fourK(60)),
  long: async (page) => ofClip(page, 'three hours of 1080p', await threeHours()),
  song: async (page) => ofSong(page, await codedClip('bframes'), await halfHourSong()),
  hour: async (page) => ofHour(page, await codedClip('bframes')),
  pieces: async (page) => ofPieces(page, await codedClip('large')),
};
const chosen = process.argv.slice(2);
console.log('Size:');
for (const [name, what] of Object.entries(all))
  if (chosen.length === 0 || chosen.includes(name)) await print(what);
// Minutes, and twice its size on the disk: only where it is asked for.
if (chosen.includes('project')) tell(await ofLargeProject(6));
process.exit(passed > 0 ? 1 : 0);
