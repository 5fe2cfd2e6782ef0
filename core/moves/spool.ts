import { z } from 'zod';
import { info } from '../notice';
import { pathFrames, pathLength, reversePath, speedUp } from '../path/path';
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
  summary: 'Winds through at 2 to 30 times the speed, eased in and out.',
  schema,
  defaults: { factor: 8, direction: 'forward', ease: 6 },
  shape: [0, 0.03, 0.12, 0.35, 0.65, 0.88, 0.97, 1],
  fields: [
    { key: 'factor', kind: 'count', label: 'Times as fast', help: 'From 2 to 30.', min: 2, max: 30 },
    {
      key: 'direction',
      kind: 'choice',
      label: 'Winds',
      help: 'Backward winds from the end to the beginning.',
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
  apply(path, { factor, direction, ease }, { table }) {
    const start = direction === 'backward' ? reversePath(path) : path;
    const total = pathLength(path);
    if (ease === 0) return { path: speedUp(start, factor), notices: [] };
    const eased = Math.min(ease, total / (1 + factor));
    const inOld = (eased * (1 + factor)) / 2;
    const result = warpPath(
      start,
      knotsOf([
        { from: 1, to: factor, time: eased },
        { from: factor, to: factor, old: Math.max(0, total - 2 * inOld) },
        { from: factor, to: 1, time: eased },
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
