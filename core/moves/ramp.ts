import { z } from 'zod';
import { type Notice, info, warning } from '../notice';
import { pathFrames } from '../path/path';
import { knotsOf, warpPath } from '../path/warp';
import { percentText } from '../time/entry';
import type { Move } from './move';

const point = z.object({ at: z.int().min(0).max(1_000_000), percent: z.number().min(2).max(3000) });
const schema = z.object({
  points: z.array(point).min(1).max(100),
  width: z.int().min(0).max(10_000),
  soft: z.enum(['none', 'in', 'out', 'both']),
});
type Values = z.infer<typeof schema>;
type Point = Values['points'][number];

/** Where an eased change of speed stands a third and two thirds through: 3x² - 2x³. */
const EASED = [7 / 27, 20 / 27] as const;

function readPoints(typed: string): Point[] | undefined {
  const points = typed.split(/[,;]+/).map((part): Point | undefined => {
    const match = /^\s*(\d+)\s*(?:f\s*)?(?::|=|\s)\s*(\d+(?:\.\d+)?)\s*%?\s*$/.exec(part);
    return match ? { at: Number(match[1]), percent: Number(match[2]) } : undefined;
  });
  const whole = points.filter((p) => p !== undefined);
  return whole.length === points.length && schema.shape.points.safeParse(whole).success ? whole : undefined;
}

/** One speed per stretch, and a change of a given width around each point between two stretches. */
export const ramp: Move<Values> = {
  id: 'ramp',
  name: 'Ramp',
  summary: 'A speed for each stretch, with eased changes between them.',
  schema,
  defaults: {
    points: [
      { at: 0, percent: 100 },
      { at: 30, percent: 300 },
    ],
    width: 12,
    soft: 'both',
  },
  suggest: (path) => ({
    points: [
      { at: 0, percent: 100 },
      { at: Math.floor(pathFrames(path) / 2), percent: 300 },
    ],
  }),
  shape: [0, 0.06, 0.12, 0.18, 0.26, 0.4, 0.6, 0.8, 1],
  fields: [
    {
      key: 'points',
      kind: 'text',
      label: 'Speeds',
      help: 'From which frame on, and how fast: 0: 100, 30: 300',
      read: readPoints,
      write: (value) => (value as Point[]).map((p) => `${p.at}: ${p.percent}`).join(', '),
    },
    {
      key: 'width',
      kind: 'frames',
      label: 'Transition',
      help: 'Result frames each change of speed takes.',
      min: 0,
      max: 10_000,
    },
    {
      key: 'soft',
      kind: 'choice',
      label: 'Softness',
      help: 'Which side of a change is eased; sharp changes evenly from end to end.',
      options: [
        { value: 'both', label: 'both sides' },
        { value: 'in', label: 'its beginning' },
        { value: 'out', label: 'its end' },
        { value: 'none', label: 'sharp' },
      ],
    },
  ],
  apply(path, { points, width, soft }) {
    const end = pathFrames(path);
    const used = points.toSorted((a, b) => a.at - b.at).filter((p, i) => i === 0 || p.at < end);
    const notices: Notice[] = [];
    if (used.length < points.length)
      notices.push(
        warning(
          'outside',
          `What comes in has ${end} frames; points after its end do nothing.`,
          'Move them earlier.',
        ),
      );
    const paces = used.map((p) => p.percent / 100);
    const half = (i: number) => ((paces[i - 1]! + paces[i]!) / 2) * (width / 2);
    let narrowed = width;
    for (let i = 1; i < used.length; i++) {
      const before = used[i]!.at - (i === 1 ? 0 : used[i - 1]!.at);
      const after = (used[i + 1]?.at ?? end) - used[i]!.at;
      const room = Math.min(i === 1 ? before : before / 2, i === used.length - 1 ? after : after / 2);
      if (half(i) > room) narrowed = Math.min(narrowed, (width * room) / half(i));
    }
    if (narrowed < width)
      notices.push(info('narrowed', `The changes have room for ${Math.floor(narrowed)} frames each.`));
    const stretches: ({ from: number; to: number } & ({ old: number } | { time: number }))[] = [];
    let at = 0;
    for (let i = 0; i < used.length; i++) {
      const pace = paces[i]!;
      const next = used[i + 1];
      if (!next) {
        stretches.push({ from: pace, to: pace, old: end - at });
        break;
      }
      const nextPace = paces[i + 1]!;
      const change = transition(pace, nextPace, narrowed, soft);
      const reach = change.reduce((sum, c) => sum + ((c.from + c.to) / 2) * c.time, 0);
      stretches.push({ from: pace, to: pace, old: next.at - reach / 2 - at }, ...change);
      at = next.at + reach / 2;
    }
    const result = warpPath(path, knotsOf(stretches));
    notices.push(
      info(
        'mean-speed',
        `${end} frames become ${pathFrames(result)}: ${percentText((100 * end) / pathFrames(result))} on the whole.`,
      ),
    );
    return { path: result, notices };
  },
};

/** A change of pace in one straight piece, or three that follow an ease on the soft sides; all cover the same. */
function transition(from: number, to: number, time: number, soft: Values['soft']) {
  if (soft === 'none' || time < 6) return [{ from, to, time }];
  const [third, twoThirds] = EASED;
  const first = soft === 'out' ? 1 / 3 : third;
  const second = soft === 'in' ? 2 / 3 : twoThirds;
  const at = (share: number) => from + (to - from) * share;
  return [
    { from, to: at(first), time: time / 3 },
    { from: at(first), to: at(second), time: time / 3 },
    { from: at(second), to, time: time / 3 },
  ];
}
