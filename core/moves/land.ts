import { z } from 'zod';
import { type Music, frameOfBeat, frameOn } from '../beats/music';
import {
  type FrameTable,
  durationOf,
  frameAt,
  frameCount,
  frameDurationAt,
  startOf,
} from '../clip/frame-table';
import { type Notice, info, warning } from '../notice';
import { instantAt, pathFrames } from '../path/path';
import { type Segment, evenSegment, holdSegment } from '../path/segment';
import { resolvePlace } from '../places/resolve';
import { percentText } from '../time/entry';
import { type Rational, toNumber } from '../time/rational';
import { frame, framesBefore, seconds } from '../time/units';
import type { Move } from './move';
import { withoutBeats } from './on-beats';

/** The n-th beat from where the piece begins, 0 the first; or a position of the song. */
const beatPlace = z.union([z.int().min(0).max(10_000), z.object({ at: z.number() })]);
const schema = z.object({
  mark: z.int().min(0).max(10_000_000),
  beat: beatPlace,
  before: z.number().min(2).max(3000),
  after: z.number().min(2).max(3000),
  marks: z.enum(['one', 'two']).default('one'),
  mark2: z.int().min(0).max(10_000_000).default(60),
  beat2: beatPlace.default(4),
});
type Values = z.infer<typeof schema>;

/**
 * One frame of the clip falls exactly on a beat: a run-up at its own speed, and a speed after. Or two frames on
 * two beats: the speed between them follows.
 */
export const land: Move<Values> = {
  id: 'land',
  name: 'Land',
  group: 'music',
  also: 'sync, hit point, on the beat',
  summary: 'Puts a frame of the clip exactly on a beat, or two on two.',
  schema,
  listens: () => true,
  defaults: { mark: 30, beat: 2, before: 100, after: 100, marks: 'one', mark2: 60, beat2: 4 },
  suggest: (path, { table, music, begins, marks = [] }) => {
    const half = Math.floor(pathFrames(path) / 2);
    const mark = begins
      ? 'source' in begins
        ? begins.source
        : { mark: begins.mark }
      : frameAt(table, seconds(instantAt(path, half)));
    if (!music || music.beats.length < 2) return { mark };
    const wanted = begins ? (resolvePlace(begins, { path, table, music, marks }).at[0] ?? half) : half;
    // The beat that is nearest to where it would come by itself, of those inside.
    const off = (beat: number) => (beat < 0 ? Infinity : Math.abs(beat - wanted));
    const nearest = music.beats.reduce(
      (best, beat, i) => (off(beat) < off(music.beats[best]!) ? i : best),
      0,
    );
    return { mark, beat: { beat: nearest + 1 } };
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
      kind: 'source',
      label: 'Source frame',
      help: 'The frame that lands: a strike, a catch. Marks offer theirs.',
      min: 0,
      max: 10_000_000,
    },
    {
      key: 'beat',
      kind: 'beat',
      label: 'On beat',
      help: 'A beat, a bar or an accent of the song; a plain number is counted from where this piece begins, 0 the first.',
      min: 0,
      max: 10_000,
    },
    {
      key: 'mark2',
      kind: 'source',
      label: 'Second frame',
      help: 'The later frame that lands.',
      min: 0,
      max: 10_000_000,
      when: (v) => v.marks === 'two',
    },
    {
      key: 'beat2',
      kind: 'beat',
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
  partName: (part) => ['run-up', 'between the landings', 'after the landing'][part] ?? 'landing',
  lengthOf: (part, { after }) =>
    part === 2
      ? {
          ...{ key: 'after', value: after, min: 2, max: 3000, whole: false, grows: false },
          set: (value) => ({ after: value }),
        }
      : undefined,
  apply(path, values, { table, music }) {
    if (!music || music.beats.length < 2) return withoutBeats(path, 'Land');
    const early = [values.beat, ...(values.marks === 'two' ? [values.beat2] : [])].find(
      (b) => typeof b !== 'number' && frameOn(b.at, music) < 0,
    );
    if (early)
      return {
        path,
        notices: [
          warning(
            'outside-music',
            'That place of the song lies before what comes in: nothing lands.',
            'Choose a later one, or slide the song.',
          ),
        ],
      };
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
      segments.push({ ...between, part: 1 });
      notices.push(info('between', `Between them it runs at ${percentText(between.speedIn * 100)}.`));
    }
    const from = (second ?? place).middle;
    const till = Math.min(
      durationOf(table),
      // As far as what comes in went, wherever it ended.
      path.segments.reduce((most, s) => Math.max(most, s.from, s.to), from + (second ?? place).frameS / 2),
    );
    segments.push({ ...evenSegment(((till - from) * hz) / (values.after / 100), from, till, rate), part: 2 });
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

function landingOf(
  mark: number,
  beat: Values['beat'],
  table: FrameTable,
  music: Music,
  notices: Notice[],
): Landing {
  const placed = Math.min(mark, frameCount(table) - 1);
  if (placed < mark)
    notices.push(
      warning('outside', `The clip ends at frame ${placed}; that one lands.`, 'Choose an earlier frame.'),
    );
  const exact = typeof beat === 'number' ? frameOfBeat(music, beat) : beat.at;
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
