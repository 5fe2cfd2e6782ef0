import { z } from 'zod';
import { info } from '../notice';
import { pathFrames, pathLength, sampleInstants, sampleMotion } from '../path/path';
import { type Segment, cutTo, holdSegment } from '../path/segment';
import { toNumber } from '../time/rational';
import { roundHalfUp } from '../time/units';
import type { Move } from './move';

const schema = z.object({ rate: z.number().min(0.5).max(60) });
type Values = z.infer<typeof schema>;

/** Stop motion: a few pictures a second, each held until the next; the length stays. */
export const step: Move<Values> = {
  id: 'step',
  name: 'Step',
  group: 'stop',
  also: 'stop motion, step printing, low frame rate, strobe',
  jumps: true,
  summary: 'Stop motion: a few pictures a second, each held.',
  schema,
  defaults: { rate: 8 },
  shape: [0.1, 0.1, 0.35, 0.35, 0.6, 0.6, 0.85, 0.85],
  fields: [
    { key: 'rate', kind: 'count', label: 'Pictures a second', help: 'From 1 to 60.', min: 1, max: 60 },
  ],
  partName: (part) => `picture ${part + 1}`,
  lengthOf: (_, { rate }) => ({
    ...{ key: 'rate', value: rate, min: 0.5, max: 60, whole: false, grows: false },
    set: (value) => ({ rate: value }),
  }),
  apply(path, { rate }) {
    const total = pathFrames(path);
    const every = Math.max(1, toNumber(path.rate) / rate);
    if (every <= 1) return { path, notices: [info('no-steps', 'That is every frame: nothing is held.')] };
    const instants = sampleInstants(path);
    const speeds = sampleMotion(path);
    const segments: Segment[] = [];
    for (let k = 0, at = 0; at < total; k++) {
      const end = Math.min(total, Math.max(at + 1, roundHalfUp((k + 1) * every)));
      const lasts = (end === total ? pathLength(path) : end) - at;
      const still = { ...holdSegment(lasts, instants[at]!), stands: speeds[at]!, part: k };
      segments.push(k === 0 ? still : cutTo(still));
      at = end;
    }
    return {
      path: { rate: path.rate, segments },
      notices: [info('pictures', `${segments.length} pictures in ${total} frames.`)],
    };
  },
};
