import { z } from 'zod';
import { type FrameTable, frameAt, frameCount, frameDurationAt, startOf } from '../clip/frame-table';
import { type Music, chosenBeats, frameOn } from '../beats/music';
import { type Notice, warning } from '../notice';
import { instantAt, pathLength, slicePath } from '../path/path';
import { type Segment, evenSegment, holdSegment } from '../path/segment';
import { readSource, sourceListText } from '../places/read';
import { frame, seconds } from '../time/units';
import type { Move } from './move';
import { type OfAccents, accentsOf, withoutBeats } from './on-beats';

const at = z.int().min(0).max(10_000_000);
const schema = z.object({
  /** Frames it goes to; each may have a softness of its own. */
  instants: z
    .array(z.union([at, z.object({ to: at, soft: z.number().min(0).max(100) })]))
    .min(2)
    .max(500),
  leg: z.int().min(1).max(10_000),
  soft: z.number().min(0).max(100),
  on: z
    .enum(['frames', 'half', 'every', 'second', 'fourth', 'bar', 'low', 'mid', 'high', 'all'])
    .default('frames'),
  least: z.number().min(0).max(100).default(40),
});
type Values = z.infer<typeof schema>;
type Instant = Values['instants'][number];

const frameOf = (instant: Instant): number => (typeof instant === 'number' ? instant : instant.to);
const withFrame = (instant: Instant, to: number): Instant =>
  typeof instant === 'number' ? to : { ...instant, to };

const ON_BEATS = ['half', 'every', 'second', 'fourth', 'bar'] as const;
type OnBeats = (typeof ON_BEATS)[number];
const onBeats = (on: Values['on']): on is OnBeats => (ON_BEATS as readonly string[]).includes(on);

/** The result frames of the chosen beats or accents, from the second frame on. */
function turnsOn({ on, least }: Values, music: Music): number[] {
  const places = onBeats(on)
    ? chosenBeats(music, on, 1, Infinity)
    : accentsOf(music, on as OfAccents, least)
        .filter((a) => a.at >= 1)
        .map((a) => a.at);
  return [...new Set(places.map((p) => Math.max(1, frameOn(p, music))))].sort((a, b) => a - b);
}

/** From one chosen frame of the clip to the next and on, each leg as long as the others, or turning on the song. */
export const bounce: Move<Values> = {
  id: 'bounce',
  name: 'Bounce',
  group: 'there',
  also: 'ping-pong, zigzag, turns on beats',
  listens: ({ on }) => on !== 'frames',
  summary: 'Back and forth between chosen frames of the clip, one leg after another.',
  schema,
  defaults: { instants: [0, 30, 10, 40], leg: 15, soft: 60, on: 'frames', least: 40 },
  suggest: (path, { table }) => {
    const shown = (share: number) => frameAt(table, seconds(instantAt(path, pathLength(path) * share)));
    return { instants: [shown(0), shown(1), shown(0.35), shown(0.8), shown(0)] };
  },
  vary: ({ instants }, random, wildness) => {
    const frames = instants.map(frameOf);
    const low = Math.min(...frames);
    const reach = Math.max(...frames) - low;
    return {
      instants: instants.map((n) =>
        random() < 0.3 + 0.6 * wildness
          ? withFrame(
              n,
              Math.round(
                Math.min(low + reach, Math.max(low, frameOf(n) + (random() * 2 - 1) * reach * wildness)),
              ),
            )
          : n,
      ),
    };
  },
  shape: [0.1, 0.5, 0.95, 0.6, 0.25, 0.55, 0.8, 0.45, 0.1],
  fields: [
    {
      key: 'instants',
      kind: 'text',
      label: 'Source frames',
      help: 'Frames or marks it goes to, in order, each with a softness of its own where it has one: 100, mark catch, 110 ~0',
      read: (typed, reading) => {
        const list = typed
          // With commas names may have spaces.
          .split(/[,;]/.test(typed) ? /[,;]+/ : /\s+/)
          .map((part) => part.trim())
          .filter(Boolean)
          .map((part) => {
            const [place, soft] = part.split('~').map((s) => s.trim());
            const to = readSource(place!, reading);
            return to === undefined || soft === undefined ? to : { to, soft: Number(soft) };
          });
        return list.length >= 2 && list.every((n) => n !== undefined) ? list : undefined;
      },
      write: (value, telling) => sourceListText(value as unknown[], telling),
      summary: (value, telling) => {
        const list = value as unknown[];
        const legs = list.length - 1;
        return `${legs} leg${legs === 1 ? '' : 's'}, ending at ${sourceListText(list.slice(-1), telling)}`;
      },
    },
    {
      key: 'on',
      kind: 'choice',
      label: 'Turns',
      help: 'After so many frames, or on the song: on its beats, or on its accents.',
      options: [
        { value: 'frames', label: 'by length' },
        { value: 'half', label: 'every half beat' },
        { value: 'every', label: 'every beat' },
        { value: 'second', label: 'every second beat' },
        { value: 'fourth', label: 'every fourth beat' },
        { value: 'bar', label: 'every bar' },
        { value: 'low', label: 'on kicks' },
        { value: 'mid', label: 'on snares' },
        { value: 'high', label: 'on hats' },
        { value: 'all', label: 'on all accents' },
      ],
    },
    {
      key: 'least',
      kind: 'percent',
      label: 'At least',
      help: 'Weaker accents do nothing; 100 is a strong one.',
      when: (v) => v.on !== 'frames' && !onBeats(v.on),
      min: 0,
      max: 100,
    },
    {
      key: 'leg',
      kind: 'length',
      label: 'Each leg',
      help: 'Frames from one to the next.',
      when: (v) => v.on === 'frames',
      min: 1,
      max: 10_000,
    },
    {
      key: 'soft',
      kind: 'percent',
      label: 'Soft turns',
      help: '0 turns hard, 100 comes to rest at each; a turn with a softness of its own keeps that.',
      min: 0,
      max: 100,
    },
  ],
  lists: ({ instants }, { source }) => ({
    instants: instants.map((n) => (isTurn(n) ? { ...n, to: source(n.to) } : source(n))),
  }),
  elsewhere: ({ instants }, { source }) => ({
    instants: instants.map((n) => withFrame(n, source(frameOf(n)))),
  }),
  partName: (part) => `leg ${part + 1}`,
  lengthOf: (_, { leg, on }) =>
    on === 'frames'
      ? {
          ...{ key: 'leg', value: leg, min: 1, max: 10_000, whole: true, grows: true },
          set: (value) => ({ leg: value }),
        }
      : undefined,
  apply(path, values, { table, music }) {
    const { instants, leg, soft, on } = values;
    if (on !== 'frames' && (!music || music.beats.length < 2)) return withoutBeats(path, 'Bounce');
    const last = frameCount(table) - 1;
    const inside = instants.map((n) => Math.min(frameOf(n), last));
    const notices: Notice[] = [];
    if (inside.some((n, i) => n < frameOf(instants[i]!)))
      notices.push(
        warning(
          'outside',
          `The clip ends at frame ${last}; frames after it were brought back.`,
          'Choose earlier frames.',
        ),
      );
    // On the music, the first leg ends on the first place that leaves it a frame; a leg lasts at least one.
    const turns = on === 'frames' || !music ? undefined : turnsOn(values, music);
    if (turns && turns.length < inside.length - 1)
      notices.push(
        warning(
          'few-turns',
          `The song has ${turns.length} such places from here on; later legs are ${leg} frames each.`,
          'Choose fewer frames, or other turns.',
        ),
      );
    const softs = instants.map((n) => (typeof n === 'number' ? soft : n.soft));
    const reached = [0];
    for (let i = 1; i < inside.length; i++)
      reached.push(Math.max(reached[i - 1]! + 1, turns?.[i - 1] ?? reached[i - 1]! + leg));
    return {
      path: slicePath(
        { rate: path.rate, segments: legs(inside, softs, reached, table, path.rate) },
        0,
        reached.at(-1)!,
      ),
      notices,
    };
  },
};

const isTurn = (value: unknown): value is { to: number; soft: number } =>
  typeof value === 'object' && value !== null && 'to' in value;

/**
 * Legs through frames of the clip, each shown exactly at its result frame: the middle of one on the middle of the other.
 * What ends where it began leaves its last frame to the loop; else the last frame it goes to is the last one shown.
 */
function legs(
  frames: readonly number[],
  softs: readonly number[],
  reached: readonly number[],
  table: FrameTable,
  rate: Parameters<typeof evenSegment>[3],
): Segment[] {
  const middle = (n: number) => startOf(table, frame(n)) + frameDurationAt(table, frame(n)) / 2;
  const end = frames.length - 1;
  const loops = frames[0] === frames[end];
  const middles = reached.map((r, i) => (i === end && !loops && r - reached[i - 1]! > 1 ? r - 0.5 : r + 0.5));
  const segments: Segment[] = [{ ...holdSegment(0.5, middle(frames[0]!)), part: 0 }];
  for (let i = 1; i <= end; i++) {
    const even = evenSegment(middles[i]! - middles[i - 1]!, middle(frames[i - 1]!), middle(frames[i]!), rate);
    const speed = (n: number) => even.speedIn * (1 - softs[n]! / 100) || 0;
    segments.push({ ...even, speedIn: speed(i - 1), speedOut: speed(i), part: i - 1 });
  }
  if (middles[end]! < reached[end]!)
    segments.push({ ...holdSegment(reached[end]! - middles[end]!, middle(frames[end]!)), part: end - 1 });
  return segments;
}
