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
import { warning } from '../notice';
import { asPart } from '../path/makers';
import { isPlace } from '../places/place';
import { type Reading, readSource } from '../places/read';
import type { Telling } from '../places/words';
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

function readSteps(typed: string, reading?: Reading): Cell[] | undefined {
  const steps = typed
    .trim()
    .split(/[\s,]+/)
    .map((word): Cell | undefined => {
      if (word === '.') return { slice: 1, way: 'off' };
      const match = /^(@?)([^><=@]+)([><=])$/.exec(word);
      const way = match && (['forward', 'backward', 'hold'] as const).find((w) => SIGNS[w] === match[3]);
      if (!match || !way) return undefined;
      if (match[1] !== '@') return { slice: Number(match[2]), way };
      // A mark's name stands without its spaces between steps.
      const mark = reading?.marks.find(
        (m) => m.name.replace(/\s+/g, '_').toLowerCase() === match[2]!.toLowerCase(),
      );
      const from = mark ? { mark: mark.id } : readSource(match[2]!, reading);
      return from === undefined ? undefined : { slice: 1, way, from: from as number };
    });
  const whole = steps.filter((s) => s !== undefined);
  const plain = whole.map((s) => (isPlace(s.from) ? { ...s, from: 0 } : s));
  return whole.length === steps.length && schema.shape.steps.safeParse(plain).success ? whole : undefined;
}

/** A frame of the clip among steps: its number, or its mark's name in one word. */
function fromText(from: unknown, telling: Telling | undefined): string {
  if (typeof from === 'number') return String(from + (telling?.first ?? 0));
  const mark = isPlace(from) && 'mark' in from ? telling?.marks.find((m) => m.id === from.mark) : undefined;
  return mark ? mark.name.replace(/\s+/g, '_') : '0';
}

/** A row of equally long steps, each playing one slice forward, backward, held, or carrying on with the picture before. */
export const pattern: Move<PatternValues> = {
  id: 'pattern',
  name: 'Pattern',
  group: 'hand',
  also: 'step sequencer, grid, rhythm',
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
      help: 'Slice and way: 1> forward, 2< backward, 3= held, . carries on; @144> plays from source frame 144, @catch> from a mark',
      read: readSteps,
      write: (value, telling) =>
        (value as Cell[])
          .map((c) =>
            c.way === 'off'
              ? '.'
              : `${c.from === undefined ? c.slice : `@${fromText(c.from, telling)}`}${SIGNS[c.way]}`,
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
  lists: ({ steps }, { source }) => ({
    steps: steps.map((s) => (s.from === undefined ? s : { ...s, from: source(s.from) })),
  }),
  partName: (part) => `step ${part + 1}`,
  lengthOf: (_, { length }) => ({
    ...{ key: 'length', value: length, min: 1, max: 1000, whole: true, grows: true },
    set: (value) => ({ length: value }),
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
      parts.push(asPart(parts.length === 0 ? part : cutToPath(part), i));
    }
    const short = steps.find(
      (s) =>
        s.from !== undefined && s.way !== 'hold' && s.way !== 'off' && runsOut(s.from, even, table, rate),
    );
    const notices = short
      ? [
          warning(
            'ran-out',
            `The clip ends less than a step after frame ${short.from}: its last frame waits.`,
            'Play from an earlier frame, or make the steps shorter.',
          ),
        ]
      : [];
    return { path: joinPaths(rate, parts), notices };
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
  // Where the clip ends before the step does, its last frame waits.
  const moving = Math.min(length, (end - at) * toNumber(rate));
  const waits = length - moving > 1e-6 ? [holdSegment(length - moving, end)] : [];
  const segments =
    way === 'forward'
      ? [evenSegment(moving, at, end, rate), ...waits]
      : [...waits, evenSegment(moving, end, at, rate)];
  return { rate, segments };
}

const runsOut = (mark: number, length: number, table: FrameTable, rate: Rational): boolean =>
  startOf(table, frame(Math.min(mark, frameCount(table) - 1))) + length / toNumber(rate) >
  durationOf(table) + 1e-6;

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
