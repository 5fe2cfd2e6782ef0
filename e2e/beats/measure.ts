/**
 * `npm run beats [-- SEED…]`: how well beats and bars are found in made songs, and in songs of others' styles where Debian's `mma`,
 * `fluidsynth`, `fluid-soundfont-gm` and `timgm6mb-soundfont` are installed. Every other song lacks its first seconds.
 */
import { type Heard, RIGHT, hear } from './heard';
import { hasStyles } from './styles';
import { songsOf } from './sets';

const seeds = process.argv.slice(2).map(Number);
const heard: Heard[] = [];
for (const song of songsOf(seeds.length > 0 ? seeds : [31])) heard.push(hear(song));
const mean = (values: readonly number[]) => values.reduce((a, b) => a + b, 0) / Math.max(1, values.length);
const line = (name: string, of: readonly Heard[]) => {
  const bars = of.filter((h) => h.bars !== undefined);
  console.log(
    [
      `${name}, ${of.length} songs:`,
      `F ${mean(of.map((h) => h.f)).toFixed(3)},`,
      `after Half or Double ${mean(of.map((h) => h.onePress)).toFixed(3)},`,
      `with the second reading ${mean(of.map((h) => h.second)).toFixed(3)};`,
      `said to be right ${mean(of.map((h) => h.likely)).toFixed(2)}, are ${mean(of.map((h) => Number(h.f > RIGHT))).toFixed(2)};`,
      `bars right in ${bars.filter((h) => h.bars).length} of ${bars.length}`,
    ].join(' '),
  );
};
const partsOf = (of: readonly Heard[], by: 'set' | 'name') =>
  [...new Set(of.map((h) => h[by]))].map((name) => [name, of.filter((h) => h[by] === name)] as const);
for (const [set, of] of partsOf(heard, 'set')) {
  line(set, of);
  for (const [name, some] of partsOf(of, 'name'))
    if (mean(some.map((h) => h.f)) < RIGHT) line(`    ${name}`, some);
}
if (!hasStyles()) console.log('Songs of others: left out, their packages are not installed.');
