import { z } from 'zod';
import { placed } from '../../pixels/surface';
import { ColourSchema, LUMA, rgbOf } from '../colours';
import type { Treatment } from '../treatment';

const schema = z.object({ colour: ColourSchema, depth: z.number(), x: z.number(), y: z.number() });
type Values = z.infer<typeof schema>;

export const tint: Treatment<Values, Values> = {
  id: 'tint',
  name: 'Tint',
  also: 'colorize, monochrome, duotone',
  summary: 'A coloured copy of a region, beside it or on it.',
  schema,
  defaults: { colour: '#4fb6d8', depth: 100, x: 60, y: 0 },
  cost: 'middle',
  fields: [
    { key: 'colour', kind: 'colour', label: 'Colour', help: 'Of the copy.' },
    {
      key: 'depth',
      kind: 'number',
      label: 'Depth',
      help: '0 keeps its own colours, 100 is one colour in light and dark.',
      min: 0,
      max: 100,
      unit: '%',
    },
    {
      key: 'x',
      kind: 'number',
      label: 'Aside',
      help: 'Right is positive; its region goes along.',
      min: -4000,
      max: 4000,
      unit: 'px',
    },
    { key: 'y', kind: 'number', label: 'Down', help: 'Down is positive.', min: -4000, max: 4000, unit: 'px' },
  ],
  drawing: (values) => ({ ...values }),
  placed: { x: 'x', y: 'y' },
  moves: ({ x, y }) => [x, y],
  draw(surface, { colour, depth, x, y }, unit) {
    const share = depth / 100;
    // As bright as it was where the colour's brightest part is at its full.
    const rgb = rgbOf(colour);
    const most = Math.max(...rgb, 1);
    surface.matrix(
      rgb.map((c, row) =>
        LUMA.map((l, k) => (row === k ? 1 - share : 0) + share * (c / most) * l),
      ) as unknown as Parameters<typeof surface.matrix>[0],
    );
    if (x !== 0 || y !== 0)
      surface.affine(placed(surface, { zoom: 1, degrees: 0, x: x * unit, y: y * unit }), 'mirrored');
  },
};
