import { z } from 'zod';
import type { Treatment } from '../treatment';

const schema = z.object({
  kind: z.enum(['along', 'zoom', 'round']),
  angle: z.number(),
  length: z.number(),
  amount: z.number(),
});
type Values = z.infer<typeof schema>;

export const blur: Treatment<Values, Values> = {
  id: 'blur',
  name: 'Blur',
  also: 'gaussian, directional, zoom blur',
  summary: 'Along a direction, towards the middle, or round; in bursts when it is driven.',
  schema,
  defaults: { kind: 'along', angle: 0, length: 60, amount: 12 },
  cost: 'heavy',
  startsWhere: [{ kind: 'faster', not: false, percent: 150 }],
  scales: true,
  shapes: true,
  fields: [
    {
      key: 'kind',
      kind: 'choice',
      label: 'Kind',
      help: 'Which way it is blurred.',
      options: [
        { value: 'along', label: 'along a direction' },
        { value: 'zoom', label: 'towards the middle' },
        { value: 'round', label: 'round' },
      ],
    },
    {
      key: 'angle',
      kind: 'number',
      label: 'Direction',
      help: '0 is across, 90 is down.',
      min: -3600,
      max: 3600,
      unit: '°',
      when: (v) => v['kind'] === 'along',
    },
    {
      key: 'length',
      kind: 'number',
      label: 'Length',
      help: 'How far it reaches.',
      min: 0,
      max: 2000,
      unit: 'px',
      when: (v) => v['kind'] !== 'zoom',
    },
    {
      key: 'amount',
      kind: 'number',
      label: 'Amount',
      help: 'From how much smaller to how much larger.',
      min: 0,
      max: 100,
      unit: '%',
      when: (v) => v['kind'] === 'zoom',
    },
  ],
  drawing({ kind, angle, length, amount }, { strength }) {
    const drawing = { kind, angle, length: length * strength, amount: amount * strength };
    return (kind === 'zoom' ? drawing.amount : drawing.length) > 0 ? drawing : undefined;
  },
  draw(surface, { kind, angle, length, amount }, unit) {
    const turn = (angle * Math.PI) / 180;
    if (kind === 'along') surface.blurAlong(Math.cos(turn) * length * unit, Math.sin(turn) * length * unit);
    else if (kind === 'zoom') surface.blurZoom(amount / 100);
    else surface.blurRound(length * unit);
  },
};
