import { z } from 'zod';
import { info } from '../notice';
import type { FrameTable } from '../clip/frame-table';
import { asPart } from '../path/makers';
import { type TimePath, joinPaths, pathFrames, pathLength, reversePath, speedUp } from '../path/path';
import { knotsOf, warpPath } from '../path/warp';
import { percentText } from '../time/entry';
import type { Move } from './move';

const schema = z.object({
  factor: z.number().min(2).max(30),
  direction: z.enum(['forward', 'backward']),
  ease: z.int().min(0).max(1000),
});
type Values = z.infer<typeof schema>;

/** Fast forward or fast back, gathering speed and letting it go. */
export const spool: Move<Values> = {
  id: 'spool',
  name: 'Spool',
  group: 'there',
  also: 'fast-forward, rewind tape, wind',
  summary: 'Winds through at 2 to 30 times the speed, eased in and out; back as a tape would.',
  schema,
  defaults: { factor: 8, direction: 'forward', ease: 6 },
  shape: [0, 0.03, 0.12, 0.35, 0.65, 0.88, 0.97, 1],
  fields: [
    { key: 'factor', kind: 'count', label: 'Times as fast', help: 'From 2 to 30.', min: 2, max: 30 },
    {
      key: 'direction',
      kind: 'choice',
      label: 'Winds',
      help: 'Backward winds from the end to the beginning; limited to a part it plays that, winds it back, and plays on from its beginning.',
      options: [
        { value: 'forward', label: 'forward' },
        { value: 'backward', label: 'backward' },
      ],
    },
    {
      key: 'ease',
      kind: 'length',
      label: 'Eased over',
      help: 'Frames it takes to gather speed, and to let it go.',
      min: 0,
      max: 1000,
    },
  ],
  partName: (part) =>
    ['gathers speed', 'winds', 'lets go', 'before it winds back', 'after it wound back'][part]!,
  lengthOf: (part, { factor }) =>
    part === 1
      ? {
          ...{ key: 'factor', value: factor, min: 2, max: 30, whole: false, grows: false },
          set: (value) => ({ factor: value }),
        }
      : undefined,
  apply(path, { factor, direction, ease }, { table, limited }) {
    if (direction === 'backward' && limited) {
      // There and back over nothing but itself: it plays, winds back through turns, and plays on from where it began.
      const total = pathLength(path);
      const back = rewound(path, factor, Math.min(ease, total / (1 + factor)), table);
      const parts = [asPart(path, 3), back, asPart(path, 4)];
      const said = `It winds ${pathFrames(path)} frames back in ${pathFrames(back)}.`;
      return { path: joinPaths(path.rate, parts), notices: [info('wound-back', said)] };
    }
    const start = direction === 'backward' ? reversePath(path) : path;
    const total = pathLength(path);
    if (ease === 0) return { path: asPart(speedUp(start, factor), 1), notices: [] };
    const eased = Math.min(ease, total / (1 + factor));
    const inOld = (eased * (1 + factor)) / 2;
    const result = warpPath(
      start,
      knotsOf([
        { from: 1, to: factor, time: eased, part: 0 },
        { from: factor, to: factor, old: Math.max(0, total - 2 * inOld), part: 1 },
        { from: factor, to: 1, time: eased, part: 2 },
      ]),
      table,
    );
    const mean = percentText((100 * total) / pathLength(result));
    return {
      path: result,
      notices: [
        info('mean-speed', `${pathFrames(path)} frames become ${pathFrames(result)}: ${mean} on the whole.`),
      ],
    };
  },
};

/** A path from its end to its beginning at `factor` times the speed, from rest and to rest over `eased` frames each. */
function rewound(path: TimePath, factor: number, eased: number, table: FrameTable): TimePath {
  const back = reversePath(path);
  if (eased < 1) return asPart(speedUp(back, factor), 1);
  // Nearly at rest: a pace of nothing would never arrive.
  const rest = Math.min(1, factor / 20);
  const gathers = ((rest + factor) / 2) * eased;
  return warpPath(
    back,
    knotsOf([
      { from: rest, to: factor, time: eased, part: 0 },
      { from: factor, to: factor, old: Math.max(0, pathLength(back) - 2 * gathers), part: 1 },
      { from: factor, to: rest, time: eased, part: 2 },
    ]),
    table,
  );
}
