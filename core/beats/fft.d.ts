declare module 'fft.js' {
  /** Radix-4 fast Fourier transform of a power of two. */
  export default class FFT {
    constructor(size: number);
    /** Both as pairs of real and imaginary part. */
    transform(out: Float64Array, data: Float64Array): void;
  }
}
