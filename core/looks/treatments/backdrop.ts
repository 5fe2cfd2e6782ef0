import { z } from 'zod';
import { LUMA } from '../colours';
import type { Treatment } from '../treatment';

const schema = z.object({ blur: z.number(), dark: z.number(), saturation: z.number() });
type Values = z.infer<typeof schema>;

export const backdrop: Treatment<Values, Values> = {
  id: 'backdrop',
  name: 'Backdrop',
  also: 'background, isolate, blur the background, desaturate',
  summary: 'Everything outside a region out of focus, darker, without colour.',
  schema,
  defaults: { blur: 18, dark: 35, saturation: 30 },
  cost: 'heavy',
  scales: true,
  outside: true,
  fields: [
    { key: 'blur', kind: 'number', label: 'Blur', help: 'How far it spreads.', min: 0, max: 400, unit: 'px' },
    { key: 'dark', kind: 'number', label: 'Darker by', help: '100 is black.', min: 0, max: 100, unit: '%' },
    {
      key: 'saturation',
      kind: 'number',
      label: 'Colour left',
      help: '0 is grey.',
      min: 0,
      max: 100,
      unit: '%',
    },
  ],
  drawing({ blur, dark, saturation }, { strength }) {
    const drawing = {
      blur: blur * strength,
      dark: dark * strength,
      saturation: 100 - (100 - saturation) * strength,
    };
    return drawing.blur === 0 && drawing.dark === 0 && drawing.saturation === 100 ? undefined : drawing;
  },
  draw(surface, { blur, dark, saturation }, unit) {
    surface.blurRound(blur * unit);
    const [light, colour] = [1 - dark / 100, saturation / 100];
    const row = (own: number) =>
      LUMA.map((l, k) => light * ((1 - colour) * l + (k === own ? colour : 0))) as [number, number, number];
    if (light < 1 || colour < 1) surface.matrix([row(0), row(1), row(2)]);
  },
};
