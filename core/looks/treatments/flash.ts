import { z } from 'zod';
import { ColourSchema, GREY, rgbOf, tableOf } from '../colours';
import { HITS } from '../starts';
import type { Treatment } from '../treatment';

const schema = z.object({
  kind: z.enum(['white', 'colour', 'inverted', 'hard']),
  amount: z.number(),
  threshold: z.number(),
  colour: ColourSchema,
  fall: z.number(),
});
type Values = z.infer<typeof schema>;
interface Drawing {
  readonly kind: Values['kind'];
  readonly share: number;
  readonly threshold: number;
  readonly colour: string;
}
const INVERTED = tableOf((x) => 1 - x);

export const flash: Treatment<Values, Drawing> = {
  id: 'flash',
  name: 'Flash',
  also: 'white, blink, hit',
  summary:
    'A hit of white, a colour, the negative or hard black and white, fading from the start of its stretch.',
  schema,
  defaults: { kind: 'white', amount: 100, threshold: 50, colour: '#ff6a3d', fall: 6 },
  cost: 'light',
  startsWhere: HITS,
  shownWith: { amount: 55, fall: 0 },
  flashes: true,
  scales: true,
  fields: [
    {
      key: 'kind',
      kind: 'choice',
      label: 'Of',
      help: 'What the picture turns into.',
      options: [
        { value: 'white', label: 'white' },
        { value: 'colour', label: 'a colour' },
        { value: 'inverted', label: 'its negative' },
        { value: 'hard', label: 'hard black and white' },
      ],
    },
    {
      key: 'amount',
      kind: 'number',
      label: 'Amount',
      help: 'How much of it at the hit.',
      min: 0,
      max: 100,
      unit: '%',
    },
    {
      key: 'threshold',
      kind: 'number',
      label: 'White from',
      help: 'Brightness from which it is white.',
      min: 0,
      max: 100,
      unit: '%',
      when: (v) => v['kind'] === 'hard',
    },
    {
      key: 'colour',
      kind: 'colour',
      label: 'Colour',
      help: 'Its colour.',
      when: (v) => v['kind'] === 'colour',
    },
    {
      key: 'fall',
      kind: 'number',
      label: 'Fades over',
      help: 'Frames after the first until it is gone; 0 stays for the whole stretch.',
      min: 0,
      max: 500,
      unit: 'f',
    },
  ],
  drawing({ kind, amount, threshold, colour, fall }, { frame, stretch, strength }) {
    const since = frame - stretch.first;
    const share = (amount / 100) * strength * (fall > 0 ? Math.max(0, 1 - since / (fall + 1)) : 1);
    return share > 0 ? { kind, share, threshold, colour } : undefined;
  },
  draw(surface, { kind, share, threshold, colour }) {
    if (kind === 'white') return surface.fill([255, 255, 255], share);
    if (kind === 'colour') return surface.fill(rgbOf(colour), share);
    surface.share(share, () => {
      if (kind === 'inverted') return surface.tables(INVERTED, INVERTED, INVERTED);
      surface.matrix(GREY);
      const hard = tableOf((x) => (x * 100 >= threshold ? 1 : 0));
      surface.tables(hard, hard, hard);
    });
  },
};
