/** Readings that are held; the middle one of them is believed. */
const HELD = 5;
/** Differences below this are noise of the measurement, milliseconds. */
const NOISE_MS = 2;

/** What one reading led to. */
export interface LeadReading {
  /** How far the led clock is believed to have been off, milliseconds; positive: it was behind. */
  readonly offMs: number;
  /** How far it is to be moved on, milliseconds; 0 for nothing. */
  readonly moveMs: number;
}

/**
 * Keeps one clock in step with another that leads, from readings of their difference. A single reading
 * may be wrong when the machine is busy, so the middle one of five is believed (a running median): two
 * wrong ones in five move nothing, and a true change is followed at the third reading after it.
 */
export class ClockLead {
  private readings: readonly number[] = [];

  /**
   * Takes the next reading.
   * @param offMs how far the led clock is behind the leading one, milliseconds
   * @returns nothing before enough were taken
   */
  take(offMs: number): LeadReading | undefined {
    this.readings = [...this.readings.slice(1 - HELD), offMs];
    if (this.readings.length < HELD) return undefined;
    const middle = this.readings.toSorted((a, b) => a - b)[(HELD - 1) / 2]!;
    if (Math.abs(middle) < NOISE_MS) return { offMs: middle, moveMs: 0 };
    // What was read before the move is as much nearer after it.
    this.readings = this.readings.map((r) => r - middle);
    return { offMs: middle, moveMs: middle };
  }
}
