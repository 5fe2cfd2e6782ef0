import { traceThread } from './threads/draw-threads';
import type { WeaveScene } from './scene';

/** Where the eye is: a source frame, a result frame, and the result frames that show that source frame. */
export interface EyeAt {
  readonly sourceFrame?: number;
  readonly resultFrame?: number;
  readonly alsoAt?: readonly number[];
}

/** What moves while it plays: the playhead, and the white thread to the source frame shown. */
export function drawPlayhead(
  c: CanvasRenderingContext2D,
  { layout, sourceX, resultX }: WeaveScene,
  at: EyeAt,
  faint: boolean,
): void {
  c.strokeStyle = '#ffffff';
  c.fillStyle = '#ffffff';
  c.globalAlpha = faint ? 0.6 : 1;
  c.lineWidth = 1.5;
  const sx = at.sourceFrame === undefined ? undefined : sourceX(at.sourceFrame);
  const rx = at.resultFrame === undefined ? undefined : resultX(at.resultFrame);
  c.beginPath();
  if (sx !== undefined) {
    c.moveTo(sx, layout.rulerBottom);
    c.lineTo(sx, layout.sourceBottom);
  }
  if (rx !== undefined) {
    // A thread to a place that is not in sight would lie along the strip's edge.
    if (sx !== undefined && rx > -40 && rx < layout.width + 40)
      traceThread(c, sx, rx, layout.sourceBottom, layout.resultTop, true);
    c.moveTo(rx, layout.resultTop);
    c.lineTo(rx, layout.height - 2);
  }
  c.stroke();
  if (sx !== undefined)
    for (const r of at.alsoAt ?? []) {
      const x = resultX(r + 0.5);
      c.globalAlpha = 0.55;
      c.lineWidth = 1;
      c.beginPath();
      traceThread(c, sx, x, layout.sourceBottom, layout.resultTop, true);
      c.stroke();
      c.fillRect(x - 1, layout.resultTop, 2, layout.resultBottom - layout.resultTop);
    }
  if (rx !== undefined && !faint) {
    c.beginPath();
    c.moveTo(rx - 6, layout.resultTop - 5);
    c.lineTo(rx + 6, layout.resultTop - 5);
    c.lineTo(rx, layout.resultTop + 4);
    c.fill();
  }
  c.globalAlpha = 1;
}

/** Height, 0 to 1, between the strips; outside of them undefined. */
export function heightBetween(layout: WeaveScene['layout'], y: number): number | undefined {
  const v = (y - layout.sourceBottom) / (layout.resultTop - layout.sourceBottom);
  return v >= 0 && v <= 1 ? v : undefined;
}
