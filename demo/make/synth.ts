/** Small offline synthesis for the demo's sounds: a stereo tape at 48 kHz that voices are mixed onto. */
import { seededRandom } from './scenes/market';

export const RATE_HZ = 48000;

export class Tape {
  readonly left: Float32Array;
  readonly right: Float32Array;

  constructor(readonly durationS: number) {
    const n = Math.round(durationS * RATE_HZ);
    this.left = new Float32Array(n);
    this.right = new Float32Array(n);
  }

  /** Mixes `voice(secondsSinceStart)` in for `lengthS` from `atS`; `pan` -1 left to 1 right. */
  play(atS: number, lengthS: number, gain: number, pan: number, voice: (t: number) => number): void {
    const from = Math.round(atS * RATE_HZ);
    const count = Math.min(Math.round(lengthS * RATE_HZ), this.left.length - from);
    const l = gain * Math.cos(((pan + 1) * Math.PI) / 4);
    const r = gain * Math.sin(((pan + 1) * Math.PI) / 4);
    for (let i = Math.max(0, -from); i < count; i++) {
      const fade = Math.min(1, (count - i) / 240);
      const v = voice(i / RATE_HZ) * fade;
      this.left[from + i]! += v * l;
      this.right[from + i]! += v * r;
    }
  }

  /** Copies a stretch over another place, for glitches. */
  copy(fromS: number, toS: number, lengthS: number): void {
    const from = Math.round(fromS * RATE_HZ);
    const to = Math.round(toS * RATE_HZ);
    const n = Math.round(lengthS * RATE_HZ);
    for (const side of [this.left, this.right]) side.copyWithin(to, from, from + n);
  }

  /** Soft-clips and scales so that the loudest sample is `peak`. */
  master(peak: number): void {
    let top = 1e-6;
    for (const side of [this.left, this.right])
      for (let i = 0; i < side.length; i++) {
        side[i] = Math.tanh(side[i]! * 1.15);
        top = Math.max(top, Math.abs(side[i]!));
      }
    for (const side of [this.left, this.right]) for (let i = 0; i < side.length; i++) side[i]! *= peak / top;
  }
}

/** White noise as a function of call order, seeded. */
export function noise(seed: number): () => number {
  const random = seededRandom(seed);
  return () => random() * 2 - 1;
}

/** Noise through a one-pole low pass whose corner may move, Hz. */
export function softNoise(seed: number, cornerHz: (t: number) => number): (t: number) => number {
  const n = noise(seed);
  let y = 0;
  return (t) => (y += (1 - Math.exp((-2 * Math.PI * cornerHz(t)) / RATE_HZ)) * (n() - y));
}

export const sine = (hz: number, t: number) => Math.sin(2 * Math.PI * hz * t);
export const saw = (hz: number, t: number) => {
  let s = 0;
  for (let k = 1; k <= 8 && k * hz < 16000; k++) s += Math.sin(2 * Math.PI * hz * k * t) / k;
  return s * 0.6;
};

export const kick = (t: number) =>
  Math.sin(2 * Math.PI * (46 * t + 9 * (1 - Math.exp(-t * 28)))) * Math.exp(-t * 9);
export const snare = (seed: number) => {
  const n = softNoise(seed, () => 6500);
  return (t: number) => 1.6 * n(t) * Math.exp(-t * 17) + 0.5 * sine(186, t) * Math.exp(-t * 24);
};
export const hat = (seed: number, decay: number) => {
  const n = noise(seed);
  let last = 0;
  return (t: number) => {
    const v = n();
    const high = v - last;
    last = v;
    return high * 0.5 * Math.exp(-t * decay);
  };
};
export const bigDrum = (t: number) =>
  (Math.sin(2 * Math.PI * (62 * t + 5 * (1 - Math.exp(-t * 20)))) + 0.4 * sine(148, t) * Math.exp(-t * 6)) *
  Math.exp(-t * 4.2);
