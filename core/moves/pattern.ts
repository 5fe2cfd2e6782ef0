import { z } from 'zod';
import {
  type TimePath,
  cutToPath,
  instantAt,
  joinPaths,
  pathFrames,
  reversePath,
  slicePath,
} from '../path/path';
import { holdSegment } from '../path/segment';
import { warpPath } from '../path/warp';
import type { Move } from './move';

const cell = z.object({ slice: z.int().min(1).max(64), way: z.enum(['forward', 'backward', 'hold', 'off']) });
const schema = z.object({
  slices: z.int().min(1).max(64),
  length: z.int().min(1).max(1000),
  steps: z.array(cell).min(1).max(256),
});
type Values = z.infer<typeof schema>;
type Cell = Values['steps'][number];

const SIGNS = { forward: '>', backward: '<', hold: '=', off: '.' } as const;

function readSteps(typed: string): Cell[] | undefined {
  const steps = typed
    .trim()
    .split(/[\s,]+/)
    .map((word): Cell | undefined => {
      if (word === '.') return { slice: 1, way: 'off' };
      const match = /^(\d{1,2})([><=])$/.exec(word);
      const way = match && (['forward', 'backward', 'hold'] as const).find((w) => SIGNS[w] === match[2]);
      return match && way ? { slice: Number(match[1]), way } : undefined;
    });
  const whole = steps.filter((s) => s !== undefined);
  return whole.length === steps.length && schema.shape.steps.safeParse(whole).success ? whole : undefined;
}

/** A row of equally long steps, each playing one slice forward, backward, held, or carrying on with the picture before. */
export const pattern: Move<Values> = {
  id: 'pattern',
  name: 'Pattern',
  summary: 'Any order of slices, step by step: forward, backward, held.',
  schema,
  defaults: {
    slices: 4,
    length: 8,
    steps: readSteps('1> 2> 2< 2> 3> 3< 4> 4=')!,
  },
  shape: [0, 0.25, 0.5, 0.25, 0.5, 0.75, 0.5, 0.75, 1, 1],
  fields: [
    {
      key: 'slices',
      kind: 'count',
      label: 'Slices',
      help: 'Equal parts what comes in is cut into.',
      min: 1,
      max: 64,
    },
    {
      key: 'length',
      kind: 'frames',
      label: 'Each step',
      help: 'A slice is stretched to it.',
      min: 1,
      max: 1000,
    },
    {
      key: 'steps',
      kind: 'text',
      label: 'Steps',
      help: 'Slice and way: 1> forward, 2< backward, 3= held, . carries on',
      read: readSteps,
      write: (value) =>
        (value as Cell[]).map((c) => (c.way === 'off' ? '.' : `${c.slice}${SIGNS[c.way]}`)).join(' '),
    },
  ],
  apply(path, { slices, length, steps }) {
    const total = pathFrames(path);
    const { rate } = path;
    const parts: TimePath[] = [];
    let lastInstant = instantAt(path, 0.5);
    for (const { slice, way } of steps) {
      const place = Math.min(slice, slices) - 1;
      const from = Math.min(total - 1, Math.floor((place * total) / slices));
      const end = Math.max(from + 1, Math.floor(((place + 1) * total) / slices));
      const still = (at: number): TimePath => ({ rate, segments: [holdSegment(length, at)] });
      let part: TimePath;
      if (way === 'off') part = still(lastInstant);
      else if (way === 'hold') part = still(instantAt(path, from + 0.5));
      else {
        const cut = slicePath(path, from, end);
        const pace = pathFrames(cut) / length;
        part = warpPath(way === 'forward' ? cut : reversePath(cut), [
          { time: 0, old: 0, pace },
          { time: length, old: pathFrames(cut), pace },
        ]);
      }
      lastInstant = instantAt(part, pathFrames(part) - 0.5);
      parts.push(parts.length === 0 ? part : cutToPath(part));
    }
    return { path: joinPaths(rate, parts), notices: [] };
  },
};
