declare const unit: unique symbol;

/** A whole number of frames, or a frame's index. Of what (a clip, the result) the name says. */
export type Frame = number & { readonly [unit]: 'frame' };

/** Seconds, as a double: sub-frame exact over any length a file can have. */
export type Seconds = number & { readonly [unit]: 'seconds' };

/** Slack, in frames, for what arithmetic leaves of a length that is meant to be exact. */
const LEFT_OVER = 1e-6;

/** Marks a plain number as frames. Throws when it is not whole: that is a bug, not a user's mistake. */
export function frame(value: number): Frame {
  if (!Number.isSafeInteger(value)) throw new RangeError(`not a whole frame: ${value}`);
  return value as Frame;
}

/** The whole frame that holds a place along something `count` frames long; outside of it, its first or last. */
export function frameWithin(at: number, count: number): Frame {
  return frame(Math.max(0, Math.min(count - 1, Math.floor(at + LEFT_OVER))) || 0);
}

/** Marks a plain number as seconds. Throws when it is not finite. */
export function seconds(value: number): Seconds {
  if (!Number.isFinite(value)) throw new RangeError(`not seconds: ${value}`);
  return value as Seconds;
}

/** How many frames' middles lie before result position `at`. */
export function framesBefore(at: number): Frame {
  return frame(Math.max(0, Math.ceil(at - 0.5 - LEFT_OVER)));
}

/** How many frames a length shows: the middles inside it, at least one. 30.5 shows 30, 30.6 shows 31. */
export function framesIn(length: number): Frame {
  return frame(Math.max(1, framesBefore(length)));
}

/**
 * The nearest whole number, halves up, for what people type and read.
 * A billionth of slack keeps 30.499999999999996, meant as 30.5, from going down.
 */
export function roundHalfUp(value: number): number {
  return Math.floor(value + 0.5 + 1e-9);
}
