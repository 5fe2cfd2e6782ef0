import { likeliestBeats } from './choose';
import { BANDS, type OnsetCurves } from './onsets';
import { evenBeats, steadyPeriod } from './steady';
import { tempoPath } from './tempo';

const RATE_HZ = 100;
const LENGTH_S = 120;

/** A curve of onsets at instants, each a few values wide, as the real ones are. */
function curveOf(hits: Iterable<readonly [atS: number, strength: number]>, lengthS = LENGTH_S): Float32Array {
  const curve = new Float32Array(lengthS * RATE_HZ);
  for (const [atS, strength] of hits)
    for (let t = Math.floor(atS * RATE_HZ) - 2; t <= atS * RATE_HZ + 3; t++) {
      const off = (t - atS * RATE_HZ) / 1.2;
      if (t >= 0 && t < curve.length) curve[t]! += 3 * strength * Math.exp(-off * off);
    }
  return curve;
}
/** Beats of a tempo with louder beats or louder halves between them, whichever `louder` says at an instant. */
function* hitsAt(
  bpm: number,
  louder: (s: number) => 'beats' | 'halves',
  until = LENGTH_S,
): Generator<[number, number]> {
  const step = 60 / bpm;
  for (let at = 0.2; at < until; at += step) {
    const beats = louder(at) === 'beats';
    yield [at, beats ? 1 : 0.6];
    yield [at + step / 2, beats ? 0.6 : 1];
  }
}
const bpmOf = (period: number | undefined) => (period === undefined ? undefined : (60 * RATE_HZ) / period);
const heardAs = (bpm: number) => (60 * RATE_HZ) / bpm;

describe('a song that keeps its tempo', () => {
  it.each([87.35, 135, 170.02])(
    'of %d a minute is known to a hundredth, though it is heard only roughly',
    (bpm) => {
      const found = bpmOf(steadyPeriod(curveOf(hitsAt(bpm, () => 'beats')), heardAs(bpm * 1.009), RATE_HZ));
      expect(Math.abs(found! - bpm)).toBeLessThan(0.01);
    },
  );

  it('is known where the halves are louder for a while, and through silence', () => {
    const turns = (s: number) => (s > 40 && s < 70 ? 'halves' : 'beats');
    const silent = [...hitsAt(124, turns)].filter(([at]) => at < 80 || at > 95);
    expect(bpmOf(steadyPeriod(curveOf(silent), heardAs(123), RATE_HZ))).toBeCloseTo(124, 1);
  });

  it('has beats that never slip to the halves, wherever those are louder', () => {
    const turns = (s: number) => (s > 50 && s < 80 ? 'halves' : 'beats');
    const whole = curveOf(hitsAt(132, turns));
    const none = new Float32Array(whole.length);
    const curves: OnsetCurves = {
      rateHz: RATE_HZ,
      whole,
      low: none,
      mid: none,
      high: none,
      bands: new Float32Array(whole.length * BANDS),
    };
    const beats = likeliestBeats(curves, tempoPath(whole, RATE_HZ))[0]!.beats.map((t) => t / RATE_HZ);
    const places = beats.map((b) => ((b - 0.2) * 132) / 60);
    expect(beats.length).toBeGreaterThan(258);
    // Every one within a hundredth of a second of the same row.
    for (const place of places) expect(Math.abs(place - Math.round(place))).toBeLessThan(0.022);
  });

  it('is not one that is faster from its middle on, however even both halves are', () => {
    const first = [...hitsAt(100, () => 'beats', LENGTH_S / 2)];
    const second = [...hitsAt(126, () => 'beats', LENGTH_S / 2)].map(
      ([at, s]) => [at + LENGTH_S / 2, s] as const,
    );
    expect(steadyPeriod(curveOf([...first, ...second]), heardAs(100), RATE_HZ)).toBeUndefined();
    expect(steadyPeriod(curveOf([...first, ...second]), heardAs(126), RATE_HZ)).toBeUndefined();
  });

  it('is not one that wanders, nor one too short to tell', () => {
    const wandering: [number, number][] = [];
    for (let at = 0.2, i = 0; at < LENGTH_S; i++, at += 0.5 * (1 + 0.03 * Math.sin(i / 25)))
      wandering.push([at, 1]);
    expect(steadyPeriod(curveOf(wandering), heardAs(120), RATE_HZ)).toBeUndefined();
    const short = curveOf(
      hitsAt(120, () => 'beats', 20),
      20,
    );
    expect(steadyPeriod(short, heardAs(120), RATE_HZ)).toBeUndefined();
    expect(steadyPeriod(new Float32Array(12_000), heardAs(120), RATE_HZ)).toBeUndefined();
    const mix = curveOf(
      hitsAt(120, () => 'beats', 1300),
      1300,
    );
    expect(steadyPeriod(mix, heardAs(120), RATE_HZ)).toBeUndefined();
  });

  it('has its beats where it is struck, from the first that fits to the end', () => {
    const beats = evenBeats(curveOf([...hitsAt(100, () => 'beats')], 30), 60);
    expect(Math.abs(beats[0]! - 20)).toBeLessThan(0.5);
    expect(beats).toHaveLength(50);
    expect(beats[49]! - beats[0]!).toBeCloseTo(49 * 60, 6);
  });
});
