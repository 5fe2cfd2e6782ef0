import { type Network, scoreOf } from './fitted';
import { type Random, unscattered } from '../moves/random';

/** The patterns of one song, one after the other in one row of numbers, and which of them are right. */
export interface Example {
  readonly patterns: Float32Array;
  readonly right: readonly boolean[];
}

/** What was found to do; results hardly depend on any of it. */
const UNITS = 12;
const ROUNDS = 25;
const AT_ONCE = 16;
const RATE = 2e-3;
/** When the rate falls: from this share of the rounds on, to this share of itself. */
const FALLS = [
  [0.6, 0.3],
  [0.85, 0.1],
] as const;
/** What keeps it from learning songs by heart: noise, in deviations either way, units left out, weights drawn to nothing. */
const NOISE = 0.17;
const LEFT_OUT = 0.2;
const DECAY = 5e-3;

/** A normally distributed number (Box and Muller 1958). */
const normal = (random: Random): number =>
  Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());

/** Mean and deviation of each value over all patterns. */
function spreadOf(
  examples: readonly Example[],
  inputs: number,
): { mean: Float64Array; deviation: Float64Array } {
  const [sum, squares] = [new Float64Array(inputs), new Float64Array(inputs)];
  let count = 0;
  for (const { patterns } of examples)
    for (let from = 0; from < patterns.length; from += inputs, count++)
      for (let i = 0; i < inputs; i++) {
        const v = patterns[from + i]!;
        sum[i]! += v;
        squares[i]! += v * v;
      }
  const mean = sum.map((s) => s / count);
  return { mean, deviation: squares.map((s, i) => Math.sqrt(Math.max(0, s / count - mean[i]! ** 2)) + 0.01) };
}

/** Weights with what Adam keeps of each (Kingma and Ba 2015). */
class Weights {
  readonly values: Float32Array;
  readonly slopes: Float32Array;
  private readonly first: Float32Array;
  private readonly second: Float32Array;

  constructor(count: number, start: () => number) {
    this.values = Float32Array.from({ length: count }, start);
    this.slopes = new Float32Array(count);
    this.first = new Float32Array(count);
    this.second = new Float32Array(count);
  }

  step(rate: number, count: number, decay: number): void {
    const [a, b] = [1 - 0.9 ** count, 1 - 0.999 ** count];
    const { values, slopes, first, second } = this;
    for (let i = 0; i < values.length; i++) {
      const slope = slopes[i]! + decay * values[i]!;
      first[i] = 0.9 * first[i]! + 0.1 * slope;
      second[i] = 0.999 * second[i]! + 0.001 * slope * slope;
      values[i]! -= (rate * (first[i]! / a)) / (Math.sqrt(second[i]! / b) + 1e-8);
    }
    slopes.fill(0);
  }
}

/**
 * Fits a network so that the right patterns of each song, taken together, are as likely as can be among all of its patterns
 * (maximum likelihood over a softmax; backpropagation, Rumelhart et al. 1986; units left out, Srivastava et al. 2014).
 */
export function fit(
  all: readonly Example[],
  seed: number,
  told: (round: number) => void,
  rounds = ROUNDS,
): Network {
  const examples = all.filter(({ right }) => right.some((r) => r));
  const inputs = examples[0]!.patterns.length / examples[0]!.right.length;
  const random = unscattered(seed);
  const { mean, deviation } = spreadOf(examples, inputs);
  const units = new Weights(UNITS * inputs, () => normal(random) / Math.sqrt(inputs));
  const biases = new Weights(UNITS, () => 0);
  const worths = new Weights(UNITS, () => normal(random) / Math.sqrt(UNITS));
  const straight = new Weights(inputs, () => 0);
  const order = examples.map((_, i) => i);
  let steps = 0;
  for (let round = 0; round < rounds; round++) {
    for (let i = order.length - 1; i > 0; i--) {
      const j = Math.floor(random() * (i + 1));
      [order[i], order[j]] = [order[j]!, order[i]!];
    }
    const rate = FALLS.reduce((r, [from, share]) => (round >= from * rounds ? RATE * share : r), RATE);
    for (let from = 0; from < order.length; from += AT_ONCE) {
      const some = order.slice(from, from + AT_ONCE);
      for (const i of some) learn(examples[i]!, 1 / some.length);
      steps++;
      units.step(rate, steps, DECAY);
      worths.step(rate, steps, DECAY);
      straight.step(rate, steps, 3 * DECAY);
      biases.step(rate, steps, 0);
    }
    told(round);
  }
  return withoutSpread();

  /** Adds what one song says to the slopes. */
  function learn({ patterns, right }: Example, share: number): void {
    const x = new Float32Array(patterns.length);
    for (let k = 0; k < x.length; k++) {
      const i = k % inputs;
      x[k] = (patterns[k]! - mean[i]!) / deviation[i]! + NOISE * (2 * random() - 1);
    }
    const hidden = new Float32Array(right.length * UNITS);
    const kept = hidden.map(() => (random() < LEFT_OUT ? 0 : 1 / (1 - LEFT_OUT)));
    const scores = right.map((_, p) => {
      let score = 0;
      for (let i = 0; i < inputs; i++) score += straight.values[i]! * x[p * inputs + i]!;
      for (let u = 0; u < UNITS; u++) {
        let sum = biases.values[u]!;
        for (let i = 0; i < inputs; i++) sum += units.values[u * inputs + i]! * x[p * inputs + i]!;
        const h = Math.tanh(sum);
        hidden[p * UNITS + u] = h;
        score += worths.values[u]! * h * kept[p * UNITS + u]!;
      }
      return score;
    });
    const top = Math.max(...scores);
    const odds = scores.map((s) => Math.exp(s - top));
    const sum = odds.reduce((a, b) => a + b, 0);
    const rightSum = odds.reduce((a, o, p) => (right[p] ? a + o : a), 0);
    odds.forEach((o, p) => {
      const slope = share * (o / sum - (right[p] ? o / Math.max(1e-12, rightSum) : 0));
      if (Math.abs(slope) < 1e-7) return;
      for (let i = 0; i < inputs; i++) straight.slopes[i]! += slope * x[p * inputs + i]!;
      for (let u = 0; u < UNITS; u++) {
        const [h, keeps] = [hidden[p * UNITS + u]!, kept[p * UNITS + u]!];
        worths.slopes[u]! += slope * h * keeps;
        const inner = slope * worths.values[u]! * keeps * (1 - h * h);
        biases.slopes[u]! += inner;
        for (let i = 0; i < inputs; i++) units.slopes[u * inputs + i]! += inner * x[p * inputs + i]!;
      }
    });
  }

  /** The network for patterns as they are, not as deviations from their means. */
  function withoutSpread(): Network {
    const own = units.values.map((w, k) => w / deviation[k % inputs]!);
    return {
      inputs,
      units: own,
      biases: biases.values.map((b, u) => {
        let sum = b;
        for (let i = 0; i < inputs; i++) sum -= own[u * inputs + i]! * mean[i]!;
        return sum;
      }),
      worths: worths.values,
      straight: straight.values.map((w, i) => w / deviation[i]!),
    };
  }
}

/** How likely the networks take the right patterns of a song to be, together: 0 to 1. */
export function likelihoodOf(networks: readonly Network[], { patterns, right }: Example): number {
  const inputs = patterns.length / right.length;
  const scores = right.map((_, p) => {
    const pattern = [...patterns.subarray(p * inputs, (p + 1) * inputs)];
    return networks.reduce((sum, n) => sum + scoreOf(n, pattern), 0) / networks.length;
  });
  const top = Math.max(...scores);
  const odds = scores.map((s) => Math.exp(s - top));
  return odds.reduce((a, o, p) => (right[p] ? a + o : a), 0) / odds.reduce((a, b) => a + b, 0);
}
