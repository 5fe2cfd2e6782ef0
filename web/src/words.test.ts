import { readFileSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { TREATMENTS } from '@skipback/core/looks/registry';
import { MOVES } from '@skipback/core/moves/registry';
import { OUR_RECIPES } from '@skipback/core/recipe/ours';
import { COMMANDS } from './commands/commands';

const ROOT = join(import.meta.dirname, '../..');
const read = (path: string) => readFileSync(join(ROOT, path), 'utf8');

/** The list of words of `docs/architecture.md`: what things are called, and what they are not called any more. */
const LIST = read('docs/architecture.md')
  .split('## What things are called')[1]!
  .split('\n## ')[0]!
  .split('\n')
  .filter((line) => line.startsWith('| ') && !/^\| (Word|-+) /.test(line))
  .map((line) => line.split('|').map((cell) => cell.trim()))
  .map(([, word, means, , old]) => ({
    word: word!,
    means: means!,
    old: (old ?? '').split(' · ').filter(Boolean),
  }));

const under = (folder: string): string[] =>
  readdirSync(join(ROOT, folder), { recursive: true, encoding: 'utf8' })
    .filter((f) => /\.tsx?$/.test(f) && !/\.test\.|(^|\/)dist\/|\.d\.ts$/.test(f))
    .map((f) => join(folder, f));

/** What of a source file is read by people: its texts, without comments, imports and keys. */
const said = (path: string): string =>
  read(path)
    .replace(/\/\*[\s\S]*?\*\//g, ' ')
    .replace(/^\s*\/\/.*$/gm, ' ')
    .replace(/^(import|\} from) .*$/gm, ' ');

it('has the list, each word once, each for one thing', () => {
  expect(LIST.length).toBeGreaterThan(20);
  expect(new Set(LIST.map((l) => l.word)).size).toBe(LIST.length);
  expect(new Set(LIST.map((l) => l.means)).size).toBe(LIST.length);
});

it('says none of the words of before, in the program, the README and the pages', () => {
  const old = LIST.flatMap((l) => l.old);
  expect(old.length).toBeGreaterThan(40);
  const found = [...under('web/src'), ...under('core'), ...under('media')]
    .map((path) => [path, said(path)] as const)
    .concat([['README.md', read('README.md')]])
    .flatMap(([path, text]) => old.filter((word) => text.includes(word)).map((word) => `${path}: ${word}`));
  expect(found).toEqual([]);
});

it('no name stands for two things: moves, looks, recipes and what the weave is seen as', () => {
  const views = [...read('web/src/weave/weave-bar.tsx').matchAll(/value: '\w+', label: '(\w+)', title/g)].map(
    (m) => m[1]!,
  );
  expect(views).toHaveLength(4);
  const names = [
    ...MOVES.map((m) => m.name),
    ...TREATMENTS.map((t) => t.name),
    ...OUR_RECIPES.map((r) => r.name),
    ...views,
    ...Object.values(COMMANDS).map((c) => c.words),
  ].map((name) => name.toLowerCase());
  expect(names.filter((name, i) => names.indexOf(name) !== i)).toEqual([]);
});
