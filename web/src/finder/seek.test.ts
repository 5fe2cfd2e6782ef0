import { TREATMENTS } from '@skipback/core/looks/registry';
import { MOVES } from '@skipback/core/moves/registry';
import { COMMANDS, COMMAND_IDS, type Command } from '../commands/commands';
import type { Find } from './finds';
import { seek } from './seek';

const entry = (
  kind: Find['kind'],
  { name, says, also }: { name: string; says?: string; also?: string },
): Find => ({
  ...{ id: `${kind} ${name}`, kind, name, run: () => undefined },
  ...(says && { says }),
  ...(also && { also }),
});
const all: readonly Find[] = [
  ...MOVES.map((m) => entry('move', { name: m.name, says: m.summary, ...(m.also && { also: m.also }) })),
  ...TREATMENTS.map((t) => entry('look', { name: t.name, says: t.summary, ...(t.also && { also: t.also }) })),
  ...COMMAND_IDS.map((id) => {
    const { words, group, also }: Command = COMMANDS[id];
    return entry('command', { name: words, says: group, ...(also && { also }) });
  }),
];
const first = (typed: string, n = 5) =>
  seek(all, typed)
    .slice(0, n)
    .map((f) => f.name);

it.each([
  ['freeze', ['Hold']],
  ['reverse', ['Rewind', 'Speed']],
  ['slow motion', ['Speed']],
  ['RGB', ['Split']],
  ['zoom', ['Punch']],
  ['echo', ['Trail']],
  ['loop', ['Boomerang']],
  ['glitch', ['Torn bars', 'Split', 'Worn tape']],
  ['stop motion', ['Step']],
  ['export', ['Go to Render']],
  ['boomrang', ['Boomerang']],
])('"%s" finds %j', (typed, wanted) => expect(first(typed, 8)).toEqual(expect.arrayContaining(wanted)));

it('a name that is typed whole comes first; nothing typed lists what there is; nonsense finds nothing', () => {
  for (const { name } of MOVES) expect(first(name, 1)).toEqual([name]);
  expect(seek(all, ' ').length).toBeGreaterThan(20);
  expect(seek(all, 'qqqqzzzz')).toEqual([]);
});
