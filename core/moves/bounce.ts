import { z } from 'zod';
import { frameAt, frameCount, startOf } from '../clip/frame-table';
import { chosenBeats, frameOn } from '../beats/music';
import { type Notice, warning } from '../notice';
import { instantAt, pathLength } from '../path/path';
import { type Segment, evenSegment } from '../path/segment';
import { frame, seconds } from '../time/units';
import type { Move } from './move';
import { withoutBeats } from './on-beats';

const schema = z.object({
  instants: z.array(z.int().min(0).max(10_000_000)).min(2).max(500),
  leg: z.int().min(1).max(10_000),
  soft: z.number().min(0).max(100),
  on: z.enum(['frames', 'half', 'every', 'second', 'bar']).default('frames'),
});
type Values = z.infer<typeof schema>;

/** From one chosen frame of the clip to the next and on, each leg as long as the others. */
export const bounce: Move<Values> = {
  id: 'bounce',
  name: 'Bounce',
  listens: ({ on }) => on !== 'frames',
  summary: 'Back and forth between chosen frames of the clip, one leg after another.',
  schema,
  defaults: { instants: [0, 30, 10, 40], leg: 15, soft: 60, on: 'frames' },
  suggest: (path, { table }) => {
    const at = (share: number) => frameAt(table, seconds(instantAt(path, pathLength(path) * share)));
    return { instants: [at(0), at(1), at(0.35), at(0.8), at(0)] };
  },
  vary: ({ instants }, random, wildness) => {
    const low = Math.min(...instants);
    const reach = Math.max(...instants) - low;
    return {
      instants: instants.map((n) =>
        random() < 0.3 + 0.6 * wildness
          ? Math.round(Math.min(low + reach, Math.max(low, n + (random() * 2 - 1) * reach * wildness)))
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
      help: 'The frames it goes to, in order: 100, 130, 110',
      read: (typed) => {
        const list = typed
          .split(/[\s,;]+/)
          .filter(Boolean)
          .map(Number);
        return schema.shape.instants.safeParse(list).success ? list : undefined;
      },
      write: (value) => (value as number[]).join(', '),
      summary: (value) => {
        const legs = (value as number[]).length - 1;
        return `${legs} leg${legs === 1 ? '' : 's'}, ending at frame ${(value as number[]).at(-1)}`;
      },
    },
    {
      key: 'on',
      kind: 'choice',
      label: 'Turns',
      help: 'After so many frames, or on the beats of the song.',
      options: [
        { value: 'frames', label: 'by frames' },
        { value: 'half', label: 'every half beat' },
        { value: 'every', label: 'every beat' },
        { value: 'second', label: 'every second beat' },
        { value: 'bar', label: 'every bar' },
      ],
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
      help: '0 turns hard, 100 comes to rest at each.',
      min: 0,
      max: 100,
    },
  ],
  elsewhere: ({ instants }, { source }) => ({ instants: instants.map(source) }),
  apply(path, { instants, leg, soft, on }, { table, music }) {
    if (on !== 'frames' && (!music || music.beats.length < 2)) return withoutBeats(path, 'Bounce');
    const last = frameCount(table);
    const inside = instants.map((n) => Math.min(n, last));
    const notices: Notice[] = inside.some((n, i) => n !== instants[i])
      ? [
          warning(
            'outside',
            `The clip ends at frame ${last}; frames after it were brought back.`,
            'Choose earlier frames.',
          ),
        ]
      : [];
    // On the music, the first leg ends on the first beat that leaves it a frame; a leg lasts at least one.
    const turns =
      on === 'frames' || !music
        ? undefined
        : chosenBeats(music, on, 1, Infinity).map((b) => Math.max(1, frameOn(b, music)));
    let at = 0;
    const segments = inside.slice(1).map((to, i): Segment => {
      const lasts = turns ? Math.max(1, (turns[i] ?? at + leg) - at) : leg;
      at += lasts;
      const even = evenSegment(
        lasts,
        startOf(table, frame(inside[i]!)),
        startOf(table, frame(to)),
        path.rate,
      );
      const speed = even.speedIn * (1 - soft / 100) || 0;
      return { ...even, speedIn: speed, speedOut: speed };
    });
    return { path: { rate: path.rate, segments }, notices };
  },
};
