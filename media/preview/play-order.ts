/** The result frames to show when playing: [first, end) from `from`, `step` at a time, once around. */
export interface PlayOrder {
  readonly positions: Int32Array;
  /** Index in `positions` to begin with. */
  readonly start: number;
}

/** Works out a play order; positions that `step` passes over are left out. `from` is brought inside. */
export function playOrder(from: number, step: number, first: number, end: number): PlayOrder {
  const size = Math.max(1, Math.abs(step));
  const count = Math.max(1, Math.ceil((end - first) / size));
  const positions = Int32Array.from({ length: count }, (_, i) =>
    step < 0 ? end - 1 - i * size : first + i * size,
  );
  const inside = Math.min(end - 1, Math.max(first, from));
  const start = Math.round((step < 0 ? end - 1 - inside : inside - first) / size);
  return { positions, start: Math.min(count - 1, start) };
}

/**
 * Source frames worth having around a still one: it, those after it, then those before it. In this order one run of
 * decoding gives them all: what lies before is passed on the way and kept.
 */
export function stillOrder(frame: number, lowest: number, highest: number, reach: number): Int32Array {
  const order = [frame];
  for (let f = frame + 1; f <= Math.min(highest, frame + reach); f++) order.push(f);
  for (let f = frame - 1; f >= Math.max(lowest, frame - reach); f--) order.push(f);
  return Int32Array.from(order);
}
