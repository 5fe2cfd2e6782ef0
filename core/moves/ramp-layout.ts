import { z } from 'zod';
import type { Stretch } from '../path/warp';

const point = z.object({
  at: z.number().min(0).max(1_000_000),
  percent: z
    .number()
    .min(-3000)
    .max(3000)
    .refine((p) => p === 0 || Math.abs(p) >= 1),
});
export const rampSchema = z.object({
  points: z.array(point).min(1).max(100),
  before: z.int().min(0).max(10_000),
  after: z.int().min(0).max(10_000),
  soft: z.enum(['none', 'in', 'out', 'both']),
});
export type RampValues = z.infer<typeof rampSchema>;
export type Point = RampValues['points'][number];

/** Where an eased change of speed stands a third and two thirds through: 3x² - 2x³. */
const EASED = [7 / 27, 20 / 27] as const;

/** Where the stretches of a ramp lie in its result, in result frames with fractions. */
export interface RampLayout {
  /** One for each speed, in order; `place` is that of its point. */
  readonly plateaus: readonly { readonly place: number; readonly from: number; readonly to: number }[];
  /** One for each change: where it begins, where its point is, where it ends. */
  readonly changes: readonly {
    readonly place: number;
    readonly from: number;
    readonly at: number;
    readonly to: number;
  }[];
}

/** The layout of a ramp over `end` frames, for drawing it and taking hold of it. */
export function rampLayout(values: RampValues, end: number): RampLayout {
  const { used, stretches, size } = layOut(values, end);
  const plateaus: { place: number; from: number; to: number }[] = [];
  const changes: { place: number; from: number; at: number; to: number }[] = [];
  let time = 0;
  for (const stretch of stretches) {
    const lasts = 'time' in stretch ? stretch.time : stretch.old / stretch.from;
    if ('old' in stretch)
      plateaus.push({ place: used[plateaus.length]!.place, from: time, to: time + lasts });
    time += lasts;
  }
  for (let i = 1; i < plateaus.length; i++) {
    const { to: from } = plateaus[i - 1]!;
    const { from: to, place } = plateaus[i]!;
    changes.push({ place, from, at: Math.min(to, from + values.before * size), to });
  }
  return { plateaus, changes };
}

/** The stretches of a ramp over `end` frames, the points it uses, and how much of their width the changes get. */
export function layOut(
  { points, before, after, soft }: RampValues,
  end: number,
): { used: readonly (Point & { place: number })[]; stretches: readonly Stretch[]; size: number } {
  const used = points
    .map((p, place) => ({ ...p, place }))
    .sort((a, b) => a.at - b.at)
    .filter((p, i) => i === 0 || p.at < end);
  const paces = used.map((p) => p.percent / 100);
  const changeAt = (i: number, size: number) =>
    change(paces[i - 1]!, paces[i]!, before * size, after * size, soft);
  const size = roomFor(used, end, (i) => changeAt(i, 1));
  const stretches: Stretch[] = [];
  let at = 0;
  for (let i = 1; i < used.length; i++) {
    const { pieces, oldBefore, oldAfter } = changeAt(i, size);
    const pace = paces[i - 1]!;
    stretches.push(
      { from: pace, to: pace, old: used[i]!.at - oldBefore - at, part: 2 * i - 2 },
      ...pieces.map((p) => ({ ...p, part: 2 * i - 1 })),
    );
    at = used[i]!.at + oldAfter;
  }
  const lastPace = paces[paces.length - 1]!;
  stretches.push({ from: lastPace, to: lastPace, old: end - at, part: 2 * used.length - 2 });
  return { used, stretches, size };
}

/** A change of speed around a point: its pieces, and the old frames it covers before and after the point. */
interface Change {
  readonly pieces: readonly { from: number; to: number; time: number }[];
  readonly oldBefore: number;
  readonly oldAfter: number;
}

/** A change in one straight piece, or three that follow an ease on the soft sides. */
export function change(
  from: number,
  to: number,
  before: number,
  after: number,
  soft: RampValues['soft'],
): Change {
  const time = before + after;
  const first = soft === 'none' || soft === 'out' ? 1 / 3 : EASED[0];
  const second = soft === 'none' || soft === 'in' ? 2 / 3 : EASED[1];
  const at = (share: number) => from + (to - from) * share;
  const pieces =
    soft === 'none' || time < 6
      ? [{ from, to, time }]
      : [
          { from, to: at(first), time: time / 3 },
          { from: at(first), to: at(second), time: time / 3 },
          { from: at(second), to, time: time / 3 },
        ];
  let left = before;
  let oldBefore = 0;
  let all = 0;
  for (const piece of pieces) {
    const used = Math.min(left, piece.time);
    const reached =
      piece.time === 0 ? piece.from : piece.from + ((piece.to - piece.from) * used) / piece.time;
    oldBefore += ((piece.from + reached) / 2) * used;
    all += ((piece.from + piece.to) / 2) * piece.time;
    left -= used;
  }
  return { pieces, oldBefore, oldAfter: all - oldBefore };
}

/** How much of their width the changes have room for, 0 to 1: none may reach past half way to the next point. */
function roomFor(points: readonly Point[], end: number, changeAt: (i: number) => Change): number {
  let size = 1;
  for (let i = 1; i < points.length; i++) {
    const { oldBefore, oldAfter } = changeAt(i);
    const behind = points[i]!.at - (i === 1 ? 0 : points[i - 1]!.at);
    const ahead = (points[i + 1]?.at ?? end) - points[i]!.at;
    const roomBefore = i === 1 ? behind : behind / 2;
    const roomAfter = i === points.length - 1 ? ahead : ahead / 2;
    if (oldBefore > roomBefore) size = Math.min(size, roomBefore / oldBefore);
    if (oldAfter > roomAfter) size = Math.min(size, roomAfter / oldAfter);
  }
  return size;
}
