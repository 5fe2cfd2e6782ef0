import { z } from 'zod';
import type { Accent, Band } from './grid';

/**
 * The shape that every accent of a band is given: it rises up to the accent, holds, and falls. Milliseconds; the
 * rise comes before the accent, so that what follows the envelope is at its top when the accent sounds.
 */
export const EnvelopeSchema = z.object({
  riseMs: z.number().min(0).max(5000),
  holdMs: z.number().min(0).max(5000),
  fallMs: z.number().min(1).max(10_000),
  /** Accents weaker than this do nothing; 100 is a strong one. */
  leastPercent: z.number().min(0).max(100),
});
export type Envelope = z.infer<typeof EnvelopeSchema>;

export const EnvelopesSchema = z.object({
  low: EnvelopeSchema,
  mid: EnvelopeSchema,
  high: EnvelopeSchema,
});
export type Envelopes = z.infer<typeof EnvelopesSchema>;

export const DEFAULT_ENVELOPES: Envelopes = {
  low: { riseMs: 20, holdMs: 40, fallMs: 260, leastPercent: 30 },
  mid: { riseMs: 20, holdMs: 30, fallMs: 200, leastPercent: 30 },
  high: { riseMs: 10, holdMs: 10, fallMs: 90, leastPercent: 30 },
};

/** How far up an envelope is, 0 to 1, at seconds after its accent (negative before it). */
export function levelAfter({ riseMs, holdMs, fallMs }: Envelope, sinceS: number): number {
  const ms = sinceS * 1000;
  if (ms < 0) return riseMs > 0 ? Math.max(0, 1 + ms / riseMs) : 0;
  return ms <= holdMs ? 1 : Math.max(0, 1 - (ms - holdMs) / fallMs);
}

/** Accents of a band that count for an envelope. */
export const countedAccents = (
  accents: readonly Accent[],
  band: Band,
  { leastPercent }: Envelope,
): Accent[] => accents.filter((a) => a.band === band && a.strength * 100 >= leastPercent);

/**
 * The envelope of a band at instants evenly spaced from `fromS` up to `toS`: the highest of all accents' shapes,
 * each as high as its accent is strong, 1 at most.
 */
export function envelopeCurve(
  accents: readonly Accent[],
  band: Band,
  envelope: Envelope,
  fromS: number,
  toS: number,
  count: number,
): Float32Array {
  const out = new Float32Array(count);
  const step = (toS - fromS) / count;
  const { riseMs, holdMs, fallMs } = envelope;
  for (const { at, strength } of countedAccents(accents, band, envelope)) {
    const first = Math.max(0, Math.floor((at - riseMs / 1000 - fromS) / step));
    const last = Math.min(count - 1, Math.ceil((at + (holdMs + fallMs) / 1000 - fromS) / step));
    for (let i = first; i <= last; i++) {
      const level = Math.min(1, strength) * levelAfter(envelope, fromS + i * step - at);
      if (level > out[i]!) out[i] = level;
    }
  }
  return out;
}
