import type { MadeKind } from '@skipback/core/sound/made/kinds';
import { colors } from '../../theme';
import type { Scale } from '../scales';

/** A made sound where it is heard: result frames, with fractions. */
export interface HeardSound {
  readonly kind: MadeKind;
  readonly from: number;
  readonly to: number;
}

type Point = readonly [share: number, height: number];
const wave = (count: number, at: (share: number) => number): Point[] =>
  Array.from({ length: count + 1 }, (_, i) => [i / count, at(i / count)] as const);

/** How loud each kind is over its length, 0 to 1: the outline it is drawn with. */
const OUTLINES: Record<MadeKind, readonly Point[]> = {
  whoosh: wave(12, (s) => Math.sin(Math.PI * s) ** 1.5),
  scratch: wave(8, (s) => (Math.round(s * 8) % 2 ? 1 : 0.15)),
  spool: [
    [0, 0],
    [0.12, 0.6],
    ...wave(10, (s) => (Math.round(s * 10) % 2 ? 0.78 : 0.5)).map(([s, h]) => [0.12 + 0.76 * s, h] as const),
    [0.88, 0.6],
    [1, 0],
  ],
  thump: wave(10, (s) => (s < 0.04 ? 0 : Math.exp(-4 * s))),
  riser: [
    [0, 0],
    [0.96, 1],
    [1, 0],
  ],
  swell: wave(12, (s) => (s > 0.99 ? 0 : s ** 4)),
};

/** A kind of sound as its outline in a box of pixels. */
export function outlineOf(kind: MadeKind, left: number, right: number, top: number, bottom: number): string {
  const points = OUTLINES[kind].map(([share, height]) => {
    const x = left + share * (right - left);
    const y = bottom - height * (bottom - top);
    return `${x.toFixed(1)},${y.toFixed(1)}`;
  });
  return `M${left.toFixed(1)},${bottom} L${points.join(' L')} L${right.toFixed(1)},${bottom} Z`;
}

/** The sounds that the path makes by itself, quietly, in their lane. */
export function drawSounds(
  c: CanvasRenderingContext2D,
  sounds: readonly HeardSound[],
  resultX: Scale,
  lane: { readonly width: number; readonly top: number; readonly bottom: number },
): void {
  c.fillStyle = '#161616';
  c.fillRect(0, lane.top, lane.width, lane.bottom - lane.top);
  c.fillStyle = colors.faint;
  c.globalAlpha = 0.55;
  for (const { kind, from, to } of sounds) {
    const left = resultX(from);
    const right = Math.max(left + 4, resultX(to));
    if (right < 0 || left > lane.width) continue;
    c.fill(new Path2D(outlineOf(kind, left, right, lane.top + 3, lane.bottom - 2)));
  }
  c.globalAlpha = 1;
}
