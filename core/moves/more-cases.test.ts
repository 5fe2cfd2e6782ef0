import { joinsOf } from '../checks/joins';
import type { FrameTable } from '../clip/frame-table';
import {
  type TimePath,
  pathFrames,
  pathLength,
  reversePath,
  sampleFrames,
  slicePath,
  spanPath,
} from '../path/path';
import { speedAt } from '../path/segment';
import { rational } from '../time/rational';
import { boomerang } from './boomerang';
import { bounce } from './bounce';
import { coast } from './coast';
import { fit } from './fit';
import { hold } from './hold';
import { pattern } from './pattern';
import { ramp } from './ramp';
import { applyChain } from './chain';
import { moveById } from './registry';
import { rewind } from './rewind';
import { scratch } from './scratch';
import { spool } from './spool';
import { step } from './step';
import { stutter } from './stutter';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 900 };
const context = { table };
const span = (first: number, end: number) => spanPath(table, first, end, rate);
const frames = (path: TimePath) => [...sampleFrames(path, table)];
const up = (a: number, b: number, by = 1) =>
  Array.from({ length: Math.floor((b - a) / by) + 1 }, (_, i) => a + i * by);
const down = (a: number, b: number) => up(b, a).reverse();
const seconds = (path: TimePath) => pathFrames(path) / 30;
const skips = (path: TimePath) => joinsOf(path, table).filter((j) => j.skips);
const chain = (path: TimePath, ...steps: { id: string; move: string; values: object }[]) =>
  applyChain(
    path,
    steps.map((s) => ({ ...s, on: true, values: { ...moveById(s.move)!.defaults, ...s.values } })),
    context,
  );

describe('case 3: rewinds', () => {
  const first = { id: 'a', move: 'rewind', values: { from: 'end', to: 240, percent: 100 } };
  const second = { id: 'b', move: 'rewind', values: { from: 'end', to: 90, percent: 200 } };

  it('back to second 8 and on makes 20 s, one more to second 3 at 200 % makes 33.5 s', () => {
    expect(seconds(chain(span(0, 360), first).path)).toBe(20);
    const { path } = chain(span(0, 360), first, second);
    expect(seconds(path)).toBe(33.5);
    expect(skips(path)).toEqual([]);
    expect(frames(path).slice(600, 603)).toEqual([359, 357, 355]);
  });

  it('taking the first away leaves the other untouched', () => {
    const both = frames(chain(span(0, 360), first, second).path);
    const alone = frames(chain(span(0, 360), second).path);
    expect(alone.length / 30).toBe(25.5);
    expect(alone.slice(360)).toEqual(both.slice(600));
  });

  it('a frame that is not before it is refused with a way out', () => {
    const { path, notices } = rewind.apply(span(100, 160), { ...rewind.defaults, to: 500 }, context);
    expect(pathFrames(path)).toBe(60);
    expect(notices[0]).toMatchObject({ code: 'nothing-back', wayOut: 'Choose an earlier frame.' });
  });
});

describe('case 4: scratch', () => {
  const values = { ...scratch.defaults, at: 120, slice: 6, strokes: 4 };

  it('pairs of strokes, then forward once more, and everything else untouched', () => {
    const { path } = scratch.apply(span(0, 300), values, context);
    const pair = [...up(120, 125), ...down(125, 120)];
    expect(frames(path)).toEqual([...up(0, 119), ...pair, ...pair, ...pair, ...pair, ...up(120, 299)]);
    expect(skips(path)).toEqual([]);
  });

  it('no shape and no hurry makes a join jump, and it always leaves forward', () => {
    for (const shape of ['even', 'snap', 'drag'] as const)
      for (const faster of [0, 20]) {
        const { path } = scratch.apply(span(0, 300), { ...values, shape, faster }, context);
        expect(skips(path)).toEqual([]);
        expect(frames(path).slice(-180)).toEqual(up(120, 299));
      }
  });

  it('a slice past the end is brought inside and says so', () => {
    const { path, notices } = scratch.apply(span(0, 30), { ...values, at: 28 }, context);
    expect(notices[0]!.code).toBe('outside');
    expect(frames(path).at(-1)).toBe(29);
  });
});

it('case 5: a hold leaves the tail as it was', () => {
  const { path } = hold.apply(span(0, 150), { at: 75, length: 40, then: 'inserts' }, context);
  expect(frames(path)).toEqual([...up(0, 74), ...Array.from({ length: 40 }, () => 75), ...up(75, 149)]);
  expect(skips(path)).toEqual([]);
});

describe('case 6: spool', () => {
  it('12 times as fast is 50 frames of 600', () => {
    const { path } = spool.apply(span(90, 690), { factor: 12, direction: 'forward', ease: 0 }, context);
    expect(pathFrames(path)).toBe(50);
  });

  it('eased it gathers speed, covers everything, and backward retraces it', () => {
    const forward = spool.apply(span(90, 690), { factor: 12, direction: 'forward', ease: 12 }, context).path;
    const shown = frames(forward);
    expect(shown[0]).toBe(90);
    expect(shown.at(-1)).toBe(689);
    expect(shown[1]! - shown[0]!).toBeLessThan(4);
    expect(speedAt(forward.segments[1]!, 1, rate)).toBeCloseTo(12, 0);
    const back = spool.apply(span(90, 690), { factor: 12, direction: 'backward', ease: 12 }, context).path;
    expect(frames(back)).toEqual(shown.toReversed());
  });
});

describe('case 8: ramps', () => {
  const values = {
    points: [
      { at: 0, percent: 120 },
      { at: 120, percent: 360 },
    ],
    before: 5,
    after: 5,
    soft: 'none' as const,
  };

  it('a change over 10 frames covers 24 source frames', () => {
    const { path } = ramp.apply(span(0, 300), values, context);
    const change = path.segments[1]!;
    expect(change.length).toBeCloseTo(10, 9);
    expect((change.to - change.from) * 30).toBeCloseTo(24, 6);
    expect(path.segments[0]!.to).toBeCloseTo(change.from, 9);
    expect(change.to).toBeCloseTo(path.segments[2]!.from, 9);
  });

  it.each(['none', 'in', 'out', 'both'] as const)('softness %s covers the same', (soft) => {
    const { path } = ramp.apply(span(0, 300), { ...values, soft, before: 20, after: 10 }, context);
    expect(Math.max(...path.segments.map((s) => Math.abs(s.speedIn)))).toBeLessThan(3.7);
    expect(path.segments[0]!.from).toBe(0);
    expect(path.segments.at(-1)!.to).toBeCloseTo(10, 9);
    expect(skips(path)).toEqual([]);
  });

  it('mirrored by a boomerang that turns on a frame the way back retraces it frame for frame', () => {
    const points = [values.points[0]!, { at: 123, percent: 360 }];
    const there = ramp.apply(span(0, 300), { ...values, points }, context).path;
    expect(pathLength(there)).toBeCloseTo(95 + 10 + 45, 9);
    const { path } = boomerang.apply(there, { ...boomerang.defaults, trips: 1, turn: 'twice' }, context);
    const shown = frames(path);
    expect(shown.slice(shown.length / 2)).toEqual(frames(there).reverse());
  });

  it('too little room narrows the change and says so', () => {
    const { notices } = ramp.apply(
      span(0, 40),
      {
        ...values,
        points: [
          { at: 0, percent: 100 },
          { at: 38, percent: 400 },
        ],
      },
      context,
    );
    expect(notices.some((n) => n.code === 'narrowed')).toBe(true);
  });

  it('points are typed as a line', () => {
    const field = ramp.fields.find((f) => f.key === 'points')!;
    if (field.kind !== 'text') throw new Error('typed');
    expect(field.read('0: 120, 120 f: 360 %')).toEqual(values.points);
    expect(field.write(values.points)).toBe('0: 120, 120: 360');
    expect(field.read('fast')).toBeUndefined();
  });
});

describe('case 9: coast', () => {
  it('uses the integral of its speed', () => {
    const { path, notices } = coast.apply(span(0, 300), { from: 480, to: 2, over: 90 }, context);
    expect(pathFrames(path)).toBe(90);
    expect(path.segments.at(-1)!.to * 30).toBeCloseTo(216.9, 6);
    expect(notices[0]!.text).toBe('83 of 300 frames are not reached.');
  });

  it('too short a span says by how much, and the start that fits does', () => {
    const { notices } = coast.apply(span(0, 200), { from: 480, to: 2, over: 90 }, context);
    expect(notices[0]!.text).toBe('Ran out of frames: 17 short.');
    expect(notices[0]!.wayOut).toContain('442.4 %');
    expect(coast.apply(span(0, 200), { from: 442.4, to: 2, over: 90 }, context).notices).toEqual([]);
  });
});

describe('stutter, step, bounce, pattern, fit', () => {
  it('a stutter repeats its slice, on purpose', () => {
    const { path } = stutter.apply(span(0, 60), { at: 20, slice: 5, repeats: 3, shorter: 0 }, context);
    expect(frames(path)).toEqual([...up(0, 24), ...up(20, 24), ...up(20, 59)]);
    expect(skips(path)).toEqual([]);
    expect(joinsOf(path, table).filter((j) => j.meant)).toHaveLength(2);
  });

  it('a roll gets shorter', () => {
    const { path } = stutter.apply(span(0, 60), { at: 20, slice: 8, repeats: 4, shorter: 50 }, context);
    expect(frames(path)).toEqual([...up(0, 27), ...up(20, 23), ...up(20, 21), 20, ...up(28, 59)]);
  });

  it('a stutter played backward keeps its cuts meant', () => {
    const { path } = stutter.apply(span(0, 60), { at: 20, slice: 5, repeats: 3, shorter: 0 }, context);
    expect(skips(reversePath(path))).toEqual([]);
    expect(reversePath(reversePath(path))).toEqual(path);
  });

  it('steps hold each picture and keep the length', () => {
    const { path } = step.apply(span(0, 30), { rate: 10 }, context);
    expect(frames(path)).toEqual(up(0, 27, 3).flatMap((n) => [n, n, n]));
  });

  it('a bounce touches its frames and turns softly', () => {
    const { path } = bounce.apply(
      span(0, 60),
      { instants: [10, 40, 20], leg: 15, soft: 100, on: 'frames', least: 40 },
      context,
    );
    const shown = frames(path);
    expect([0, 15, 29].map((i) => shown[i])).toEqual([10, 40, 20]);
    expect(shown).toHaveLength(30);
    expect(Math.max(...shown)).toBe(40);
    expect(path.segments.every((s) => s.speedIn === 0 && s.speedOut === 0)).toBe(true);
    expect(skips(path)).toEqual([]);
  });

  it('a pattern plays its steps', () => {
    const steps = [
      { slice: 2, way: 'forward' },
      { slice: 2, way: 'backward' },
      { slice: 4, way: 'hold' },
      { slice: 1, way: 'off' },
      { slice: 1, way: 'forward' },
    ] as const;
    const { path } = pattern.apply(
      span(100, 140),
      { slices: 4, length: 10, swing: 0, steps: [...steps] },
      context,
    );
    const ten = (n: number) => Array.from({ length: 10 }, () => n);
    expect(frames(path)).toEqual([
      ...up(110, 119),
      ...down(119, 110),
      ...ten(130),
      ...ten(130),
      ...up(100, 109),
    ]);
    const field = pattern.fields.find((f) => f.key === 'steps')!;
    if (field.kind !== 'text') throw new Error('typed');
    expect(field.read('2> 2< 4= . 1>')).toEqual(steps);
    expect(field.read('2>>')).toBeUndefined();
  });

  it('fits by speed to the frame, or by trimming', () => {
    const there = boomerang.apply(span(0, 60), { ...boomerang.defaults, trips: 2 }, context).path;
    expect(pathFrames(fit.apply(there, { length: 100, by: 'speed' }, context).path)).toBe(100);
    expect(frames(fit.apply(span(0, 60), { length: 45, by: 'trimming' }, context).path)).toEqual(up(0, 44));
    expect(fit.apply(span(0, 60), { length: 90, by: 'trimming' }, context).notices[0]!.text).toContain(
      'cannot make it longer',
    );
  });
});

describe('zones', () => {
  const inZone = (zone: { from: number; to: number }) =>
    applyChain(
      span(0, 60),
      [{ id: 'z', move: 'speed', on: true, zone, values: { ...moveById('speed')!.defaults, percent: 50 } }],
      context,
    );

  it('limit a move to a stretch; the rest is shifted, not lost', () => {
    const { path } = inZone({ from: 20, to: 30 });
    const slow = up(20, 29).flatMap((n) => [n, n]);
    expect(frames(path)).toEqual([...up(0, 19), ...slow, ...up(30, 59)]);
  });

  it('beyond the end do nothing, and say so', () => {
    expect(inZone({ from: 80, to: 90 }).steps[0]!.notices[0]!.code).toBe('zone-outside');
    expect(pathFrames(slicePath(inZone({ from: 50, to: 900 }).path, 0, 50))).toBe(50);
  });
});
