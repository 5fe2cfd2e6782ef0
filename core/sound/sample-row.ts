/** Samples that come one part after the other into one row: a long sound is never there twice. */
export class SampleRow {
  private data: Float32Array;
  private filled = 0;

  /** With room for so many samples; more of them make it grow. */
  constructor(expected: number) {
    this.data = new Float32Array(Math.max(1, Math.ceil(expected)));
  }

  get length(): number {
    return this.filled;
  }

  /** Room for the next `count` samples, silent, to be written into before the next is asked for. */
  next(count: number): Float32Array {
    const end = this.filled + count;
    if (end > this.data.length) {
      const larger = new Float32Array(Math.ceil(1.25 * end));
      larger.set(this.data.subarray(0, this.filled));
      this.data = larger;
    }
    const room = this.data.subarray(this.filled, end);
    this.filled = end;
    return room;
  }

  /** All that came. */
  whole(): Float32Array {
    return this.data.subarray(0, this.filled);
  }
}
