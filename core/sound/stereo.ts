/** Two channels of samples, -1 to 1, of one length. */
export interface Stereo {
  readonly left: Float32Array;
  readonly right: Float32Array;
  readonly rateHz: number;
}

/** The rate at which everything is mixed. */
export const MIX_RATE_HZ = 48_000;

export function silence(samples: number, rateHz = MIX_RATE_HZ): Stereo {
  return { left: new Float32Array(samples), right: new Float32Array(samples), rateHz };
}

/** Both channels as one at half the rate, for analysis: beats need nothing above twelve kilohertz. */
export function halfRateMono({ left, right }: Stereo): Float32Array {
  const out = new Float32Array(left.length >> 1);
  for (let i = 0, j = 0; i < out.length; i++, j += 2)
    out[i] = (left[j]! + right[j]! + left[j + 1]! + right[j + 1]!) / 4;
  return out;
}

export const gainOf = (db: number): number => (db <= -60 ? 0 : 10 ** (db / 20));

/** Peaks of a sound for drawing: the greatest sample, either way, of each stretch of `size` samples. */
export function peaksOf(sound: Stereo, size: number): Float32Array {
  const count = Math.ceil(sound.left.length / size);
  const out = new Float32Array(count);
  for (let p = 0; p < count; p++) {
    let most = 0;
    const end = Math.min(sound.left.length, (p + 1) * size);
    for (let i = p * size; i < end; i++)
      most = Math.max(most, Math.abs(sound.left[i]!), Math.abs(sound.right[i]!));
    out[p] = most;
  }
  return out;
}
