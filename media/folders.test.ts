/** Arrows between the folders of `media/` go one way: none leads back to where it came from. */
import { readFileSync, readdirSync } from 'node:fs';
import { dirname, join, normalize } from 'node:path';

const sources = readdirSync(__dirname, { recursive: true, encoding: 'utf8' }).filter(
  (path) => /\.ts$/.test(path) && !/^(dist|node_modules)|\.(test|d)\.ts$/.test(path),
);
/** The first folder of a path below `media/`; undefined for a file beside them, which anybody may use. */
const folderOf = (path: string): string | undefined => (path.includes('/') ? path.split('/')[0] : undefined);

const arrows = new Map<string, Set<string>>();
for (const source of sources) {
  const from = folderOf(source);
  if (!from) continue;
  for (const [, target] of readFileSync(join(__dirname, source), 'utf8').matchAll(/from '(\.[^']+)'/g)) {
    const to = folderOf(normalize(join(dirname(source), `${target}.ts`)));
    if (to && to !== from) arrows.set(from, (arrows.get(from) ?? new Set()).add(to));
  }
}

const reached = (from: string, seen = new Set<string>()): Set<string> => {
  for (const to of arrows.get(from) ?? []) if (!seen.has(to)) reached(to, seen.add(to));
  return seen;
};

it.each([...arrows.keys()])('nothing that %s uses uses it', (folder) => {
  expect([...reached(folder)].filter((to) => reached(to).has(folder))).toEqual([]);
});

it('what lies beside the folders uses none of them', () => {
  const uses = sources
    .filter((s) => !folderOf(s))
    .flatMap((s) =>
      [...readFileSync(join(__dirname, s), 'utf8').matchAll(/from '\.\/(\w+)\//g)].map((m) => m[1]),
    );
  expect(uses).toEqual([]);
});
