import { z } from 'zod';
import type { Around, Moment, Shares, Treatment } from '../treatment';

const schema = z.object({
  back: z.number(),
  on: z.number(),
  weights: z.enum(['even', 'fading']),
  rate: z.number(),
  counts: z.enum(['clip', 'result']),
});
type Values = z.infer<typeof schema>;

/** Frames it may reach, each way. */
const FARTHEST = 30;

export const smear: Treatment<Values, never> = {
  id: 'smear',
  name: 'Smear',
  also: 'frame averaging, long exposure, light trails',
  summary: 'The mean of frames before and after; held at some pictures a second it is step printing.',
  schema,
  defaults: { back: 3, on: 3, weights: 'even', rate: 0, counts: 'clip' },
  cost: 'middle',
  scales: true,
  shapes: true,
  uses: [
    {
      words: 'a street at night: held at 6 a second, the mean of 14 around',
      values: { back: 7, on: 6, weights: 'even', rate: 6, counts: 'clip' },
    },
    {
      words: 'a long exposure that runs along',
      values: { back: 10, on: 10, weights: 'fading', rate: 0, counts: 'clip' },
    },
    {
      words: 'afterglow of what was seen',
      values: { back: 8, on: 0, weights: 'fading', rate: 0, counts: 'result' },
    },
  ],
  fields: [
    {
      ...{ key: 'back', kind: 'number', label: 'Back', unit: 'f' },
      ...{ help: 'Frames before that go into it.', min: 0, max: FARTHEST },
    },
    {
      ...{ key: 'on', kind: 'number', label: 'On', unit: 'f' },
      ...{ help: 'Frames after that go into it.', min: 0, max: FARTHEST },
    },
    {
      key: 'weights',
      kind: 'choice',
      label: 'Weighs them',
      help: 'Whether the farther ones have less of the picture.',
      options: [
        { value: 'even', label: 'all alike' },
        { value: 'fading', label: 'farther ones less' },
      ],
    },
    {
      ...{ key: 'rate', kind: 'number', label: 'Held at', unit: '/s' },
      ...{ help: 'Pictures a second, each held; 0 holds none.', min: 0, max: 60 },
    },
    {
      key: 'counts',
      kind: 'choice',
      label: 'Counts frames of',
      help: 'Of the clip: what lies around the frame, however fast it plays. Of the result: what was seen before and will be.',
      options: [
        { value: 'clip', label: 'the clip' },
        { value: 'result', label: 'the result' },
      ],
    },
  ],
  drawing: () => undefined,
  draw: () => undefined,
  gather,
};

function gather(values: Values, moment: Moment, around: Around): Shares {
  const at = heldFrame(values.rate, moment, around);
  const [back, on] = [Math.round(values.back), Math.round(values.on)];
  const sum = new Map<number, number>();
  let total = 0;
  const take = (distance: number, made: Shares) => {
    const reach = distance < 0 ? back : on;
    const weight = values.weights === 'even' ? 1 : 1 - Math.abs(distance) / (reach + 1);
    total += weight;
    for (const [frame, share] of made) sum.set(frame, (sum.get(frame) ?? 0) + weight * share);
  };
  const centre = around.shown(at);
  const shot = around.shotOf(centre);
  for (let d = -back; d <= on; d++)
    if (values.counts === 'clip') {
      // Of what the clip does not have nothing is taken, nor of another shot.
      if (centre + d >= shot.first && centre + d < shot.end) take(d, new Map([[centre + d, 1]]));
    } else if (at + d >= around.first && at + d < around.end) take(d, around.madeOf(at + d));
  return new Map([...sum].map(([frame, weight]) => [frame, weight / total]));
}

/** The first result frame of the picture that is held at a moment, counted from where the look begins. */
function heldFrame(rate: number, { frame, stretch, facts }: Moment, around: Around): number {
  if (rate <= 0 || rate >= facts.rateHz) return frame;
  const from = Math.max(stretch.first, around.first);
  const step = Math.floor(((frame - from) * rate) / facts.rateHz + 1e-9);
  return Math.max(from, Math.ceil(from + (step * facts.rateHz) / rate - 1e-9));
}
