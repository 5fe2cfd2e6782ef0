import { z } from 'zod';
import { type Music, frameOfBeat } from '../beats/music';
import { type FrameTable, durationOf, frameCount, frameDurationAt, startOf } from '../clip/frame-table';
import { type Notice, info, warning } from '../notice';
import { pathFrames } from '../path/path';
import { type Segment, evenSegment, holdSegment } from '../path/segment';
import { percentText } from '../time/entry';
import { type Rational, toNumber } from '../time/rational';
import { frame, roundHalfUp } from '../time/units';
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
  onMusic: true,
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
    const between = second && ((second.middle - place.middle) * hz) / (second.lands - place.lands);
    const next = between ?? values.after / 100;
    // The middle of the landing's result frame shows the middle of the mark's frame.
    const joint = Math.max(0, place.middle - (0.5 * next) / hz);
    const segments = runUp(joint, values.before / 100, place.lands, rate, notices);
    let from = joint;
    if (second && between !== undefined) {
      const to = Math.max(0, second.middle - (0.5 * values.after) / 100 / hz);
      const frames = second.lands - place.lands;
      // Even from the first landing to the second; the last half frame bends to the speed after.
      segments.push(evenSegment(frames, from, from + (between * frames) / hz, rate));
      from = to;
      notices.push(info('between', `Between them it runs at ${percentText(between * 100)}.`));
    }
    const lastLanding = second ?? place;
    const till = Math.min(
      durationOf(table),
      Math.max(path.segments[path.segments.length - 1]!.to, lastLanding.middle + lastLanding.frameS / 2),
    );
    const tail = Math.max(1, roundHalfUp(((till - from) * hz) / (values.after / 100)));
    const end = Math.min(durationOf(table), from + ((values.after / 100) * tail) / hz);
    segments.push(evenSegment(tail, from, end, rate));
    notices.push(
      info(
        'lands',
        `Lands on result frame ${place.lands} of this piece; the beat is ${(place.exact - place.lands).toFixed(2)} frames into it.`,
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
    lands: Math.max(0, Math.floor(exact + 1e-6)),
    exact,
    middle: startOf(table, frame(placed)) + frameS / 2,
    frameS,
  };
}

/** The way to the landing at a speed; where the clip is too short for it, its first frame waits. */
function runUp(joint: number, speed: number, lands: number, rate: Rational, notices: Notice[]): Segment[] {
  if (lands === 0) return [];
  const hz = toNumber(rate);
  const wanted = joint - (speed * lands) / hz;
  const moving = wanted >= 0 ? lands : Math.max(1, roundHalfUp((joint * hz) / speed));
  const from = Math.max(0, wanted);
  if (moving >= lands) return [evenSegment(lands, from, joint, rate)];
  notices.push(
    warning(
      'ran-out',
      `Ran out of frames: ${lands - moving} short before the landing; the first one waits.`,
      `A run-up at ${percentText((100 * joint * hz) / lands)} would fit.`,
    ),
  );
  return [holdSegment(lands - moving, from), evenSegment(moving, from, joint, rate)];
}
