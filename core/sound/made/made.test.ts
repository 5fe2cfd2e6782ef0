import type { FrameTable } from '../../clip/frame-table';
import { boomerang } from '../../moves/boomerang';
import { curve } from '../../moves/curve';
import { hold } from '../../moves/hold';
import { ramp } from '../../moves/ramp';
import { scratch } from '../../moves/scratch';
import { speed } from '../../moves/speed';
import { spool } from '../../moves/spool';
import { surge } from '../../moves/surge';
import { DEFAULT_ENVELOPES } from '../../beats/envelope';
import type { Music } from '../../beats/music';
import { type TimePath, pathFrames, spanPath } from '../../path/path';
import { rational } from '../../time/rational';
import { mixSound, samplesOf } from '../mix';
import { silence } from '../stereo';
import { addMadeSounds, addPlaced } from './add-made';
import { MADE_KINDS, type MadeKind } from './kinds';
import { SPEED_HZ, madeSpans, speedCurve } from './spans';
import { SYNTHS } from './synths';
import { seeded } from '../../moves/random';

const rate = rational(30);
const table: FrameTable = { kind: 'constant', rate, count: 600 };
const RATE_HZ = 48_000;
/** Beats half a second apart. */
const music: Music = {
  beats: Array.from({ length: 60 }, (_, i) => i * 15),
  firstBar: 0,
  beatsPerBar: 4,
  accents: [],
  envelopes: DEFAULT_ENVELOPES,
};
const context = { table, music };
const span = (from: number, to: number) => spanPath(table, from, to, rate);
const kindsOf = (path: TimePath) => madeSpans(path).map((s) => s.kind);
const only = (path: TimePath, kind: MadeKind) => madeSpans(path).filter((s) => s.kind === kind);
const power = (s: Float32Array) => Math.sqrt(s.reduce((a, v) => a + v * v, 0) / s.length);

describe('where a path calls for sounds', () => {
  it('nowhere at normal speed, nor at a slow one', () => {
    expect(madeSpans(span(0, 90))).toEqual([]);
    expect(madeSpans(speed.apply(span(0, 90), { ...speed.defaults, percent: 40 }, context).path)).toEqual([]);
  });

  it('a whoosh under every surge, around its beat', () => {
    const values = { rest: 40, peak: 400, rise: 3, fall: 6, which: 'second' as const, least: 40 };
    const { path } = surge.apply(span(0, 300), values, context);
    const whooshes = only(path, 'whoosh');
    const beats = music.beats.filter((b, i) => i % 2 === 0 && b < pathFrames(path)).map((b) => b / 30);
    expect(whooshes).toHaveLength(beats.length);
    for (const [i, w] of whooshes.entries()) {
      expect(w.fromS).toBeLessThanOrEqual(beats[i]! + 0.001);
      expect(w.toS).toBeGreaterThan(beats[i]!);
      expect(w.toS - w.fromS).toBeLessThan(0.4);
    }
  });

  it('one scratch under all strokes of a Scratch, and no swell or whoosh there', () => {
    const values = { at: 60, slice: 6, strokes: 4, shape: 'even' as const, faster: 0 };
    const { path } = scratch.apply(span(0, 120), values, context);
    expect(kindsOf(path)).toEqual(['scratch']);
    const [s] = only(path, 'scratch');
    // Backward first at frame 66, forward for good at frame 108.
    expect(s!.fromS).toBeGreaterThan(1.9);
    expect(s!.fromS).toBeLessThan(2.25);
    expect(s!.toS).toBeGreaterThan(3.55);
    expect(s!.toS).toBeLessThan(3.8);
  });

  it('a reverse swell under a long way back, ending at the turn', () => {
    const { path } = boomerang.apply(
      span(0, 60),
      { ...boomerang.defaults, trips: 1, turn: 'twice' },
      context,
    );
    expect(kindsOf(path)).toEqual(['swell']);
    const [s] = only(path, 'swell');
    expect(s).toMatchObject({ fromS: expect.closeTo(2, 2) as number, toS: expect.closeTo(4, 2) as number });
  });

  it('a tape spool under a spooled stretch, a thump where it holds', () => {
    const spooled = spool.apply(span(0, 400), { ...spool.defaults, factor: 8 }, context).path;
    expect(only(spooled, 'spool').length).toBeGreaterThan(0);
    const held = hold.apply(span(0, 60), { at: 30, length: 20, then: 'inserts' }, context).path;
    expect(madeSpans(held)).toEqual([
      { kind: 'thump', fromS: 1, toS: 1.5, strength: expect.any(Number) as number },
    ]);
  });

  it('a thump where the speed falls hard, none where it falls softly', () => {
    const points = (before: number) => [
      { at: 0, source: 0, before: 0, after: 0 },
      { at: 20, source: 80, before, after: 0 },
      { at: 60, source: 100, before: 0, after: 0 },
    ];
    const path = (before: number) => curve.apply(span(0, 120), { points: points(before) }, context).path;
    expect(only(path(0), 'thump')).toMatchObject([{ fromS: expect.closeTo(20 / 30, 3) as number }]);
    expect(only(path(16), 'thump')).toEqual([]);
  });

  it('a riser while it speeds up to its peak', () => {
    const points = [
      { at: 0, percent: 50 },
      { at: 60, percent: 400 },
    ];
    const { path } = ramp.apply(span(0, 500), { points, before: 20, after: 20, soft: 'both' }, context);
    const [riser] = only(path, 'riser');
    expect(only(path, 'riser')).toHaveLength(1);
    // The change lies around result frame 60 of a path that crawls before it.
    expect(riser!.toS - riser!.fromS).toBeGreaterThan(0.35);
    const speeds = speedCurve(path);
    const at = (s: number) => speeds[Math.round(s * SPEED_HZ) - 1]!;
    expect(at(riser!.toS)).toBeGreaterThan(3.9);
    expect(at(riser!.fromS + 0.01)).toBeLessThan(1);
    const quick = ramp.apply(span(0, 500), { points, before: 2, after: 2, soft: 'none' }, context).path;
    expect(only(quick, 'riser')).toEqual([]);
  });
});

/** A kind alone, with a speed that may change. */
function play(kind: MadeKind, seconds: number, at: (share: number) => number, seed = 3): Float32Array {
  const samples = seconds * RATE_HZ;
  const left = new Float32Array(samples);
  const right = new Float32Array(samples);
  SYNTHS[kind](
    { samples, rateHz: RATE_HZ, speed: (i) => at(i / samples), random: seeded(seed) },
    left,
    right,
  );
  return left;
}
/** Root mean square frequency, hertz: higher for a brighter sound. */
const brightness = (s: Float32Array) => {
  let change = 0;
  for (let i = 1; i < s.length; i++) change += (s[i]! - s[i - 1]!) ** 2;
  return (Math.sqrt(change / s.length) / power(s)) * (RATE_HZ / (2 * Math.PI));
};
const part = (s: Float32Array, from: number, to: number) =>
  s.slice(Math.round(from * s.length), Math.round(to * s.length));

describe('made sounds', () => {
  it.each(MADE_KINDS)('%s: audible, not too loud, no clicks at its ends, the same each time', (kind) => {
    const sound = play(kind, 0.5, (share) => 1 + 3 * Math.sin(Math.PI * share));
    const peak = sound.reduce((a, v) => Math.max(a, Math.abs(v)), 0);
    expect(peak).toBeGreaterThan(0.2);
    expect(peak).toBeLessThan(1);
    expect(power(sound)).toBeGreaterThan(0.02);
    expect(Math.abs(sound[0]!)).toBeLessThan(0.01);
    expect(Math.abs(sound[sound.length - 1]!)).toBeLessThan(0.01);
    expect(sound.every((v) => Number.isFinite(v))).toBe(true);
    const again = play(kind, 0.5, (share) => 1 + 3 * Math.sin(Math.PI * share));
    expect(again.every((v, i) => v === sound[i])).toBe(true);
  });

  it('a whoosh is loudest and brightest where the speed is', () => {
    const sound = play('whoosh', 1, (share) => 1 + 5 * Math.sin(Math.PI * share) ** 4);
    const [before, top, after] = [part(sound, 0.05, 0.2), part(sound, 0.42, 0.58), part(sound, 0.8, 0.95)];
    expect(power(top)).toBeGreaterThan(1.7 * power(before));
    expect(power(top)).toBeGreaterThan(1.7 * power(after));
    expect(brightness(top)).toBeGreaterThan(1.5 * brightness(before));
  });

  it('a scratch back is the scratch there reversed, twice the speed an octave higher', () => {
    const alike = (a: Float32Array, b: Float32Array) => {
      const product = a.reduce((sum, v, i) => sum + v * b[i]!, 0) / a.length;
      return product / (power(a) * power(b));
    };
    const stroke = play('scratch', 0.5, (share) => (share < 0.5 ? 1.5 : -1.5));
    expect(alike(part(stroke, 0.1, 0.46), part(stroke, 0.54, 0.9).reverse())).toBeGreaterThan(0.9);
    // Twice as fast over the same groove: every second value of the slow one.
    const slow = play('scratch', 0.5, () => 1);
    const fast = part(
      play('scratch', 0.25, () => 2),
      0.1,
      0.8,
    );
    const second = fast.map((_, i) => slow[2 * (i + 1200) + 1]!);
    expect(alike(fast, second)).toBeGreaterThan(0.85);
    expect(power(play('scratch', 0.2, () => 0))).toBeLessThan(0.001);
  });

  it('a spool is higher the faster it runs', () => {
    expect(brightness(play('spool', 0.6, () => 10))).toBeGreaterThan(
      1.5 * brightness(play('spool', 0.6, () => 4)),
    );
  });

  it.each(['riser', 'swell'] as const)('a %s grows to its end', (kind) => {
    const sound = play(kind, 1, () => 1);
    const quarters = [0, 1, 2, 3].map((q) => power(part(sound, q / 4, (q + 1) / 4)));
    for (let q = 1; q < 4; q++) expect(quarters[q]!).toBeGreaterThan(1.4 * quarters[q - 1]!);
  });

  it('a thump is at its loudest within 40 ms and dies away', () => {
    const sound = play('thump', 0.5, () => 1);
    let top = 0;
    sound.forEach((v, i) => Math.abs(v) > Math.abs(sound[top]!) && (top = i));
    expect(top / RATE_HZ).toBeLessThan(0.04);
    expect(power(part(sound, 0.7, 1))).toBeLessThan(0.15 * power(part(sound, 0, 0.2)));
  });
});

describe('made sounds in the mix', () => {
  const { path } = hold.apply(span(0, 60), { at: 30, length: 20, then: 'inserts' }, context);
  const job = {
    totalFrames: pathFrames(path),
    rate,
    song: undefined,
    pieces: [{ startFrame: 0, path, own: undefined }],
    clipGainDb: 0,
    made: {},
    placed: [],
    laid: [],
    along: [],
  };

  it('only those of kinds that are on, at their level', () => {
    expect(power(mixSound(job).left)).toBe(0);
    expect(power(mixSound({ ...job, made: { whoosh: 0 } }).left)).toBe(0);
    const heard = mixSound({ ...job, made: { thump: -6 } }).left;
    const first = heard.findIndex((v) => Math.abs(v) > 0.01);
    expect(first / RATE_HZ).toBeGreaterThanOrEqual(1);
    expect(first / RATE_HZ).toBeLessThan(1.01);
    const loud = mixSound({ ...job, made: { thump: 0 } }).left;
    expect(power(heard) / power(loud)).toBeCloseTo(10 ** (-6 / 20), 2);
  });

  it('one placed by hand lies where it was placed, as long as it was made, cut at the end of the result', () => {
    const placed = [{ kind: 'swell' as const, atFrame: 20, frames: 30, gainDb: 0, seed: 5 }];
    const heard = mixSound({ ...job, placed }).left;
    expect(power(heard.slice(0, samplesOf(20, rate)))).toBe(0);
    expect(power(heard.slice(samplesOf(44, rate), samplesOf(50, rate)))).toBeGreaterThan(0.05);
    expect(power(heard.slice(samplesOf(50, rate)))).toBe(0);
    const late = [{ ...placed[0]!, atFrame: job.totalFrames - 10 }];
    expect(mixSound({ ...job, placed: late }).left.length).toBe(samplesOf(job.totalFrames, rate));
  });

  it('a sound of one’s own is heard from its second on at its frame, forward or backward, without a click', () => {
    const ramp = Float32Array.from({ length: RATE_HZ }, (_, i) => 0.5 * (i / RATE_HZ));
    const sound = { left: ramp, right: ramp, rateHz: RATE_HZ };
    const place = { kind: 'own' as const, atFrame: 20, frames: 15, gainDb: 0, sound };
    const at = samplesOf(20, rate);
    const end = samplesOf(35, rate);
    const heard = (fromS: number, backward: boolean) =>
      mixSound({ ...job, placed: [{ ...place, fromS, backward }] }).left;
    const forward = heard(0.2, false);
    expect(forward.slice(0, at).every((v) => v === 0)).toBe(true);
    expect(forward.slice(end).every((v) => v === 0)).toBe(true);
    expect(forward[at + 6000]!).toBeCloseTo(ramp[0.2 * RATE_HZ + 6000]!, 4);
    expect(heard(0.2, true)[at + 6000]!).toBeCloseTo(ramp[RATE_HZ - 1 - 0.2 * RATE_HZ - 6000]!, 4);
    // Cut out of the middle it comes in and goes softly.
    for (const i of [at, end - 1]) expect(Math.abs(forward[i]!)).toBeLessThan(0.01);
    // Longer than what is left of it, it ends with it; before the result's first frame it is cut.
    const late = heard(0.9, false);
    expect(late.slice(at + 0.1 * RATE_HZ + 1).every((v) => v === 0)).toBe(true);
    const early = mixSound({ ...job, placed: [{ ...place, atFrame: -6, fromS: 0, backward: false }] }).left;
    expect(early[100]!).toBeCloseTo(ramp[samplesOf(6, rate) + 100]!, 4);
  });

  it.each(MADE_KINDS)('%s placed by hand is heard over its whole length', (kind) => {
    const out = silence(RATE_HZ);
    addPlaced(out, { kind, at: 4800, samples: 24_000, gain: 1, seed: 9 });
    expect(power(out.left.slice(0, 4800))).toBe(0);
    expect(power(out.left.slice(4800, 28_800))).toBeGreaterThan(0.02);
    expect(power(out.left.slice(28_800))).toBe(0);
  });

  it('a path that begins before the sound does is cut, not moved', () => {
    const late = silence(RATE_HZ * 3);
    const whole = silence(RATE_HZ * 3);
    addMadeSounds(whole, 0, path, { thump: 1 }, 1);
    addMadeSounds(late, -RATE_HZ, path, { thump: 1 }, 1);
    expect(late.left.slice(0, 2000)).toEqual(whole.left.slice(RATE_HZ, RATE_HZ + 2000));
  });
});
