import { fittedNetworks, read, scoreOf, written } from './fitted';
import { type Example, fit } from './fitting';
import { madeSongs } from './fixtures/songs';
import { onsetCurves } from './onsets';
import { evidenceOf, patternsOf } from './pattern';
import { tempoPath } from './tempo';
import { waysToHear } from './ways';

it('numbers come back from their text to a two-hundredth', () => {
  const values = Float32Array.of(0, 1, -1, 3.14159, -0.000123, 12_345, -7e-9);
  read(written(values)).forEach((v, i) => {
    expect(Math.abs(v - values[i]!)).toBeLessThanOrEqual(Math.abs(values[i]!) / 200);
  });
});

it('a network is a straight sum, and units beside it', () => {
  const network = {
    inputs: 2,
    units: Float32Array.of(1, -1, 0, 0.5),
    biases: Float32Array.of(0, 1),
    worths: Float32Array.of(2, -3),
    straight: Float32Array.of(0.25, 0),
  };
  const told = 0.25 * 2 + 2 * Math.tanh(2 - 4) - 3 * Math.tanh(1 + 0.5 * 4);
  expect(scoreOf(network, [2, 4])).toBeCloseTo(told, 6);
});

it('fitting finds what is right, where no straight sum would', () => {
  // Right is the pattern of four whose two values are of one sign.
  const examples = Array.from({ length: 160 }, (_, n): Example => {
    const sign = n % 2 ? 1 : -1;
    const at = (n >> 1) % 4;
    const patterns = Float32Array.from({ length: 8 }, (_, i) =>
      i >> 1 === at ? sign : (i % 2 ? 1 : -1) * (n % 3 ? 1 : -1),
    );
    return { patterns, right: [0, 1, 2, 3].map((p) => p === at) };
  });
  const rounds: number[] = [];
  const network = fit(examples, 1, (round) => rounds.push(round), 120);
  expect(rounds).toHaveLength(120);
  const told = examples.map(({ patterns, right }) => {
    const scores = right.map((_, p) => scoreOf(network, [...patterns.subarray(2 * p, 2 * p + 2)]));
    return right[scores.indexOf(Math.max(...scores))];
  });
  expect(told.every((right) => right)).toBe(true);
});

describe('the pattern of a way to hear a song', () => {
  const [song] = madeSongs(5, 24);
  const curves = onsetCurves(song!.mono, song!.rateHz);
  const evidence = evidenceOf(curves);
  const ways = waysToHear(curves, tempoPath(curves.whole, curves.rateHz));

  it('is as long as the weights are for', () => {
    for (const { inputs } of fittedNetworks())
      for (const way of ways) for (const p of patternsOf(evidence, way)) expect(p).toHaveLength(inputs);
  });

  it('is the same whichever beat it is counted from, but for where it begins', () => {
    const way = ways[0]!;
    const from = (skipped: number) => patternsOf(evidence, { ...way, beats: way.beats.slice(skipped) });
    // Four beats later every beat of a bar is the same one again.
    const [whole, later] = [from(0), from(4)];
    // The first values: strengths of the whole song at the first beat's places.
    for (let first = 0; first < 4; first++)
      for (let i = 0; i < 8; i++) expect(later[first]![i]!).toBeCloseTo(whole[first]![i]!, 0);
    // One beat later the bar that began with the second begins with the first.
    const moved = from(1);
    for (let i = 0; i < 8; i++) expect(moved[0]![i]!).toBeCloseTo(whole[1]![i]!, 0);
  });

  it('has the true beats among them', () => {
    const off = (way: (typeof ways)[number]) => {
      const found = way.beats.map((b) => b / curves.rateHz);
      const offs = song!.beats.map((b) => Math.min(...found.map((f) => Math.abs(f - b))));
      return Math.max(...offs) + (Math.abs(found.length - song!.beats.length) > 2 ? 1 : 0);
    };
    expect(Math.min(...ways.map(off))).toBeLessThan(0.05);
  });
});
