import { z } from 'zod';
import { frameOfBeat } from '../beats/music';
import { durationOf, frameCount, frameDurationAt, startOf } from '../clip/frame-table';
import { type Notice, info, warning } from '../notice';
import { pathFrames } from '../path/path';
import { type Segment, evenSegment, holdSegment } from '../path/segment';
import { percentText } from '../time/entry';
import { toNumber } from '../time/rational';
import { frame, roundHalfUp } from '../time/units';
import type { Move } from './move';
import { withoutBeats } from './on-beats';

const schema = z.object({
  mark: z.int().min(0).max(10_000_000),
  beat: z.int().min(0).max(10_000),
  before: z.number().min(2).max(3000),
  after: z.number().min(2).max(3000),
});
type Values = z.infer<typeof schema>;

/** One frame of the clip falls exactly on a beat: a run-up at its own speed, and a speed after. */
export const land: Move<Values> = {
  id: 'land',
  name: 'Land',
  summary: 'Puts one frame of the clip exactly on a beat.',
  schema,
  onMusic: true,
  defaults: { mark: 30, beat: 2, before: 100, after: 100 },
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
  apply(path, { mark, beat, before, after }, { table, music }) {
    if (!music || music.beats.length < 2) return withoutBeats(path, 'Land');
    const { rate } = path;
    const hz = toNumber(rate);
    const notices: Notice[] = [];
    const placed = Math.min(mark, frameCount(table) - 1);
    if (placed < mark)
      notices.push(
        warning('outside', `The clip ends at frame ${placed}; that one lands.`, 'Choose an earlier frame.'),
      );
    const exact = frameOfBeat(music, beat);
    const lands = Math.max(0, Math.floor(exact + 1e-6));
    const onFrame = startOf(table, frame(placed)) + frameDurationAt(table, frame(placed)) / 2;
    // The middle of the landing's result frame shows the middle of the mark's frame.
    const joint = Math.max(0, onFrame - ((after / 100) * 0.5) / hz);
    const wanted = joint - ((before / 100) * lands) / hz;
    const from = Math.max(0, wanted);
    const segments: Segment[] = [];
    if (lands > 0) {
      const moving = from === wanted ? lands : Math.max(1, roundHalfUp((joint * hz) / (before / 100)));
      if (moving < lands) {
        notices.push(
          warning(
            'ran-out',
            `Ran out of frames: ${lands - moving} short before the landing; the first one waits.`,
            `A run-up at ${percentText((100 * joint * hz) / lands)} would fit.`,
          ),
        );
        segments.push(holdSegment(lands - moving, from));
      }
      segments.push(evenSegment(Math.min(lands, moving), from, joint, rate));
    }
    const last = path.segments[path.segments.length - 1]!.to;
    const till = Math.min(
      durationOf(table),
      Math.max(last, onFrame + frameDurationAt(table, frame(placed)) / 2),
    );
    const tail = Math.max(1, roundHalfUp(((till - joint) * hz) / (after / 100)));
    const end = Math.min(durationOf(table), joint + ((after / 100) * tail) / hz);
    segments.push(evenSegment(tail, joint, end, rate));
    notices.push(
      info(
        'lands',
        `Lands on result frame ${lands} of this piece; the beat is ${(exact - lands).toFixed(2)} frames into it.`,
      ),
    );
    return { path: { rate, segments }, notices };
  },
};
