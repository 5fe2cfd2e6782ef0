import { keyBefore, planDecoding } from '@skipback/core/plan/decode-plan';
import fc from 'fast-check';
import { keyIndex, packetsOfRun } from '../reader/packet-index';
import { COPY_GROUP, type SmallCopy, copyIndex, keysWith, stretchesOf, uncopied } from './small-copy';

const file = new Blob();

/** A clip's frames, its key frames, and copies of some of it. */
const clips = fc
  .record({
    count: fc.integer({ min: 1, max: 120 }),
    keys: fc.array(fc.integer({ min: 1, max: 119 }), { maxLength: 5 }),
    cuts: fc.uniqueArray(fc.integer({ min: 0, max: 120 }), { maxLength: 8 }),
  })
  .map(({ count, keys, cuts }) => {
    const ends = cuts.filter((c) => c <= count).sort((a, b) => a - b);
    const copies: SmallCopy[] = [];
    for (let i = 0; i + 1 < ends.length; i += 2) copies.push({ file, first: ends[i]!, end: ends[i + 1]! });
    return { count, copies, keys: [...new Set([0, ...keys.filter((k) => k < count)])].sort((a, b) => a - b) };
  });

it('a run is read in stretches that join without gap, each of one copy or of none', () => {
  fc.assert(
    fc.property(clips, fc.nat(119), fc.nat(119), ({ count, copies }, a, b) => {
      const [first, last] = [Math.min(a, b) % count, Math.max(a, b) % count];
      const stretches = stretchesOf(first, last, copies);
      const frames = stretches.flatMap((s) =>
        Array.from({ length: s.last + 1 - s.first }, (_, i) => ({ frame: s.first + i, copy: s.copy })),
      );
      expect(frames.map((f) => f.frame)).toEqual(
        first > last ? [] : Array.from({ length: last + 1 - first }, (_, i) => first + i),
      );
      for (const { frame, copy } of frames)
        expect(copy).toBe(copies.find((c) => frame >= c.first && frame < c.end));
    }),
  );
});

it('whatever is planned with copies begins where something can be decoded', () => {
  fc.assert(
    fc.property(
      clips,
      fc.array(fc.nat(119), { minLength: 1, maxLength: 40 }),
      ({ count, copies, keys }, order) => {
        const wanted = Int32Array.from(order, (f) => f % count);
        const all = keysWith(keys, copies);
        expect(new Set(all).size).toBe(all.length);
        for (const step of planDecoding({
          ...{ wanted, loops: false, start: 0, keys: all, capacity: 6, held: [] },
        })) {
          if (step.kind !== 'open') continue;
          const [begins] = stretchesOf(step.key, step.last, copies);
          // A copy at one of its own key frames, the clip at one of its.
          if (begins!.copy) expect((step.key - begins!.copy.first) % COPY_GROUP).toBe(0);
          else expect(keys).toContain(step.key);
        }
      },
    ),
  );
});

it('the packets of a copy are one a frame, so that any of them is reached from the key frame before it', () => {
  const index = copyIndex({ first: 100, end: 121 });
  expect(index.keys).toEqual([0, 8, 16]);
  expect(packetsOfRun(index, keyBefore(index.keys, 13), 13)).toEqual({ first: 8, last: 13 });
  expect(keyIndex(index, 16)).toBe(2);
});

it('what is still to be copied are the gaps, in parts that are there soon', () => {
  const copies = [{ file, first: 100, end: 200 }];
  expect(uncopied(50, 300, copies)).toEqual([
    { first: 50, end: 100 },
    { first: 200, end: 300 },
  ]);
  expect(uncopied(120, 180, copies)).toEqual([]);
  expect(uncopied(0, 2000, [])).toEqual([
    { first: 0, end: 900 },
    { first: 900, end: 1800 },
    { first: 1800, end: 2000 },
  ]);
});
