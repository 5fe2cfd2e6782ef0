import { z } from 'zod';
import { CHANNELS, placed } from '../../pixels/surface';
import type { LookField, Treatment } from '../treatment';

const schema = z.object({
  redX: z.number(),
  redY: z.number(),
  greenX: z.number(),
  greenY: z.number(),
  blueX: z.number(),
  blueY: z.number(),
  turn: z.number(),
});
type Values = z.infer<typeof schema>;
const COLOURS = ['red', 'green', 'blue'] as const;

const shift = (key: string, label: string): LookField => ({
  key,
  kind: 'number',
  label,
  help: 'Pixels of the project’s picture; right and down are positive.',
  min: -4000,
  max: 4000,
  unit: 'px',
});

export const split: Treatment<Values, Values> = {
  id: 'split',
  name: 'Split',
  also: 'RGB split, chromatic aberration, glitch, colour shift',
  summary: 'Red, green and blue out of register, each shifted its own way.',
  schema,
  defaults: { redX: 14, redY: 0, greenX: 0, greenY: 0, blueX: -14, blueY: 0, turn: 0 },
  cost: 'middle',
  startsWhere: [
    { kind: 'way', not: false, way: 'backward' },
    { kind: 'faster', not: false, percent: 400 },
  ],
  scales: true,
  shapes: true,
  fields: [
    shift('redX', 'Red across'),
    shift('redY', 'Red down'),
    shift('greenX', 'Green across'),
    shift('greenY', 'Green down'),
    shift('blueX', 'Blue across'),
    shift('blueY', 'Blue down'),
    {
      key: 'turn',
      kind: 'number',
      label: 'Turn',
      help: 'Red turned by this, blue the other way.',
      min: -180,
      max: 180,
      unit: '°',
    },
  ],
  drawing(values, { strength }) {
    const scaled = Object.fromEntries(Object.entries(values).map(([k, v]) => [k, v * strength])) as Values;
    return Object.values(scaled).some((v) => v !== 0) ? scaled : undefined;
  },
  draw(surface, drawing, unit) {
    for (const [i, colour] of COLOURS.entries()) {
      const [x, y] = [drawing[`${colour}X`] * unit, drawing[`${colour}Y`] * unit];
      const degrees = drawing.turn * (1 - i);
      if (x === 0 && y === 0 && degrees === 0) continue;
      surface.affine(placed(surface, { zoom: 1, degrees, x, y }), 'stretched', CHANNELS[colour]);
    }
  },
};
