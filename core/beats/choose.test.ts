import { analyse } from './analyse';
import { likeliestBeats } from './choose';
import { NO_GRID, differenceOf, evenGrid } from './grid';
import { harmonyChange } from './harmony';
import { BANDS, type OnsetCurves, onsetCurves } from './onsets';
import { tempoPath } from './tempo';
import { evened, trackBeats } from './track';
import { beatsPerBarOf, firstBarOf } from './bars';

const RATE_HZ = 22_050;
type Hit = readonly [atS: number, kind: 'low' | 'mid' | 'high', strength: number];

/** A sound of short hits over a chord that changes where it is told. */
function soundOf(hits: readonly Hit[], lengthS: number, chordAt: (s: number) => number): Float32Array {
  const { sin, exp, PI } = Math;
  const out = new Float32Array(lengthS * RATE_HZ);
  const phases = [0, 0, 0];
  for (let i = 0; i < out.length; i++) {
    const root = chordAt(i / RATE_HZ);
    [1, 1.25, 1.5].forEach((ratio, k) => {
      phases[k] = (phases[k]! + (root * ratio) / RATE_HZ) % 1;
      out[i]! += 0.05 * sin(2 * PI * phases[k]!);
    });
  }
  const hz = { low: 65, mid: 700, high: 7000 };
  for (const [at, kind, strength] of hits)
    for (let i = 0; i < 2600; i++) {
      const n = Math.round(at * RATE_HZ) + i;
      if (n < out.length)
        out[n]! += 0.6 * strength * exp(-i / 500) * sin((2 * PI * hz[kind] * i) / RATE_HZ + 0.5);
    }
  return out;
}
const beatsOf = (curves: OnsetCurves) =>
  likeliestBeats(curves, tempoPath(curves.whole, curves.rateHz))[0]!.beats.map((t) => t / curves.rateHz);
const steps = (beats: readonly number[]) => beats.slice(1).map((b, i) => b - beats[i]!);
const middle = (list: readonly number[]) => list.toSorted((a, b) => a - b)[list.length >> 1]!;

describe('the beats among those that could be', () => {
  const STEP = 0.5;
  const bars = Array.from({ length: 12 }, (_, i) => i);
  const rootOf = (bar: number) => [110, 147, 98, 131][bar % 4]!;
  const chord = (s: number) => rootOf(Math.floor(s / (4 * STEP)));

  it('lie where low hits and new chords are, though louder hits lie between', () => {
    const hits = bars.flatMap((bar): Hit[] =>
      [0, 1, 2, 3].flatMap((b): Hit[] => {
        const at = (bar * 4 + b) * STEP;
        return [
          [at, 'low', b % 2 ? 0.3 : 1],
          [at + STEP / 2, 'high', 1.4],
        ];
      }),
    );
    const beats = beatsOf(onsetCurves(soundOf(hits, 24, chord), RATE_HZ));
    expect(middle(steps(beats))).toBeCloseTo(STEP, 2);
    const off = beats.map((b) => Math.abs(b / STEP - Math.round(b / STEP)));
    expect(middle(off)).toBeLessThan(0.08);
  });

  it('are not the half beats of kick and snare in turn', () => {
    const hits = bars.flatMap((bar): Hit[] =>
      [0, 1, 2, 3].map((b): Hit => [(bar * 4 + b) * 0.4, b % 2 ? 'mid' : 'low', 1]),
    );
    const beats = beatsOf(
      onsetCurves(
        soundOf(hits, 19, (s) => chord((s * STEP) / 0.4)),
        RATE_HZ,
      ),
    );
    expect(middle(steps(beats))).toBeCloseTo(0.4, 2);
  });

  it('are not every third of eighths that are all alike', () => {
    // Eighths at 176 a minute: three of them, 118 a minute, would be the tempo people like best.
    const curve = new Float32Array(3000);
    for (let at = 10; at < curve.length; at += 17) curve[at] = 3;
    const heard = 6000 / middle([...tempoPath(curve, 100).periods]);
    expect([88, 176].some((bpm) => Math.abs(heard - bpm) < 2)).toBe(true);
  });

  it('go with the hit a song begins with, though what lies between is a little louder, unless it was cut', () => {
    const hits = Array.from({ length: 58 }, (_, i): Hit[] => [
      [0.5 + i * 0.5, 'mid', 1],
      [0.75 + i * 0.5, 'mid', 1.15],
    ]).flat();
    const sound = soundOf(hits, 30, () => 110);
    const offOf = (mono: Float32Array, first: number) =>
      middle(beatsOf(onsetCurves(mono, RATE_HZ)).map((b) => Math.abs((((b - first) / 0.5 + 0.5) % 1) - 0.5)));
    const begun = sound.slice().fill(0, 0, 0.49 * RATE_HZ);
    expect(offOf(begun, 0.5)).toBeLessThan(0.06);
    expect(offOf(sound.slice(0.6 * RATE_HZ), 0.15)).toBeLessThan(0.06);
  });

  it('begin their bars where the chord changes, in fours', () => {
    const hits = Array.from({ length: 36 }, (_, i): Hit => [0.3 + i * STEP, i % 4 ? 'mid' : 'low', 1]);
    const sound = soundOf(hits, 19, (s) => rootOf(Math.max(0, Math.floor((s - 0.3) / (4 * STEP)))));
    for (const cutS of [0, 0.5, 1, 1.5]) {
      const { grid } = analyse(sound.slice(cutS * RATE_HZ), RATE_HZ);
      const begins = grid.beats[grid.firstBar]! + cutS - 0.3;
      expect([cutS, Math.abs(begins / (4 * STEP) - Math.round(begins / (4 * STEP))) < 0.05]).toEqual([
        cutS,
        true,
      ]);
    }
  });

  it('begin their bars where the chord changes, in threes and fives', () => {
    for (const perBar of [3, 5]) {
      const hits = Array.from({ length: 36 }, (_, i): Hit => [0.3 + i * STEP, i % perBar ? 'mid' : 'low', 1]);
      const curves = onsetCurves(
        soundOf(hits, 19, (s) => rootOf(Math.max(0, Math.floor((s - 0.3) / (perBar * STEP))))),
        RATE_HZ,
      );
      const beats = hits.map(([at]) => at);
      expect(beatsPerBarOf(beats, curves)).toBe(perBar);
      expect(firstBarOf(beats, curves, perBar).firstBar).toBe(0);
      expect(firstBarOf(beats.slice(1), curves, perBar).firstBar).toBe(perBar - 1);
    }
  });
});

it('beats that are all alike are counted in fours', () => {
  const hits = Array.from({ length: 40 }, (_, i): Hit => [0.4 + i * 0.48, 'mid', 1]);
  const curves = onsetCurves(
    soundOf(hits, 20, () => 220),
    RATE_HZ,
  );
  const beats = hits.map(([at]) => at);
  expect(beatsPerBarOf(beats, curves)).toBe(4);
});

describe('change of harmony', () => {
  it('is greatest where the chord changes', () => {
    const curves = onsetCurves(
      soundOf([], 8, (s) => (s < 4 ? 110 : 165)),
      RATE_HZ,
    );
    const change = harmonyChange(curves, 0.5, 4);
    const top = change.reduce((best, v, i) => (v > change[best]! ? i : best), 0);
    expect(Math.abs(top / curves.rateHz - 4)).toBeLessThan(0.08);
    expect(Math.max(...change)).toBeLessThanOrEqual(1);
  });

  it('is nothing in silence', () => {
    const curves = onsetCurves(new Float32Array(RATE_HZ * 2), RATE_HZ);
    expect(curves.bands.length).toBe(curves.whole.length * BANDS);
    expect(harmonyChange(curves, 0.2, 0).every((v) => v === 0)).toBe(true);
  });
});

describe('tracking', () => {
  /** A curve of hits: on the beat for a while, then louder between beats, on the beat weakly. */
  const curve = new Float32Array(4000);
  for (let i = 0; i < 80; i++) {
    const at = 20 + i * 50;
    curve[at] = i < 30 || i > 50 ? 3 : 1;
    if (i >= 30 && i <= 50 && at + 25 < curve.length) curve[at + 25] = 2.2;
  }
  const tempo = { hopS: 2, periods: new Float64Array(20).fill(50) };

  it('does not slide over to the half beats where they are louder for a while', () => {
    const beats = evened(trackBeats(curve, tempo, 100), 6);
    const wrong = beats.filter(
      (b) => Math.abs(((b - 20) / 50) % 1) > 0.2 && Math.abs(((b - 20) / 50) % 1) < 0.8,
    );
    expect(beats.length).toBeGreaterThan(75);
    expect(wrong).toEqual([]);
  });
});

it('the second guess is another way to hear the same song, and less likely', () => {
  const hits = Array.from({ length: 48 }, (_, i): Hit => [0.3 + i * 0.5, i % 2 ? 'mid' : 'low', 1]);
  const sound = soundOf(hits, 24, (s) => [110, 147, 98, 131][Math.floor(s / 2) % 4]!);
  const { grid, second, likely } = analyse(sound, RATE_HZ);
  expect(middle(steps(grid.beats))).toBeCloseTo(0.5, 2);
  expect(likely).toBeGreaterThan(0.4);
  expect(likely).toBeLessThanOrEqual(1);
  expect(second!.beats).not.toEqual(grid.beats);
  expect(differenceOf(second!, grid)).not.toBe('');
  const curves = onsetCurves(sound, RATE_HZ);
  const odds = likeliestBeats(curves, tempoPath(curves.whole, curves.rateHz)).map((r) => r.likely);
  expect(odds).toEqual(odds.toSorted((a, b) => b - a));
  expect(odds.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 6);
});

describe('how ways to hear a song differ', () => {
  const at = (bpm: number, from: number) => evenGrid(bpm, from, 60, NO_GRID);
  const beat = 60 / 128;
  it.each([
    ['96.0 a minute', at(96, 0)],
    ['192 a minute', at(192, 0)],
    ['half a beat later', at(128, 0.5 * beat)],
    ['a quarter beat later', at(128, 0.25 * beat)],
    ['a quarter beat earlier', at(128, 0.75 * beat)],
    ['a third of a beat later', at(128, beat / 3)],
    ['a third of a beat earlier', at(128, (2 * beat) / 3)],
    ['other bars', { ...at(128, 0), firstBar: 2 }],
  ] as const)('%s', (words, other) => expect(differenceOf(other, at(128, 0))).toBe(words));
});
