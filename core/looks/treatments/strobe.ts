import { z } from 'zod';
import { ColourSchema, rgbOf, tableOf } from '../colours';
import type { Treatment } from '../treatment';

const schema = z.object({
  what: z.enum(['black', 'white', 'turns', 'colour', 'inverted']),
  on: z.number(),
  off: z.number(),
  phase: z.number(),
  colour: ColourSchema,
});
type Values = z.infer<typeof schema>;
interface Drawing {
  readonly colour: string;
}
const INVERTED = tableOf((x) => 1 - x);
const whole = (n: number, least: number) => Math.max(least, Math.round(n));

export const strobe: Treatment<Values, Drawing> = {
  id: 'strobe',
  name: 'Strobe',
  also: 'flicker, blink',
  summary: 'Black, white or the negative for some frames, the picture for some, again and again.',
  schema,
  defaults: { what: 'black', on: 3, off: 9, phase: 0, colour: '#5b8cff' },
  cost: 'light',
  shownWith: { what: 'inverted' },
  flashes: true,
  fields: [
    {
      key: 'what',
      kind: 'choice',
      label: 'Shows',
      help: 'What comes instead of the picture.',
      options: [
        { value: 'black', label: 'black' },
        { value: 'white', label: 'white' },
        { value: 'turns', label: 'black, then white' },
        { value: 'colour', label: 'a colour' },
        { value: 'inverted', label: 'the negative' },
      ],
    },
    {
      key: 'colour',
      kind: 'colour',
      label: 'Colour',
      help: 'Its colour.',
      when: (v) => v['what'] === 'colour',
    },
    {
      key: 'on',
      kind: 'number',
      label: 'On for',
      help: 'Frames that show it.',
      min: 1,
      max: 1000,
      unit: 'f',
    },
    {
      key: 'off',
      kind: 'number',
      label: 'Off for',
      help: 'Frames of picture after it.',
      min: 0,
      max: 1000,
      unit: 'f',
    },
    {
      key: 'phase',
      kind: 'number',
      label: 'Begins at',
      help: 'Frames into its turn at the first frame of the stretch.',
      min: 0,
      max: 2000,
      unit: 'f',
    },
  ],
  drawing({ what, on, off, phase, colour }, { frame, stretch }) {
    const shows = whole(on, 1);
    const cycle = shows + whole(off, 0);
    const at = frame - stretch.first + whole(phase, 0);
    if (at % cycle >= shows) return undefined;
    if (what === 'inverted') return { colour: what };
    if (what === 'colour') return { colour };
    const white = what === 'white' || (what === 'turns' && Math.floor(at / cycle) % 2 === 1);
    return { colour: white ? '#ffffff' : '#000000' };
  },
  draw(surface, { colour }) {
    if (colour === 'inverted') surface.tables(INVERTED, INVERTED, INVERTED);
    else surface.fill(rgbOf(colour), 1);
  },
};
