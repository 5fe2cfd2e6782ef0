declare module 'fft.js' {
  /** Radix-4 fast Fourier transform of a power of two. */
  export default class FFT {
    constructor(size: number);
    realTransform(out: Float64Array, data: ArrayLike<number>): void;
  }
}
