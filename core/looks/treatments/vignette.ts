import { z } from 'zod';
import { ColourSchema, rgbOf } from '../colours';
import type { Treatment } from '../treatment';

const schema = z.object({
  amount: z.number(),
  size: z.number(),
  soft: z.number(),
  round: z.number(),
  colour: ColourSchema,
});
type Values = z.infer<typeof schema>;

export const vignette: Treatment<Values, Values> = {
  id: 'vignette',
  name: 'Vignette',
  also: 'dark corners',
  summary: 'Dark or coloured edges.',
  schema,
  defaults: { amount: 70, size: 70, soft: 60, round: 60, colour: '#000000' },
  cost: 'light',
  scales: true,
  fields: [
    { key: 'amount', kind: 'number', label: 'Amount', help: 'At the corners.', min: 0, max: 100, unit: '%' },
    {
      key: 'size',
      kind: 'number',
      label: 'Clear to',
      help: 'Of the way to the edges.',
      min: 0,
      max: 200,
      unit: '%',
    },
    {
      key: 'soft',
      kind: 'number',
      label: 'Softness',
      help: 'Of the way from clear to full.',
      min: 1,
      max: 200,
      unit: '%',
    },
    {
      key: 'round',
      kind: 'number',
      label: 'Roundness',
      help: '0 follows the frame, 100 is an ellipse.',
      min: 0,
      max: 100,
      unit: '%',
    },
    { key: 'colour', kind: 'colour', label: 'Colour', help: 'Of the edges.' },
  ],
  drawing: (values, { strength }) =>
    values.amount * strength > 0 ? { ...values, amount: values.amount * strength } : undefined,
  draw(surface, { amount, size, soft, round, colour }) {
    surface.fillMask(rgbOf(colour), [amount, size, soft, round].join(' '), (mask, width, height) => {
      // From a rounded box (a superellipse of power 8) to an ellipse.
      const power = 8 - (6 * round) / 100;
      const down = Float64Array.from(
        { length: height },
        (_, y) => Math.abs((2 * y + 1) / height - 1) ** power,
      );
      for (let x = 0; x < width; x++) {
        const across = Math.abs((2 * x + 1) / width - 1) ** power;
        for (let y = 0; y < height; y++) {
          const away = (across + down[y]!) ** (1 / power);
          const share = Math.min(1, Math.max(0, (away - size / 100) / (soft / 100)));
          mask[y * width + x] = Math.round(2.55 * amount * share * share * (3 - 2 * share));
        }
      }
    });
  },
};
