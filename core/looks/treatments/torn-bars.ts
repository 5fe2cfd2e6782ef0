import { z } from 'zod';
import { chance, seeded } from '../../moves/random';
import { HITS } from '../starts';
import type { LookField, Treatment } from '../treatment';

const schema = z.object({
  bars: z.number(),
  height: z.number(),
  shift: z.number(),
  hold: z.number(),
  often: z.number(),
  seed: z.number(),
});
type Values = z.infer<typeof schema>;
/** What is drawn: how many bars, how high and how far aside at most, and the number that their chance comes from. */
interface Drawing {
  readonly bars: number;
  readonly height: number;
  readonly shift: number;
  readonly at: number;
}

const field = (
  key: keyof Values,
  label: string,
  help: string,
  [min, max]: readonly [number, number],
  unit: '%' | 'px' | 'f' | '×',
): LookField => ({ key, kind: 'number', label, help, min, max, unit });

/** Rows of chance: one for each of what is drawn by it. */
const ROWS = 7;

export const tornBars: Treatment<Values, Drawing> = {
  id: 'torn-bars',
  name: 'Torn bars',
  also: 'glitch, slices, broken signal, displacement',
  summary: 'Bands of the picture jump aside and back, of other heights and another way each time.',
  schema,
  defaults: { bars: 5, height: 14, shift: 160, hold: 3, often: 60, seed: 1 },
  cost: 'middle',
  startsWhere: HITS,
  scales: true,
  shownWith: { often: 100, bars: 7 },
  fields: [
    field('bars', 'Bars', 'How many at once, at most.', [1, 60], '×'),
    field('height', 'Their height', 'Of the picture’s height, at most.', [1, 100], '%'),
    field('shift', 'Shift', 'How far they jump, at most.', [0, 2000], 'px'),
    field('hold', 'New ones every', 'How long they stay as they are.', [1, 240], 'f'),
    field(
      'often',
      'How often',
      '100 is all the time; less leaves the picture whole in between.',
      [0, 100],
      '%',
    ),
    field('seed', 'Seed', 'Another number, other bars.', [0, 100_000], '×'),
  ],
  drawing({ bars, height, shift, hold, often, seed }, { frame, stretch, strength }) {
    const change = Math.floor((frame - stretch.first) / Math.max(1, Math.round(hold)));
    const row = Math.round(seed) * ROWS;
    // A stretch begins with them: what is put on a hit is seen on it.
    if (change > 0 && chance(row, stretch.first, change) * 100 >= often) return undefined;
    const far = shift * strength;
    if (far <= 0 || often === 0) return undefined;
    const at = Math.floor(chance(row + 1, stretch.first, change) * 2 ** 31);
    return { bars: Math.round(bars), height, shift: far, at };
  },
  draw(surface, { bars, height, shift, at }, unit) {
    const random = seeded(at);
    const shifts = new Int32Array(surface.height);
    for (let i = 0; i < bars; i++) {
      const high = Math.max(1, Math.round(((0.15 + 0.85 * random()) * height * surface.height) / 100));
      const top = Math.floor(random() * (surface.height + high)) - high;
      // Never so little that it looks like a slip.
      const way = random() < 0.5 ? -1 : 1;
      const aside = Math.round(way * (0.25 + 0.75 * random()) * shift * unit);
      shifts.fill(aside, Math.max(0, top), Math.min(surface.height, top + high));
    }
    surface.rowsAside(shifts);
  },
};
