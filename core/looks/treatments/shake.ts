import { z } from 'zod';
import { placed } from '../../pixels/surface';
import { chance } from '../../moves/random';
import { eased } from '../driver';
import { HITS } from '../starts';
import type { Treatment } from '../treatment';
import { EDGES_FIELD } from './punch';

const schema = z.object({
  amount: z.number(),
  rate: z.number(),
  turn: z.number(),
  fall: z.number(),
  seed: z.number(),
  edges: z.enum(['mirrored', 'stretched', 'black']),
});
type Values = z.infer<typeof schema>;
interface Drawing {
  readonly x: number;
  readonly y: number;
  readonly angle: number;
  readonly edges: Values['edges'];
}

export const shake: Treatment<Values, Drawing> = {
  id: 'shake',
  name: 'Shake',
  also: 'camera shake, jitter, handheld',
  summary: 'A shaken camera: hits at the start of each stretch and dies away, the same every time.',
  schema,
  defaults: { amount: 24, rate: 2, turn: 0.6, fall: 14, seed: 1, edges: 'mirrored' },
  cost: 'middle',
  startsWhere: HITS,
  scales: true,
  shapes: true,
  fields: [
    {
      key: 'amount',
      kind: 'number',
      label: 'Amount',
      help: 'How far it goes.',
      min: 0,
      max: 2000,
      unit: 'px',
    },
    {
      key: 'rate',
      kind: 'number',
      label: 'Another way every',
      help: 'Frames between changes.',
      min: 1,
      max: 120,
      unit: 'f',
    },
    { key: 'turn', kind: 'number', label: 'Turn', help: 'How far it turns.', min: 0, max: 90, unit: '°' },
    {
      key: 'fall',
      kind: 'number',
      label: 'Dies away over',
      help: 'Frames until it is still; 0 goes on for the whole stretch.',
      min: 0,
      max: 1000,
      unit: 'f',
    },
    {
      key: 'seed',
      kind: 'number',
      label: 'Number',
      help: 'Another number, another shake.',
      min: 1,
      max: 9999,
      unit: '×',
    },
    EDGES_FIELD,
  ],
  drawing({ amount, rate, turn, fall, seed, edges }, { frame, stretch, strength }) {
    const since = frame - stretch.first;
    const left = fall > 0 ? Math.max(0, 1 - since / (fall + 1)) ** 2 : 1;
    const by = left * strength;
    if (by === 0) return undefined;
    const at = since / Math.max(1, rate);
    const step = Math.floor(at);
    const along = (row: number) => {
      const value = (n: number) => 2 * chance(Math.round(seed), row, n) - 1;
      return value(step) + (value(step + 1) - value(step)) * eased('both', at - step);
    };
    return { x: amount * by * along(0), y: amount * by * along(1), angle: turn * by * along(2), edges };
  },
  draw(surface, { x, y, angle, edges }, unit) {
    surface.affine(placed(surface, { zoom: 1, degrees: angle, x: x * unit, y: y * unit }), edges);
  },
};
