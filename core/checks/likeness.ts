/**
 * How alike pictures are, from small grey signatures, and where a clip could loop forward without a
 * visible join.
 */

/** Signatures of frames in a row: `size` grey values (0 to 255) each. */
export interface Signatures {
  readonly firstFrame: number;
  readonly size: number;
  readonly values: Uint8Array;
}

/** Frames the signatures cover. */
export function signatureCount(s: Signatures): number {
  return s.values.length / s.size;
}

/** Mean difference of two frames' pictures, 0 alike to 1 black against white. Indices count from the first. */
export function pictureDifference(s: Signatures, a: number, b: number): number {
  let sum = 0;
  for (let i = 0; i < s.size; i++) sum += Math.abs(s.values[a * s.size + i]! - s.values[b * s.size + i]!);
  return sum / (255 * s.size);
}

/** The middle one of the differences between neighbouring frames: what one step of this clip looks like. */
export function usualStep(s: Signatures): number {
  const steps = Array.from({ length: Math.max(0, signatureCount(s) - 1) }, (_, i) =>
    pictureDifference(s, i, i + 1),
  );
  return steps.sort((a, b) => a - b)[Math.floor(steps.length / 2)] ?? 0;
}

/** A stretch [in, out) of a clip that could loop: after its last frame its first looks like the next one. */
export interface LoopProposal {
  readonly in: number;
  readonly out: number;
  /** Difference over the join, in usual steps of the clip: about 1 is invisible. */
  readonly seam: number;
}

/**
 * The best loops of at least `least` frames, best first, at most `most` of them and no two alike. A
 * stretch loops when the frame after its end looks like its first, and the one before like its last,
 * so that motion goes on in the same direction (the idea of Schödl et al., Video Textures, 2000).
 */
export function findLoops(s: Signatures, least: number, most: number): LoopProposal[] {
  const count = signatureCount(s);
  const step = Math.max(1e-4, usualStep(s));
  const all: LoopProposal[] = [];
  for (let first = 1; first + least < count; first++)
    for (let end = first + least; end < count; end++) {
      const seam = (pictureDifference(s, first, end) + pictureDifference(s, first - 1, end - 1)) / 2;
      all.push({ in: first, out: end, seam: seam / step });
    }
  all.sort((a, b) => a.seam - b.seam || b.out - b.in - (a.out - a.in));
  const apart = Math.max(3, Math.round(least / 4));
  const chosen: LoopProposal[] = [];
  for (const loop of all) {
    if (chosen.length === most) break;
    if (chosen.every((c) => Math.abs(c.in - loop.in) + Math.abs(c.out - loop.out) >= apart))
      chosen.push(loop);
  }
  return chosen.map((l) => ({ in: l.in + s.firstFrame, out: l.out + s.firstFrame, seam: l.seam }));
}
