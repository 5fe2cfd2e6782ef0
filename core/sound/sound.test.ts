import { boomerang } from '../moves/boomerang';
import { hold } from '../moves/hold';
import { speed } from '../moves/speed';
import type { FrameTable } from '../clip/frame-table';
import { spanPath } from '../path/path';
import { rational } from '../time/rational';
import { type Following, soundAlong } from './follow';
import { mixSound, samplesOf } from './mix';
import { atRate, readAtPlace } from './resample';
import { MIX_RATE_HZ, type Stereo, peaksOf, silence } from './stereo';
import { wavOf } from './wav';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 120 };
const context = { table };
const sine = (hz: number, seconds: number, rateHz = MIX_RATE_HZ): Stereo => {
  const left = Float32Array.from(
    { length: seconds * rateHz },
    (_, i) => 0.5 * Math.sin((2 * Math.PI * hz * i) / rateHz),
  );
  return { left, right: left, rateHz };
};
/** A single full sample at an instant. */
const click = (atS: number, seconds: number): Stereo => {
  const sound = silence(seconds * MIX_RATE_HZ);
  for (let i = 0; i < 24; i++)
    sound.left[Math.round(atS * MIX_RATE_HZ) + i] = Math.cos((i * Math.PI) / 24) * 0.7;
  return { ...sound, right: sound.left };
};
const loudest = (s: Float32Array, from = 0, to = s.length) => {
  let best = from;
  for (let i = from; i < to; i++) if (Math.abs(s[i]!) > Math.abs(s[best]!)) best = i;
  return best;
};
const power = (s: Float32Array) => Math.sqrt(s.reduce((a, v) => a + v * v, 0) / s.length);
/** Cycles a second, by zero crossings. */
const pitch = (s: Float32Array) => {
  let ups = 0;
  for (let i = 1; i < s.length; i++) if (s[i - 1]! < 0 && s[i]! >= 0) ups++;
  return (ups * MIX_RATE_HZ) / s.length;
};
const plainly: Following = { clipPace: 1, holds: 'silent', keeper: undefined };
const follow = (sound: Stereo, path: ReturnType<typeof spanPath>, how: Partial<Following> = {}) =>
  soundAlong(path, sound, MIX_RATE_HZ, { ...plainly, ...how }).left;

describe('reading a sound at any speed', () => {
  it('gives what is there at whole places, and a sine between them', () => {
    const s = sine(1000, 1).left;
    expect(readAtPlace(s, 5000, 1)).toBeCloseTo(s[5000]!, 4);
    expect(readAtPlace(s, 5000.5, 1)).toBeCloseTo(
      0.5 * Math.sin((2 * Math.PI * 1000 * 5000.5) / MIX_RATE_HZ),
      3,
    );
  });

  it('a fast pass does not fold high tones back', () => {
    const fast = (hz: number) => {
      const s = sine(hz, 2).left;
      return Float32Array.from({ length: 8000 }, (_, i) => readAtPlace(s, 4000 + i * 4, 4));
    };
    expect(power(fast(2000))).toBeGreaterThan(0.3);
    expect(power(fast(15_000))).toBeLessThan(0.005);
  });

  it('another rate is as long and as high', () => {
    const s = sine(440, 1, 44_100);
    const out = atRate(s.left, 44_100, 48_000);
    expect(out.length).toBe(48_000);
    expect(Math.abs(pitch(out) - 440)).toBeLessThan(1.5);
  });
});

describe('a clip’s sound along its path', () => {
  const span = spanPath(table, 0, 60, rate);

  it('plays as it is at normal speed, an octave up at twice, an octave down at half', () => {
    const s = sine(500, 4);
    const at = (percent: number) =>
      pitch(follow(s, speed.apply(span, { ...speed.defaults, percent }, context).path));
    expect(at(100)).toBeCloseTo(500, 0);
    expect(at(200)).toBeCloseTo(1000, 0);
    expect(at(50)).toBeCloseTo(250, 0);
  });

  it('runs backward with the picture: a click comes again at its mirrored place', () => {
    const s = click(1.5, 4);
    const { path } = boomerang.apply(span, { ...boomerang.defaults, trips: 1, turn: 'twice' }, context);
    const out = follow(s, path);
    expect(loudest(out, 0, 96_000) / MIX_RATE_HZ).toBeCloseTo(1.5, 2);
    expect(loudest(out, 96_000) / MIX_RATE_HZ).toBeCloseTo(2.5, 2);
  });

  it('is silent in a hold, and never jumps by more than the sound itself', () => {
    const s = sine(300, 4);
    const { path } = hold.apply(span, { at: 30, length: 30, then: 'inserts' }, context);
    const out = follow(s, path);
    expect(power(out.slice(50_000, 94_000))).toBeLessThan(1e-6);
    let step = 0;
    for (let i = 1; i < out.length; i++) step = Math.max(step, Math.abs(out[i]! - out[i - 1]!));
    expect(step).toBeLessThan(0.03);
  });
});

describe('a hold that is heard', () => {
  const { path } = hold.apply(spanPath(table, 0, 60, rate), { at: 30, length: 45, then: 'inserts' }, context);
  const heard = follow(sine(300, 4), path, { holds: 'grain' });

  it('is the instant drawn out, about as loud as the clip, at its pitch', () => {
    const held = heard.slice(49_000, 118_000);
    expect(power(held)).toBeGreaterThan(0.2);
    expect(power(held)).toBeLessThan(0.45);
    expect(Math.abs(pitch(held) - 300)).toBeLessThan(20);
  });

  it('stays level, and is the same each time', () => {
    const parts = Array.from({ length: 12 }, (_, i) =>
      power(heard.slice(50_000 + i * 5000, 55_000 + i * 5000)),
    );
    expect(Math.min(...parts)).toBeGreaterThan(0.1);
    const again = follow(sine(300, 4), path, { holds: 'grain' });
    expect(again.every((v, i) => v === heard[i])).toBe(true);
  });
});

describe('the mix', () => {
  const job = (startFrame: number) => ({
    totalFrames: 90,
    rate,
    song: { sound: click(1, 5), place: { startFrame, fromS: 0 }, gainDb: 0 },
    pieces: [],
    clipGainDb: 0,
    made: {},
    placed: [],
    laid: [],
    along: [],
  });

  it.each([
    [0, 1],
    [15, 1.5],
    [-20, 1 / 3],
  ])('a song slid to frame %d is heard there', (startFrame, at) => {
    const out = mixSound(job(startFrame));
    expect(out.left.length).toBe(144_000);
    expect(loudest(out.left) / MIX_RATE_HZ).toBeCloseTo(at, 3);
  });

  it('is exactly as long as the picture at every rate', () => {
    expect(samplesOf(30, rational(30_000, 1001))).toBe(48_048);
    expect(samplesOf(1, rational(24))).toBe(2000);
  });

  it('a clip’s sound is as loud as its level says, and lies where its piece begins', () => {
    const own = click(0.2, 1);
    const piece = { startFrame: 30, path: spanPath(table, 0, 30, rate), own };
    const heard = (clipGainDb: number) =>
      mixSound({ ...job(0), song: undefined, pieces: [piece], clipGainDb }).left;
    expect(loudest(heard(0)) / MIX_RATE_HZ).toBeCloseTo(1.2, 3);
    const peak = (s: Float32Array) => Math.abs(s[loudest(s)]!);
    expect(peak(heard(-6)) / peak(heard(0))).toBeCloseTo(10 ** (-6 / 20), 3);
    expect(peak(heard(-60))).toBe(0);
  });

  it('writes a WAV of exact length', () => {
    const wav = wavOf(sine(440, 1));
    expect(wav.length).toBe(44 + 48_000 * 4);
    expect(new DataView(wav.buffer).getInt16(44 + 4 * 27, true)).toBeGreaterThan(15_000);
  });

  it('peaks are the greatest of each stretch', () => {
    expect(
      [
        ...peaksOf(
          { left: Float32Array.of(0.1, -0.5, 0.2), right: Float32Array.of(0, 0, 0.3), rateHz: 1 },
          2,
        ),
      ].map((v) => Number(v.toFixed(2))),
    ).toEqual([0.5, 0.3]);
  });
});
