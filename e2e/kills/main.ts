/** `npm run kills [-- COUNT SEED]`: prints each kill that left something wrong, and how many there were; fails where there was one. */
import { openStage } from '../stage';
import { Victim } from './kills';

const [count = 60, seed = 1] = process.argv.slice(2).map(Number);
const stage = await openStage();
const victim = await Victim.begin(stage.address, seed);
const seen = new Map<string, number>();
let wrong = 0;
for (let n = 0; n < count; n++) {
  const { activity, what, afterMs, faults } = await victim.once();
  seen.set(`${what} while ${activity}`, (seen.get(`${what} while ${activity}`) ?? 0) + 1);
  if (faults.length > 0) wrong++;
  if (faults.length > 0 || process.env['ALL'])
    console.log(
      `${n + 1}: ${what} killed ${afterMs} ms into ${activity}: ${faults.join('; ') || 'all there'}`,
    );
}
await victim.end();
await stage.close();
console.log(
  [...seen]
    .map(([words, times]) => `${times} ${words}`)
    .sort()
    .join(', '),
);
console.log(`${count} kills of seed ${seed}, ${wrong} left something wrong`);
process.exit(wrong > 0 ? 1 : 0);
