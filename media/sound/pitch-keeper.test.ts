import type { FrameTable } from '@skipback/core/clip/frame-table';
import { boomerang } from '@skipback/core/moves/boomerang';
import { speed } from '@skipback/core/moves/speed';
import { type TimePath, spanPath } from '@skipback/core/path/path';
import { soundAlong } from '@skipback/core/sound/follow';
import type { PitchKeeper } from '@skipback/core/sound/own-pitch';
import { MIX_RATE_HZ, type Stereo, silence } from '@skipback/core/sound/stereo';
import { rational } from '@skipback/core/time/rational';
import { openPitchKeeper } from './pitch-keeper';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 120 };
const context = { table };
const span = spanPath(table, 0, 60, rate);
const power = (s: Float32Array) => Math.sqrt(s.reduce((a, v) => a + v * v, 0) / s.length);
/** Cycles a second, by zero crossings. */
const pitch = (s: Float32Array) => {
  let ups = 0;
  for (let i = 1; i < s.length; i++) if (s[i - 1]! < 0 && s[i]! >= 0) ups++;
  return (ups * MIX_RATE_HZ) / s.length;
};

describe('a clip’s sound at its own pitch', () => {
  let keeper: PitchKeeper;
  beforeAll(async () => void (keeper = await openPitchKeeper(MIX_RATE_HZ)));
  const heard = (clip: Stereo, path: TimePath) =>
    soundAlong(path, clip, MIX_RATE_HZ, { clipPace: 1, holds: 'silent', keeper }).left;
  const tone = (hz: number): Stereo => {
    const left = Float32Array.from(
      { length: 4 * MIX_RATE_HZ },
      (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / MIX_RATE_HZ),
    );
    return { left, right: left, rateHz: MIX_RATE_HZ };
  };
  const knock = (atS: number): Stereo => {
    const sound = silence(4 * MIX_RATE_HZ);
    for (let i = 0; i < 900; i++)
      sound.left[Math.round(atS * MIX_RATE_HZ) + i] = 0.7 * Math.exp(-i / 150) * Math.sin(i / 8);
    return { ...sound, right: sound.left };
  };
  const loudest = (s: Float32Array, from = 0, to = s.length) => {
    let best = from;
    for (let i = from; i < to; i++) if (Math.abs(s[i]!) > Math.abs(s[best]!)) best = i;
    return best / MIX_RATE_HZ;
  };
  const at = (percent: number) => speed.apply(span, { ...speed.defaults, percent }, context).path;

  it.each([50, 150, 250])('at %d percent a tone stays as high and as loud', (percent) => {
    const out = heard(tone(440), at(percent));
    const middle = out.slice(out.length >> 2, (out.length * 3) >> 2);
    expect(Math.abs(pitch(middle) - 440)).toBeLessThan(4);
    expect(power(middle)).toBeGreaterThan(0.28);
    expect(power(middle)).toBeLessThan(0.42);
  });

  it.each([
    [50, 2],
    [200, 0.5],
  ])('at %d percent what happens comes when it should: %d s', (percent, when) => {
    expect(Math.abs(loudest(heard(knock(1), at(percent))) - when)).toBeLessThan(0.03);
  });

  it('is left as it is at normal speed, and turned round in a pass back', () => {
    const clip = tone(440);
    expect(heard(clip, span)[40_000]).toBe(clip.left[40_000]);
    const { path } = boomerang.apply(span, { ...boomerang.defaults, trips: 1, turn: 'twice' }, context);
    const out = heard(knock(1.5), path);
    expect(Math.abs(loudest(out, 0, 96_000) - 1.5)).toBeLessThan(0.03);
    expect(Math.abs(loudest(out, 96_000) - 2.5)).toBeLessThan(0.04);
  });

  it('never jumps, at ends nor turns', () => {
    const { path } = boomerang.apply(
      span,
      { ...boomerang.defaults, trips: 2, backPercent: 180, turn: 'once' },
      context,
    );
    const out = heard(tone(300), path);
    let step = 0;
    for (let i = 1; i < out.length; i++) step = Math.max(step, Math.abs(out[i]! - out[i - 1]!));
    expect(step).toBeLessThan(0.05);
    expect(Math.abs(out[0]!) + Math.abs(out[out.length - 1]!)).toBeLessThan(0.01);
  });
});
