/**
 * `npm run damage [-- COUNT SEED]`: broken files, brought in one after the other; prints what became of them and fails where
 * one hung, went by in silence, took over 1 GiB, or left the page unable to read whole ones.
 */
import { codedClip } from '../coded-clips';
import { openStage } from '../stage';
import { brokenFiles } from './broken-files';
import { savedProject } from './whole-files';
import { type Tried, stillWorks, tryFile } from './try-files';

const [count = 300, seed = 1] = process.argv.slice(2).map(Number);
const whole = await codedClip('vp9');
const stage = await openStage();
const { page, errors } = await stage.newPage();
await page.getByRole('button', { name: 'New project', exact: true }).click();
await page.waitForURL(/project/);
// A project with a clip, to be broken as a file; the one that files are tried in is empty.
await page.getByLabel('Choose videos', { exact: true }).setInputFiles(whole);
await page.getByTestId('length').filter({ hasNotText: /^0 f/ }).waitFor();
const files = await brokenFiles(count, seed, [await savedProject(page)]);
await page.getByRole('link', { name: 'To the shelf' }).click();
await page.getByRole('button', { name: 'New project', exact: true }).click();
await page.waitForURL(/project/);
const tried: Tried[] = [];
let dead = 0;

/** What the page says to the console where a file is refused. */
const EXPECTED = /status of 422|Error (parsing|deserializing|during)/;
const unexpected = () => errors.filter((e) => !EXPECTED.test(e));
for (const [n, file] of files.entries()) {
  const before = unexpected().length;
  const one = await tryFile(page, file);
  tried.push(one);
  const notable =
    one.outcome === 'hung' || one.outcome === 'silent' || one.grownMb > 700 || unexpected().length > before;
  if (notable || process.env['ALL'])
    console.log(
      `${n} ${file.words}: ${one.outcome} ${one.seconds.toFixed(1)} s +${one.grownMb} MB ${one.sentence} ${unexpected().slice(before).join(' | ').slice(0, 400)}`,
    );
  if (n % 25 === 24 && !(await stillWorks(page, whole))) {
    dead++;
    console.log(`after ${n + 1}: a whole clip does not come in any more`);
    await page.reload();
  }
}
const of = (outcome: Tried['outcome']) => tried.filter((t) => t.outcome === outcome).length;
const longest = Math.max(...tried.map((t) => t.seconds));
const most = Math.max(...tried.map((t) => t.grownMb));
const peak = Math.max(...tried.map((t) => t.peakMb));
console.log(
  `${tried.length} files of seed ${seed}: ${of('used')} used, ${of('both')} used as far as they go, ${of('said')} refused with a sentence, ${of('silent')} silent, ${of('hung')} hung; longest ${longest.toFixed(1)} s, most memory taken by one ${most} MB, in all ${peak} MB, ${dead} times unable to go on, ${unexpected().length} lines of errors in the console`,
);
await stage.close();
process.exit(of('silent') + of('hung') + dead > 0 || most > 1024 ? 1 : 0);
