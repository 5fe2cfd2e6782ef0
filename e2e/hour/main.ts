/**
 * `npm run hour [-- EDITS SEED MINUTES]`: 400 edits over five clips as fast as they go, or over so many minutes; fails where
 * something grew, stayed open, or did not come back.
 */
import { openStage } from '../stage';
import { sit } from './hour';

const [count = 400, seed = 1, minutes = 0] = process.argv.slice(2).map(Number);
const stage = await openStage();
const { page, errors } = await stage.newPage();
const { edits, stepMs, bytes, open, late, minutes: took, same } = await sit(page, count, seed, minutes);
await stage.close();
const mb = (b: number) => `${Math.round(b / 2 ** 20)} MB`;
console.log(
  `${count} edits of seed ${seed} in ${took.toFixed(1)} minutes: ${[...edits].map(([k, n]) => `${n} ${k}`).join(', ')}`,
);
console.log(
  `a step takes ${stepMs.before.toFixed(0)} ms before it, ${stepMs.after.toFixed(0)} ms after it, on the same state`,
);
console.log(
  `memory ${mb(bytes.before)} after half of them, ${mb(bytes.after)} after all (${(bytes.after / bytes.before).toFixed(2)})`,
);
console.log(`pictures open at rest: ${open}; late while playing: ${late.frames} of ${late.of}`);
console.log(`undone, and half of it done again, the project is ${same ? 'what it was' : 'NOT what it was'}`);
if (errors.length > 0) console.log(`errors of the page: ${errors.join('; ')}`);
process.exit(same && open === 0 && errors.length === 0 && bytes.after <= 1.15 * bytes.before ? 0 : 1);
