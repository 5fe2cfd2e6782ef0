import { z } from 'zod';
import { placed } from '../../pixels/surface';
import { HITS } from '../starts';
import type { LookField, Treatment } from '../treatment';

const schema = z.object({
  zoom: z.number(),
  x: z.number(),
  y: z.number(),
  angle: z.number(),
  edges: z.enum(['mirrored', 'stretched', 'black']),
});
type Values = z.infer<typeof schema>;

/** What lies beyond the picture's edges when it is moved. */
export const EDGES_FIELD: LookField = {
  key: 'edges',
  kind: 'choice',
  label: 'Beyond the edges',
  help: 'What is seen where the picture ends.',
  options: [
    { value: 'mirrored', label: 'mirrored' },
    { value: 'stretched', label: 'stretched' },
    { value: 'black', label: 'black' },
  ],
};

export const punch: Treatment<Values, Values> = {
  id: 'punch',
  name: 'Punch',
  also: 'zoom, scale, bump',
  summary: 'Closer, aside or turned at once; driven by beats it bounces and comes home.',
  schema,
  defaults: { zoom: 120, x: 0, y: 0, angle: 0, edges: 'mirrored' },
  cost: 'middle',
  startsWhere: HITS,
  scales: true,
  shapes: true,
  fields: [
    { key: 'zoom', kind: 'number', label: 'Zoom', help: '100 is as it is.', min: 10, max: 1000, unit: '%' },
    {
      key: 'x',
      kind: 'number',
      label: 'Across',
      help: 'Right is positive.',
      min: -8000,
      max: 8000,
      unit: 'px',
    },
    { key: 'y', kind: 'number', label: 'Down', help: 'Down is positive.', min: -8000, max: 8000, unit: 'px' },
    { key: 'angle', kind: 'number', label: 'Turn', help: 'Clockwise.', min: -3600, max: 3600, unit: '°' },
    EDGES_FIELD,
  ],
  placed: { x: 'x', y: 'y', size: 'zoom', turn: 'angle' },
  drawing({ zoom, x, y, angle, edges }, { strength }) {
    const drawing = {
      zoom: 100 + (zoom - 100) * strength,
      x: x * strength,
      y: y * strength,
      angle: angle * strength,
      edges,
    };
    const still = drawing.zoom === 100 && drawing.x === 0 && drawing.y === 0 && drawing.angle === 0;
    return still ? undefined : drawing;
  },
  draw(surface, { zoom, x, y, angle, edges }, unit) {
    surface.affine(placed(surface, { zoom: zoom / 100, degrees: angle, x: x * unit, y: y * unit }), edges);
  },
};
