import { base64Of, bytesOf } from '../base64';
import { WEIGHTS } from './weights';

/**
 * A small network that tells how likely a pattern (`pattern.ts`) is one of beats that people would tap to: one layer of
 * hyperbolic tangents, and beside it a straight sum. What comes out are logarithms of odds against the song's other patterns.
 */
export interface Network {
  /** Values in a pattern. */
  readonly inputs: number;
  /** Rows of `inputs` weights, one for each unit. */
  readonly units: Float32Array;
  readonly biases: Float32Array;
  /** What each unit is worth. */
  readonly worths: Float32Array;
  /** What each value is worth by itself. */
  readonly straight: Float32Array;
}

/** How likely a pattern is, as a logarithm of odds. */
export function scoreOf(network: Network, pattern: readonly number[]): number {
  const { inputs, units, biases, worths, straight } = network;
  let score = 0;
  for (let i = 0; i < inputs; i++) score += straight[i]! * pattern[i]!;
  for (let u = 0; u < biases.length; u++) {
    let sum = biases[u]!;
    const from = u * inputs;
    for (let i = 0; i < inputs; i++) sum += units[from + i]! * pattern[i]!;
    score += worths[u]! * Math.tanh(sum);
  }
  return score;
}

/** Numbers as the upper halves of their floats, as text: a two-hundredth of each is close enough. */
export function written(values: Float32Array): string {
  const words = new Uint32Array(values.slice().buffer);
  const halves = Uint16Array.from(words, (w) => Math.min(0xffff, (w + 0x8000) >>> 16));
  return base64Of(new Uint8Array(halves.buffer));
}

/** Numbers that were `written`. */
export const read = (text: string): Float32Array =>
  new Float32Array(Uint32Array.from(new Uint16Array(bytesOf(text).buffer), (half) => half << 16).buffer);

const networks: Network[] = [];

/** The networks that were fitted (docs/music.md): what they say is taken together. */
export function fittedNetworks(): readonly Network[] {
  if (networks.length === 0)
    networks.push(
      ...WEIGHTS.map(({ units, biases, worths, straight }) => ({
        inputs: read(straight).length,
        units: read(units),
        biases: read(biases),
        worths: read(worths),
        straight: read(straight),
      })),
    );
  return networks;
}
