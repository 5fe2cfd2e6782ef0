import { percentText } from '@skipback/core/time/entry';
import { colors, mono } from '../../theme';
import type { Scale } from '../scales';
import { type WeaveScene, colorOf, visibleRibbons } from '../scene';

/** The room of the speed curve. */
export interface SpeedPlot {
  readonly left: number;
  readonly right: number;
  readonly top: number;
  readonly bottom: number;
  /** Percent, without direction, to pixels. */
  readonly percentY: Scale;
  readonly highest: number;
}

/** Percents worth a line, by how far the plot reaches. */
const LINES = [10, 25, 50, 100, 200, 300, 400, 600, 800, 1000, 1500, 2000, 3000];

/** Lines of percent, the clip's cleanest slow speed among them. */
export function drawSpeedGround(
  c: CanvasRenderingContext2D,
  plot: SpeedPlot,
  cleanPercent: number | undefined,
): void {
  const { percentY, left, right } = plot;
  c.font = `400 11px ${mono}`;
  c.textBaseline = 'middle';
  c.textAlign = 'right';
  let lastY = Infinity;
  for (const percent of [0, ...LINES]) {
    if (percent > plot.highest) break;
    const y = Math.round(percentY(percent)) + 0.5;
    if (lastY - y < 22) continue;
    lastY = y;
    c.strokeStyle = percent === 100 || percent === 0 ? colors.line : colors.raised;
    c.lineWidth = 1;
    c.beginPath();
    c.moveTo(left, y);
    c.lineTo(right, y);
    c.stroke();
    c.fillStyle = percent === 100 ? colors.ink : colors.faint;
    c.fillText(`${percent} %`, left - 6, y);
  }
  c.textAlign = 'left';
  if (cleanPercent === undefined || cleanPercent > plot.highest) return;
  const y = percentY(cleanPercent);
  c.strokeStyle = colors.good;
  c.setLineDash([3, 4]);
  c.beginPath();
  c.moveTo(left, y);
  c.lineTo(right, y);
  c.stroke();
  c.setLineDash([]);
  const text = `every frame once, ${percentText(cleanPercent)}`;
  c.fillStyle = colors.good;
  c.fillText(text, right - c.measureText(text).width - 4, y - 9);
}

/** Speed over the result: backward stretches hatched, holds at 0. */
export function drawSpeeds(c: CanvasRenderingContext2D, scene: WeaveScene, plot: SpeedPlot): void {
  const { resultX } = scene;
  const { percentY, left, right, top, bottom } = plot;
  c.save();
  c.beginPath();
  c.rect(left, top - 6, right - left + 2, bottom - top + 8);
  c.clip();
  for (const r of visibleRibbons(scene.ribbons, resultX.invert(left), resultX.invert(right))) {
    const x0 = resultX(r.resultFrom);
    const x1 = resultX(r.resultTo);
    const steps = r.kind === 'ramp' ? Math.max(2, Math.min(80, Math.ceil((x1 - x0) / 3))) : 1;
    const quiet = scene.pieceId !== null && r.pieceId !== scene.pieceId ? 0.35 : 1;
    const shape = new Path2D();
    const line = new Path2D();
    shape.moveTo(x0, percentY(0));
    for (let i = 0; i <= steps; i++) {
      const at = r.resultFrom + ((r.resultTo - r.resultFrom) * i) / steps;
      const y = percentY(Math.min(plot.highest * 1.05, 100 * Math.abs(r.speedAtResult(at))));
      shape.lineTo(resultX(at), y);
      if (i === 0) line.moveTo(x0, y);
      else line.lineTo(resultX(at), y);
    }
    shape.lineTo(x1, percentY(0));
    c.fillStyle = colorOf(r);
    c.globalAlpha = 0.12 * quiet;
    c.fill(shape);
    c.globalAlpha = quiet;
    if (r.speed < 0) {
      c.save();
      c.clip(shape);
      c.strokeStyle = colorOf(r);
      c.globalAlpha = 0.3 * quiet;
      c.lineWidth = 1;
      c.beginPath();
      for (
        let d = Math.floor((Math.max(left, x0) - (bottom - top)) / 8) * 8;
        d < Math.min(right, x1);
        d += 8
      ) {
        c.moveTo(d, bottom);
        c.lineTo(d + bottom - top, top);
      }
      c.stroke();
      c.restore();
    }
    c.globalAlpha = quiet;
    c.strokeStyle = colorOf(r);
    c.lineWidth = r === scene.selected ? 4 : 2.5;
    c.stroke(line);
  }
  c.restore();
  c.globalAlpha = 1;
}
