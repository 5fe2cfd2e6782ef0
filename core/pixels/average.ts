import { WHOLE } from '../gather/gather';
import { type Kernels, loadKernels } from './kernels/module';

/** Bytes that are averaged at once: those of all sources stay near the processor. */
const STRIP = 16_384;
const WEIGHTS = 4096;
const SOURCES = 8192;

/** Means of pictures, plane values as they are: I420 stays I420. Its memory is taken once and grows with the sources. */
export class Averager {
  private kernels: Kernels | undefined;
  private memory: { readonly buffer: ArrayBuffer } = { buffer: new ArrayBuffer(0) };
  private most = 0;

  /** The mean of sources of one length, weighed in 32768ths that come to the whole, into `out`. */
  mean(sources: readonly Uint8Array[], weights: readonly number[], out: Uint8Array): void {
    if (weights.reduce((a, b) => a + b, 0) !== WHOLE)
      throw new RangeError('weights do not come to the whole');
    const kernels = this.room(sources.length);
    const { buffer } = this.memory;
    const outAt = SOURCES + sources.length * STRIP;
    new Uint16Array(buffer, WEIGHTS, weights.length).set(weights);
    for (let from = 0; from < out.length; from += STRIP) {
      const bytes = Math.min(STRIP, out.length - from);
      sources.forEach((source, k) =>
        new Uint8Array(buffer, SOURCES + k * STRIP, bytes).set(source.subarray(from, from + bytes)),
      );
      kernels.mean(SOURCES, STRIP, WEIGHTS, sources.length, outAt, bytes);
      out.set(new Uint8Array(buffer, outAt, bytes), from);
    }
  }

  private room(sources: number): Kernels {
    if (!this.kernels || sources > this.most) {
      this.most = Math.max(8, sources);
      const { kernels, memory } = loadKernels(SOURCES + (this.most + 1) * STRIP);
      this.kernels = kernels;
      this.memory = memory;
    }
    return this.kernels;
  }
}
