import { z } from 'zod';
import { type Music, frameAfter, frameOn } from '../beats/music';
import {
  type TimePath,
  cutToPath,
  instantAt,
  joinPaths,
  pathLength,
  reversePath,
  slicePath,
  speedUp,
} from '../path/path';
import {
  type FrameTable,
  durationOf,
  frameAt,
  frameCount,
  frameDurationAt,
  startOf,
} from '../clip/frame-table';
import { evenSegment, holdSegment } from '../path/segment';
import { settleTurns } from '../path/turns';
import { type Rational, toNumber } from '../time/rational';
import { frame } from '../time/units';
import { atLength } from './at-length';
import type { Move } from './move';

/** Most steps a pattern may have, and most slices. */
export const MOST_STEPS = 256;
export const MOST_SLICES = 64;

const cell = z.object({
  slice: z.int().min(1).max(MOST_SLICES),
  way: z.enum(['forward', 'backward', 'hold', 'off']),
  /** A frame of the clip (a mark's) to play from, in real time, instead of a slice. */
  from: z.int().min(0).max(10_000_000).optional(),
});
const schema = z.object({
  slices: z.int().min(1).max(MOST_SLICES),
  length: z.int().min(1).max(1000),
  swing: z.number().min(0).max(75).default(0),
  steps: z.array(cell).min(1).max(MOST_STEPS),
});
export type PatternValues = z.infer<typeof schema>;
export type Cell = PatternValues['steps'][number];
export type Way = Cell['way'];

const WORDS = { forward: 'forward', backward: 'backward', hold: 'held' } as const;
const SIGNS = { forward: '>', backward: '<', hold: '=', off: '.' } as const;

function readSteps(typed: string): Cell[] | undefined {
  const steps = typed
    .trim()
    .split(/[\s,]+/)
    .map((word): Cell | undefined => {
      if (word === '.') return { slice: 1, way: 'off' };
      const match = /^(@?)(\d{1,8})([><=])$/.exec(word);
      const way = match && (['forward', 'backward', 'hold'] as const).find((w) => SIGNS[w] === match[3]);
      if (!match || !way) return undefined;
      return match[1] === '@' ? { slice: 1, way, from: Number(match[2]) } : { slice: Number(match[2]), way };
    });
  const whole = steps.filter((s) => s !== undefined);
  return whole.length === steps.length && schema.shape.steps.safeParse(whole).success ? whole : undefined;
}

/** A row of equally long steps, each playing one slice forward, backward, held, or carrying on with the picture before. */
export const pattern: Move<PatternValues> = {
  id: 'pattern',
  name: 'Pattern',
  jumps: true,
  summary: 'Any order of slices, step by step: forward, backward, held.',
  schema,
  defaults: {
    slices: 4,
    length: 8,
    swing: 0,
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
      kind: 'length',
      label: 'Each step',
      help: 'A slice is stretched to it.',
      min: 1,
      max: 1000,
    },
    {
      key: 'swing',
      kind: 'percent',
      label: 'Swing',
      help: 'How much of a step every second one begins later.',
      min: 0,
      max: 75,
    },
    {
      key: 'steps',
      kind: 'text',
      label: 'Steps',
      help: 'Slice and way: 1> forward, 2< backward, 3= held, . carries on; @144> plays from source frame 144',
      read: readSteps,
      write: (value) =>
        (value as Cell[])
          .map((c) =>
            c.way === 'off' ? '.' : `${c.from === undefined ? c.slice : `@${c.from}`}${SIGNS[c.way]}`,
          )
          .join(' '),
      summary: (value) => {
        const steps = value as Cell[];
        const told = (['forward', 'backward', 'hold'] as const).flatMap((way) => {
          const count = steps.filter((s) => s.way === way).length;
          return count > 0 ? [`${count} ${WORDS[way]}`] : [];
        });
        return `${steps.length} steps: ${told.join(', ') || 'none plays'}`;
      },
      byHand: 'grid',
    },
  ],
  vary: ({ steps, slices }, random, wildness) => ({
    steps: steps.map((s) =>
      random() < 0.15 + 0.6 * wildness
        ? {
            slice: 1 + Math.floor(random() * slices),
            way: (['forward', 'forward', 'backward', 'backward', 'hold', 'off'] as const)[
              Math.floor(random() * 6)
            ]!,
          }
        : s,
    ),
  }),
  elsewhere: ({ steps }, { source }) => ({
    steps: steps.map((s) => (s.from === undefined ? s : { ...s, from: source(s.from) })),
  }),
  apply(path, { slices, length: even, swing, steps }, { table, music, inBeats }) {
    const total = pathLength(path);
    const { rate } = path;
    const parts: TimePath[] = [];
    let lastInstant = instantAt(path, 0.5);
    let at = 0;
    const begins = beginnings(steps.length, even, swing, music, inBeats?.['length']);
    for (const [i, { slice, way, from: mark }] of steps.entries()) {
      const length = Math.max(1, begins[i + 1]! - at);
      const place = Math.min(slice, slices) - 1;
      const from = (place * total) / slices;
      const end = ((place + 1) * total) / slices;
      const still = (at: number): TimePath => ({ rate, segments: [holdSegment(length, at)] });
      let part: TimePath;
      if (way === 'off') part = still(lastInstant);
      else if (mark !== undefined) part = fromMark(mark, way, length, table, rate);
      else if (way === 'hold') part = still(instantAt(path, Math.min(from + 0.5, (from + end) / 2)));
      else {
        const cut = slicePath(path, from, end);
        const played = way === 'forward' ? cut : reversePath(cut);
        part = atLength((pace) => settleTurns(speedUp(played, pace), table), pathLength(cut), length);
      }
      lastInstant = instantAt(part, length - 0.5);
      at += length;
      parts.push(parts.length === 0 ? part : cutToPath(part));
    }
    return { path: joinPaths(rate, parts), notices: [] };
  },
};

/** `length` result frames from a frame of the clip on in real time, or back to it, or resting on it. */
function fromMark(
  mark: number,
  way: Exclude<Way, 'off'>,
  length: number,
  table: FrameTable,
  rate: Rational,
): TimePath {
  const at = startOf(table, frame(Math.min(mark, frameCount(table) - 1)));
  if (way === 'hold')
    return { rate, segments: [holdSegment(length, at + frameDurationAt(table, frameAt(table, at)) / 2)] };
  const end = Math.min(durationOf(table), at + length / toNumber(rate));
  return {
    rate,
    segments: [way === 'forward' ? evenSegment(length, at, end, rate) : evenSegment(length, end, at, rate)],
  };
}

/**
 * Result frames at which steps begin, and the last one ends. In beats each lies where the beats put it, so that
 * rounding never adds up; swing delays every second one. Every step has at least a frame.
 */
function beginnings(
  count: number,
  length: number,
  swing: number,
  music: Music | undefined,
  beats: number | undefined,
): number[] {
  const begins: number[] = [0];
  for (let i = 1; i <= count; i++) {
    const late = i % 2 === 1 && i < count ? swing / 100 : 0;
    const at = music && beats !== undefined ? frameAfter(music, (i + late) * beats) : (i + late) * length;
    begins.push(Math.max(begins[i - 1]! + 1, frameOn(at, beats === undefined ? undefined : music)));
  }
  return begins;
}
