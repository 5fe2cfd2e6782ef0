import type { Mark } from '@skipback/core/project/schema';
import { colors, mono } from '../../theme';
import type { Ribbon } from '../threads/ribbons';
import { type Scale, tickStep } from '../scales';
import { type Thumbnails, type WeaveScene, colorOf, visibleRibbons } from '../scene';

/** The room of the curve: source time up, result time across. */
export interface Plot {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  /** Source frames to pixels; greater frames are higher. */
  readonly sourceY: Scale;
}

/** Width of the pictures along the source axis. */
export const THUMBS = 72;

/** The source axis with its pictures, the span as a band, the marks as lines. */
export function drawCurveGround(
  c: CanvasRenderingContext2D,
  scene: WeaveScene,
  plot: Plot,
  marks: readonly Mark[],
): void {
  const { sourceY, left, right, top, bottom } = plot;
  const perFrame = Math.abs(sourceY(1) - sourceY(0));
  if (scene.thumbnails) drawAxisPictures(c, scene.thumbnails, plot);
  if (scene.span) {
    c.fillStyle = 'rgba(236,233,228,0.05)';
    const y = Math.max(top, sourceY(scene.span.out));
    c.fillRect(left, y, right - left, Math.min(bottom, sourceY(scene.span.in)) - y);
  }
  c.font = `400 11px ${mono}`;
  c.textBaseline = 'middle';
  c.textAlign = 'right';
  const step = tickStep(1 / perFrame, 34);
  for (let n = Math.ceil(sourceY.invert(bottom) / step) * step; sourceY(n) >= top; n += step) {
    if (n < 0 || n > scene.clipFrames) continue;
    const y = Math.round(sourceY(n)) + 0.5;
    c.strokeStyle = colors.raised;
    c.lineWidth = 1;
    c.beginPath();
    c.moveTo(left, y);
    c.lineTo(right, y);
    c.stroke();
    c.fillStyle = colors.faint;
    if (y > top + 6 && y < bottom - 4) c.fillText(String(n + scene.firstFrame), left - 6, y);
  }
  c.textAlign = 'left';
  for (const mark of marks) {
    const y = sourceY(mark.frame + 0.5);
    if (y < top || y > bottom) continue;
    c.strokeStyle = colors.attention;
    c.globalAlpha = 0.7;
    c.setLineDash([3, 4]);
    c.beginPath();
    c.moveTo(left, y);
    c.lineTo(right, y);
    c.stroke();
    c.setLineDash([]);
    c.globalAlpha = 1;
    c.fillStyle = colors.attention;
    c.font = `600 12px "Instrument Sans Variable", sans-serif`;
    c.fillText(mark.name, right - c.measureText(mark.name).width - 4, y - 8);
  }
}

function drawAxisPictures(c: CanvasRenderingContext2D, sheet: Thumbnails, plot: Plot): void {
  const height = (THUMBS * sheet.cellHeight) / sheet.cellWidth;
  c.save();
  c.beginPath();
  c.rect(0, plot.top, THUMBS, plot.bottom - plot.top);
  c.clip();
  c.fillStyle = colors.panel;
  c.fillRect(0, plot.top, THUMBS, plot.bottom - plot.top);
  for (let y = plot.bottom - height; y > plot.top - height; y -= height) {
    const frame = plot.sourceY.invert(y + height / 2);
    let place = sheet.frames.findLastIndex((f) => f <= frame);
    place = Math.max(0, place);
    c.globalAlpha = 0.85;
    c.drawImage(
      sheet.bitmap,
      (place % sheet.columns) * sheet.cellWidth,
      Math.floor(place / sheet.columns) * sheet.cellHeight,
      sheet.cellWidth,
      sheet.cellHeight,
      0,
      y,
      THUMBS,
      height,
    );
  }
  c.restore();
  c.globalAlpha = 1;
}

/** Segments in sight from which on their lines are thin. */
const DENSE = 400;

/** The path itself: rising forward, falling backward, flat where it holds; jumps are dotted. */
export function drawCurve(c: CanvasRenderingContext2D, scene: WeaveScene, plot: Plot): void {
  const { resultX, layout } = scene;
  const { sourceY } = plot;
  const seen = visibleRibbons(scene.ribbons, resultX.invert(plot.left), resultX.invert(layout.width));
  c.save();
  c.beginPath();
  c.rect(plot.left, plot.top, plot.right - plot.left + 4, plot.bottom - plot.top);
  c.clip();
  c.lineJoin = 'round';
  const lines = new Map<string, { path: Path2D; color: string; width: number; alpha: number }>();
  let before: Ribbon | undefined;
  for (const r of seen) {
    if (r.clipId !== scene.clipId) {
      before = undefined;
      continue;
    }
    const quiet = scene.pieceId !== null && r.pieceId !== scene.pieceId;
    c.globalAlpha = quiet ? 0.35 : 1;
    if (before && before.pieceId === r.pieceId && Math.abs(before.sourceTo - r.sourceFrom) > 0.01) {
      c.strokeStyle = colors.faint;
      c.lineWidth = 1;
      c.setLineDash([2, 3]);
      c.beginPath();
      c.moveTo(resultX(r.resultFrom), sourceY(before.sourceTo));
      c.lineTo(resultX(r.resultFrom), sourceY(r.sourceFrom));
      c.stroke();
      c.setLineDash([]);
    }
    const x0 = resultX(r.resultFrom);
    const x1 = resultX(r.resultTo);
    const steps = r.kind === 'ramp' ? Math.max(2, Math.min(120, Math.ceil((x1 - x0) / 3))) : 1;
    const lit = r === scene.hovered || r === scene.selected;
    // Lines of one look are drawn together: far out there are thousands.
    const key = `${colorOf(r)} ${lit} ${quiet}`;
    let line = lines.get(key);
    if (!line)
      lines.set(
        key,
        (line = { path: new Path2D(), color: colorOf(r), width: lit ? 4 : 2.5, alpha: quiet ? 0.35 : 1 }),
      );
    line.path.moveTo(x0, sourceY(r.sourceFrom));
    for (let i = 1; i <= steps; i++) {
      const at = r.resultFrom + ((r.resultTo - r.resultFrom) * i) / steps;
      line.path.lineTo(resultX(at), sourceY(i === steps ? r.sourceTo : r.sourceAtResult(at)));
    }
    before = r;
  }
  for (const line of lines.values()) {
    c.globalAlpha = line.alpha;
    c.strokeStyle = line.color;
    c.lineWidth = seen.length > DENSE ? 1 : line.width;
    c.stroke(line.path);
  }
  c.restore();
  c.globalAlpha = 1;
}
