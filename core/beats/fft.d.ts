declare module 'fft.js' {
  /** Radix-4 fast Fourier transform of a power of two. */
  export default class FFT {
    constructor(size: number);
    createComplexArray(): number[];
    realTransform(out: number[], data: ArrayLike<number>): void;
  }
}
