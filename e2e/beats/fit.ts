/**
 * `npm run beats:fit [-- SEED…]`: fits the weights that beats and bars are chosen by, and writes `core/beats/weights.ts`. Songs are made
 * by our sets and, where their packages are installed (`measure.ts`), in others' styles; takes about a quarter of an hour a seed.
 * `npm run beats:fit -- check [SEED…]` leaves every third kind out, tells how it does with those, and writes nothing.
 */
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { deserialize } from 'node:v8';
import { fileURLToPath } from 'node:url';
import { type Network, written } from '@skipback/core/beats/fitted';
import { fit, likelihoodOf } from '@skipback/core/beats/fitting';
import { WORK } from '../coded-clips';
import type { KindExample } from './heard';

const NETWORKS = 3;
const at = (path: string) => fileURLToPath(new URL(path, import.meta.url));

/** The examples of a seed, made by a process of their own. */
async function examplesOf(seed: number): Promise<KindExample[]> {
  const file = join(WORK, `beats-${seed}.bin`);
  const maker = spawn('npx', ['tsx', at('examples.ts'), `${seed}`, file], { stdio: 'inherit' });
  const [code] = (await once(maker, 'exit')) as [number | null];
  if (code !== 0) throw new Error(`The songs of seed ${seed} could not be made.`);
  const examples = deserialize(await readFile(file)) as KindExample[];
  await rm(file);
  return examples;
}

/** Networks that were fitted to some of the songs. */
const fitted = (to: readonly KindExample[]) =>
  Array.from({ length: NETWORKS }, (_, n) =>
    fit(to, n + 1, (round) => console.log(`network ${n + 1}, round ${round + 1}`)),
  );

/** How likely networks take what is right to be, and in how many songs it is the likelier half. */
function tell(networks: readonly Network[], of: readonly KindExample[], which: string): void {
  const likely = of.map((example) => likelihoodOf(networks, example));
  const mean = likely.reduce((a, b) => a + b, 0) / Math.max(1, likely.length);
  const sure = likely.filter((l) => l > 0.5).length;
  console.log(
    `${which}: beats and bars that are right are ${(100 * mean).toFixed(1)} % likely, over half in ${sure} of ${of.length}`,
  );
}

await mkdir(WORK, { recursive: true });
const given = process.argv.slice(2);
const checks = given[0] === 'check';
const numbers = given.slice(checks ? 1 : 0).map(Number);
const seeds = numbers.length > 0 ? numbers : [1, 2, 3];
const examples: KindExample[] = [];
// Two at a time, as many as there are cores to count on.
for (let i = 0; i < seeds.length; i += 2)
  examples.push(...(await Promise.all(seeds.slice(i, i + 2).map(examplesOf))).flat());
if (checks) {
  const kinds = [...new Set(examples.map(({ name }) => name))];
  const isLeftOut = ({ name }: KindExample) => kinds.indexOf(name) % 3 === 0;
  const networks = fitted(examples.filter((e) => !isLeftOut(e)));
  tell(networks, examples.filter(isLeftOut), 'kinds that were left out');
  process.exit(0);
}
const networks = fitted(examples);
tell(networks, examples, 'what was learned from');
const rows = networks.map(
  ({ units, biases, worths, straight }) =>
    `  {\n${Object.entries({ units, biases, worths, straight })
      .map(([name, values]) => `    ${name}:\n      '${written(values)}',`)
      .join('\n')}\n  },`,
);
await writeFile(
  at('../../core/beats/weights.ts'),
  [
    '/** Made by `npm run beats:fit`; not to be edited. What stands here is told in `fitted.ts`. */',
    'export const WEIGHTS: readonly { units: string; biases: string; worths: string; straight: string }[] = [',
    ...rows,
    '];',
    '',
  ].join('\n'),
);
