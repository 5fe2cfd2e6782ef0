import type { Random } from '../../moves/random';

/** One made sound to be played: how long, and the speed it goes along with. */
export interface Voice {
  readonly samples: number;
  readonly rateHz: number;
  /** Speed at a sample: 1 is normal, negative is backward. */
  speed(sample: number): number;
  readonly random: Random;
}

/** Adds a voice's sound to two channels of `samples` each; about 0.7 at its loudest. */
export type Synth = (voice: Voice, left: Float32Array, right: Float32Array) => void;

/** A state-variable filter (Chamberlin 1985): gives band and low pass of what is put in. */
export class Filter {
  low = 0;
  band = 0;

  constructor(private readonly rateHz: number) {}

  /** `width` is 2 for a broad band, near 0 for a ringing one. */
  put(value: number, hz: number, width: number): number {
    const f = 2 * Math.sin((Math.PI * Math.min(hz, this.rateHz / 7)) / this.rateHz);
    this.low += f * this.band;
    this.band += f * (value - this.low - width * this.band);
    return this.band;
  }
}

/** Follows a value, `seconds` behind it: levels that move like this do not click. */
export class Glide {
  constructor(
    private readonly step: number,
    public value = 0,
  ) {}

  static over(seconds: number, rateHz: number, value = 0): Glide {
    return new Glide(1 / Math.max(1, seconds * rateHz), value);
  }

  to(target: number): number {
    return (this.value += (target - this.value) * this.step);
  }
}

/** 0 at both ends of a sound of `samples`, 1 within: `rise` and `fall` samples long. */
export const edges = (i: number, samples: number, rise: number, fall: number): number =>
  Math.min(1, i / rise, (samples - 1 - i) / fall);
