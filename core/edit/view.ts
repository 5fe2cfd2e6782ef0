/** The stretch of a strip that is seen, in frames; fractions are fine. */
export interface View {
  readonly from: number;
  readonly to: number;
}

/** The fewest frames a strip zooms in to. */
const LEAST = 12;

/** All of a strip of `total` frames. */
export const wholeView = (total: number): View => ({ from: 0, to: Math.max(1, total) });

/** The view moved by frames, as far as the strip goes. */
export function shiftedView(view: View, by: number, total: number): View {
  const held = Math.max(-view.from, Math.min(by, Math.max(0, total - view.to)));
  return { from: view.from + held, to: view.to + held };
}

/** The view `factor` times as long, with what is at `around` staying where it is. */
export function zoomedView(view: View, factor: number, around: number, total: number): View {
  const length = Math.min(total, Math.max(Math.min(LEAST, total), (view.to - view.from) * factor));
  const from = around - ((around - view.from) * length) / (view.to - view.from);
  const held = Math.min(Math.max(0, from), Math.max(0, total - length));
  return { from: held, to: held + length };
}

/** The view kept inside a strip that became shorter. */
export function heldView(view: View, total: number): View {
  if (view.to <= total) return view;
  return zoomedView(shiftedView(view, total - view.to, total), 1, view.from, Math.max(1, total));
}

/** The view turned over like a page so that `frame` is seen, a tenth in from where it came; the same when it is. */
export function followedView(view: View, frame: number, total: number, backward: boolean): View {
  if (frame >= view.from && frame < view.to) return view;
  const length = view.to - view.from;
  const from = backward ? frame + length * 0.1 - length : frame - length * 0.1;
  const held = Math.min(Math.max(0, from), Math.max(0, total - length));
  return { from: held, to: held + length };
}
