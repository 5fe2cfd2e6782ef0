import { z } from 'zod';
import type { FrameTable } from '../clip/frame-table';
import { tooMuch } from '../path/limits';
import { asPart } from '../path/makers';
import { type TimePath, joinPaths, pathLength, reversePath } from '../path/path';
import { type Knot, warpPath } from '../path/warp';
import type { Move } from './move';
import { cutSlice, sliceLength, suggestSlice } from './slice';

const schema = z.object({
  at: z.number().min(0).max(1_000_000),
  slice: z.int().min(1).max(10_000),
  strokes: z.int().min(1).max(200),
  shape: z.enum(['even', 'snap', 'drag']),
  faster: z.number().min(0).max(90),
});
type Values = z.infer<typeof schema>;

/** Pace at both ends of a stroke, in slices a stroke. */
const PACES: Record<Values['shape'], readonly [number, number]> = {
  even: [1, 1],
  snap: [1.9, 0.1],
  drag: [0.1, 1.9],
};

/** A stroke over the slice in `frames` frames. */
function stroke(slice: TimePath, frames: number, shape: Values['shape'], table: FrameTable): TimePath {
  const length = pathLength(slice);
  if (shape === 'even' && frames === length) return slice;
  const pace = length / frames;
  const [from, to] = PACES[shape];
  const knots: Knot[] = [
    { time: 0, old: 0, pace: from * pace },
    { time: frames, old: length, pace: to * pace },
  ];
  return warpPath(slice, knots, table);
}

/** A short slice back and forth, like a record under the hand; always leaves going forward. */
export const scratch: Move<Values> = {
  id: 'scratch',
  name: 'Scratch',
  group: 'stop',
  also: 'turntable, back and forth',
  summary: 'Works a short slice back and forth, and leaves going forward.',
  schema,
  defaults: { at: 20, slice: 6, strokes: 4, shape: 'even', faster: 0 },
  suggest: suggestSlice,
  shape: [0, 0.2, 0.4, 0.6, 0.4, 0.6, 0.4, 0.6, 0.8, 1],
  fields: [
    {
      key: 'at',
      kind: 'place',
      label: 'At',
      help: 'Where the slice begins.',
      min: 0,
      max: 1_000_000,
    },
    { key: 'slice', kind: 'length', label: 'Slice', help: 'Length of the slice.', min: 1, max: 10_000 },
    {
      key: 'strokes',
      kind: 'count',
      label: 'Strokes',
      help: 'Pairs of forward and back, before it leaves.',
      min: 1,
      max: 200,
    },
    {
      key: 'shape',
      kind: 'choice',
      label: 'Stroke',
      help: 'Snap starts fast and slows, drag starts slow and tears away.',
      options: [
        { value: 'even', label: 'even' },
        { value: 'snap', label: 'snap' },
        { value: 'drag', label: 'drag' },
      ],
    },
    {
      key: 'faster',
      kind: 'percent',
      label: 'Each faster by',
      help: '0 keeps all strokes as long as the slice.',
      min: 0,
      max: 90,
    },
  ],
  partName: (part, { strokes }) =>
    part === 0 ? 'before the strokes' : part > 2 * strokes + 1 ? 'after the strokes' : `stroke ${part}`,
  lengthOf: (part, { strokes, slice }) =>
    part > 0 && part <= 2 * strokes + 1 ? sliceLength(slice) : undefined,
  apply(path, { at, slice: length, strokes, shape, faster }, { table }) {
    const { before, slice, after, notices } = cutSlice(path, at, length);
    const refused = tooMuch(slice, strokes * 2 + 1);
    if (refused) return { path, notices: [refused] };
    const parts: TimePath[] = [asPart(before, 0)];
    for (let i = 0; i < strokes; i++) {
      const frames = Math.max(1, pathLength(slice) * (1 - faster / 100) ** i);
      parts.push(
        asPart(stroke(slice, frames, shape, table), 2 * i + 1),
        asPart(stroke(reversePath(slice), frames, shape, table), 2 * i + 2),
      );
    }
    parts.push(asPart(slice, 2 * strokes + 1), asPart(after, 2 * strokes + 2));
    return { path: joinPaths(path.rate, parts), notices };
  },
};
