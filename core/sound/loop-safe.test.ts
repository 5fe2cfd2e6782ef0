import { DEFAULT_ENVELOPES } from '../beats/envelope';
import { musicOf } from '../beats/music';
import { rational } from '../time/rational';
import { loopSafe, wholeBeats } from './loop-safe';

const loud = (samples: number) => ({
  left: new Float32Array(samples).fill(0.8),
  right: new Float32Array(samples).fill(-0.8),
  rateHz: 48_000,
});
const music = (everyS: number, startFrame = 0) =>
  musicOf(
    {
      grid: { beats: Array.from({ length: 40 }, (_, i) => i * everyS), firstBar: 0, beatsPerBar: 4 },
      accents: [],
      envelopes: DEFAULT_ENVELOPES,
    },
    { startFrame, fromS: 0 },
    rational(30),
  );

test('a looped sound has no step where it ends and begins, and is silent after its end', () => {
  const sound = loopSafe(loud(48_000), 0.75);
  const twice = [...sound.left, ...sound.left];
  let steepest = 0;
  for (let i = 1; i < twice.length; i++) steepest = Math.max(steepest, Math.abs(twice[i]! - twice[i - 1]!));
  expect(steepest).toBeLessThan(0.02);
  expect(sound.left.subarray(36_000).every((v) => v === 0)).toBe(true);
  expect(sound.left.subarray(100, 35_700).every((v) => v === Math.fround(0.8))).toBe(true);
  expect(sound.left.length).toBe(48_000);
});

test.each([
  ['whole already', 0.5, 0, 120, { beats: 8, endFrame: 120 }],
  ['a bit more', 0.5, 0, 127, { beats: 8, endFrame: 120 }],
  ['less than one', 0.5, 0, 12, { beats: 0, endFrame: 0 }],
  ['begun within a beat', 0.5, -5, 62, { beats: 4, endFrame: 60 }],
])('whole beats of a result: %s', (_, everyS, startFrame, frames, expected) => {
  const found = wholeBeats(music(everyS, startFrame), frames)!;
  expect(found.beats).toBe(expected.beats);
  expect(found.endFrame).toBeCloseTo(expected.endFrame, 6);
});

test('without beats there are none', () => expect(wholeBeats(undefined, 100)).toBeUndefined());
