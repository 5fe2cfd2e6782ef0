import { z } from 'zod';
import { type Music, frameOfBeat, frameOn } from '../beats/music';
import { type FrameTable, durationOf, frameCount, frameDurationAt, startOf } from '../clip/frame-table';
import { type Notice, info, warning } from '../notice';
import { pathFrames } from '../path/path';
import { type Segment, evenSegment, holdSegment } from '../path/segment';
import { percentText } from '../time/entry';
import { type Rational, toNumber } from '../time/rational';
import { frame, framesBefore } from '../time/units';
import type { Move } from './move';
import { withoutBeats } from './on-beats';

const schema = z.object({
  mark: z.int().min(0).max(10_000_000),
  beat: z.int().min(0).max(10_000),
  before: z.number().min(2).max(3000),
  after: z.number().min(2).max(3000),
  marks: z.enum(['one', 'two']).default('one'),
  mark2: z.int().min(0).max(10_000_000).default(60),
  beat2: z.int().min(0).max(10_000).default(4),
});
type Values = z.infer<typeof schema>;

/**
 * One frame of the clip falls exactly on a beat: a run-up at its own speed, and a speed after. Or two frames on
 * two beats: the speed between them follows.
 */
export const land: Move<Values> = {
  id: 'land',
  name: 'Land',
  summary: 'Puts a frame of the clip exactly on a beat, or two on two.',
  schema,
  listens: () => true,
  defaults: { mark: 30, beat: 2, before: 100, after: 100, marks: 'one', mark2: 60, beat2: 4 },
  suggest: (path, { table, music }) => {
    const middle = path.segments[0]!.from + (pathFrames(path) / 2) * (1 / toNumber(path.rate));
    const mark = Math.min(
      frameCount(table) - 1,
      Math.max(0, Math.round(middle / frameDurationAt(table, frame(0)))),
    );
    if (!music || music.beats.length < 2) return { mark };
    const wanted = pathFrames(path) / 2;
    let beat = 0;
    while (frameOfBeat(music, beat + 1) <= wanted && beat < 1000) beat++;
    return { mark, beat };
  },
  shape: [0, 0.08, 0.16, 0.24, 0.32, 0.6, 0.8, 0.9, 1],
  fields: [
    {
      key: 'marks',
      kind: 'choice',
      label: 'Lands',
      help: 'Two frames on two beats line up both: the speed between them follows.',
      options: [
        { value: 'one', label: 'one frame' },
        { value: 'two', label: 'two frames' },
      ],
    },
    {
      key: 'mark',
      kind: 'count',
      label: 'Source frame',
      help: 'The frame that lands: a strike, a catch. Marks offer theirs.',
      min: 0,
      max: 10_000_000,
    },
    {
      key: 'beat',
      kind: 'count',
      label: 'On beat',
      help: 'Beats of the song from where this piece begins; 0 is the first.',
      min: 0,
      max: 10_000,
    },
    {
      key: 'mark2',
      kind: 'count',
      label: 'Second frame',
      help: 'The later frame that lands.',
      min: 0,
      max: 10_000_000,
      when: (v) => v.marks === 'two',
    },
    {
      key: 'beat2',
      kind: 'count',
      label: 'Second beat',
      help: 'A later beat than the first.',
      min: 0,
      max: 10_000,
      when: (v) => v.marks === 'two',
    },
    {
      key: 'before',
      kind: 'percent',
      label: 'Speed before',
      help: 'Of the run-up; 100 % is real time.',
      min: 2,
      max: 3000,
    },
    {
      key: 'after',
      kind: 'percent',
      label: 'Speed after',
      help: 'From the landing to the end of the span.',
      min: 2,
      max: 3000,
    },
  ],
  elsewhere: ({ mark, mark2 }, { source }) => ({ mark: source(mark), mark2: source(mark2) }),
  apply(path, values, { table, music }) {
    if (!music || music.beats.length < 2) return withoutBeats(path, 'Land');
    const { rate } = path;
    const hz = toNumber(rate);
    const notices: Notice[] = [];
    const place = landingOf(values.mark, values.beat, table, music, notices);
    const second =
      values.marks === 'two' ? landingOf(values.mark2, values.beat2, table, music, notices) : undefined;
    if (second && (second.lands <= place.lands || second.middle === place.middle))
      return {
        path,
        notices: [
          warning(
            'same-beat',
            'The second frame must land on a later beat, and be another frame.',
            'Choose a later beat.',
          ),
        ],
      };
    // The middle of the landing's result frame shows the middle of the mark's frame, exactly.
    const segments = runUp(place.middle, values.before / 100, place.lands + 0.5, rate, notices);
    if (second) {
      const between = evenSegment(second.lands - place.lands, place.middle, second.middle, rate);
      segments.push(between);
      notices.push(info('between', `Between them it runs at ${percentText(between.speedIn * 100)}.`));
    }
    const from = (second ?? place).middle;
    const till = Math.min(
      durationOf(table),
      Math.max(path.segments[path.segments.length - 1]!.to, from + (second ?? place).frameS / 2),
    );
    segments.push(evenSegment(((till - from) * hz) / (values.after / 100), from, till, rate));
    notices.push(
      info(
        'lands',
        `Lands on result frame ${place.lands} of this piece, the nearest to the beat at ${place.exact.toFixed(2)}.`,
      ),
    );
    return { path: { rate, segments }, notices };
  },
};

/** Where a frame lands: the result frame, the beat exactly, the middle of the frame in source seconds. */
interface Landing {
  readonly lands: number;
  readonly exact: number;
  readonly middle: number;
  readonly frameS: number;
}

function landingOf(mark: number, beat: number, table: FrameTable, music: Music, notices: Notice[]): Landing {
  const placed = Math.min(mark, frameCount(table) - 1);
  if (placed < mark)
    notices.push(
      warning('outside', `The clip ends at frame ${placed}; that one lands.`, 'Choose an earlier frame.'),
    );
  const exact = frameOfBeat(music, beat);
  const frameS = frameDurationAt(table, frame(placed));
  return {
    lands: Math.max(0, frameOn(exact, music)),
    exact,
    middle: startOf(table, frame(placed)) + frameS / 2,
    frameS,
  };
}

/** The way to an instant that is reached after `length` frames at a speed; where the clip is too short for it, its first frame waits. */
function runUp(to: number, speed: number, length: number, rate: Rational, notices: Notice[]): Segment[] {
  const hz = toNumber(rate);
  const wanted = to - (speed * length) / hz;
  if (wanted >= 0) return [evenSegment(length, wanted, to, rate)];
  const moving = (to * hz) / speed;
  notices.push(
    warning(
      'ran-out',
      `Ran out of frames: ${framesBefore(length - moving)} short before the landing; the first one waits.`,
      `A run-up at ${percentText((100 * to * hz) / length)} would fit.`,
    ),
  );
  return [holdSegment(length - moving, 0), evenSegment(moving, 0, to, rate)];
}
