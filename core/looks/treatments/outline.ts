import { z } from 'zod';
import { placed } from '../../pixels/surface';
import { ColourSchema, rgbOf } from '../colours';
import type { LookField, Treatment } from '../treatment';

const schema = z.object({
  threshold: z.number(),
  width: z.number(),
  gain: z.number(),
  soft: z.number(),
  colours: z.enum(['picture', 'one']),
  colour: ColourSchema,
  laid: z.enum(['add', 'screen', 'alone']),
  zoom: z.number(),
  x: z.number(),
  y: z.number(),
});
type Values = z.infer<typeof schema>;

const number = (
  key: keyof Values,
  label: string,
  help: string,
  [min, max]: readonly [number, number],
  unit: '%' | 'px' | '×',
): LookField => ({ key, kind: 'number', label, help, min, max, unit });

export const outline: Treatment<Values, Values> = {
  id: 'outline',
  name: 'Outline',
  also: 'edge, glow, contour',
  summary: 'Glowing edges, which may wander off the picture and come home.',
  schema,
  defaults: {
    threshold: 12,
    width: 2,
    gain: 4,
    soft: 3,
    colours: 'one',
    colour: '#7fe3ff',
    laid: 'add',
    zoom: 100,
    x: 0,
    y: 0,
  },
  cost: 'middle',
  startsWhere: [{ kind: 'slower', not: false, percent: 80 }],
  fields: [
    number('gain', 'Glow', 'How bright the edges are; 0 shows none.', [0, 16], '×'),
    number('threshold', 'Edges from', 'Changes of brightness up to this are no edge.', [0, 100], '%'),
    number('width', 'Width', 'Pixels over which a change makes an edge.', [1, 60], 'px'),
    number('soft', 'Softness', 'Pixels of blur.', [0, 200], 'px'),
    {
      key: 'colours',
      kind: 'choice',
      label: 'Colours',
      help: 'Of the edges.',
      options: [
        { value: 'picture', label: 'the picture’s' },
        { value: 'one', label: 'one' },
      ],
    },
    {
      key: 'colour',
      kind: 'colour',
      label: 'Colour',
      help: 'Their colour.',
      when: (v) => v['colours'] === 'one',
    },
    {
      key: 'laid',
      kind: 'choice',
      label: 'Laid over',
      help: 'How the edges meet the picture.',
      options: [
        { value: 'add', label: 'added' },
        { value: 'screen', label: 'screened' },
        { value: 'alone', label: 'edges alone' },
      ],
    },
    number('zoom', 'Own zoom', 'Size of the outline; the picture stays.', [10, 1000], '%'),
    number('x', 'Own shift across', 'The outline alone is moved; right is positive.', [-8000, 8000], 'px'),
    number('y', 'Own shift down', 'The outline alone is moved; down is positive.', [-8000, 8000], 'px'),
  ],
  placed: { x: 'x', y: 'y', size: 'zoom' },
  drawing: (values) => (values.gain > 0 || values.laid === 'alone' ? values : undefined),
  draw(surface, { threshold, width, gain, soft, colours, colour, laid, zoom, x, y }, unit) {
    const moves = zoom !== 100 || x !== 0 || y !== 0;
    surface.outline({
      reach: Math.max(1, Math.round(width * unit)),
      threshold: Math.round(threshold * 2.55),
      gain: Math.round(gain * 16),
      soft: soft * unit,
      colour: colours === 'one' ? rgbOf(colour) : undefined,
      laid,
      map: moves ? placed(surface, { zoom: zoom / 100, degrees: 0, x: x * unit, y: y * unit }) : undefined,
    });
  },
};
