import { WEAK } from '@skipback/core/gather/gathers';
import { percentText } from '@skipback/core/time/entry';
import { colors, mono } from '../theme';
import { drawRuler, secondsText } from './draw-ruler';
import type { Ribbon } from './threads/ribbons';
import { type WeaveScene, colorOf, visibleRibbons } from './scene';

/** What will play, segment by segment, with its joins, its skips and its ruler. */
export function drawResultStrip(c: CanvasRenderingContext2D, scene: WeaveScene): void {
  const { layout, resultX, ribbons, rateHz } = scene;
  const top = layout.resultTop;
  const height = layout.resultBottom - top;
  const seen = visibleRibbons(ribbons, resultX.invert(0), resultX.invert(layout.width));
  c.fillStyle = colors.panel;
  c.fillRect(0, top, layout.width, height);
  if (seen.length > layout.width / NARROW) drawDense(c, scene, seen, top, height);
  else for (const r of seen) drawSegment(c, scene, r, top, height);
  c.globalAlpha = 1;
  c.fillStyle = colors.ink;
  for (const r of seen)
    if (r.index === 0 && r.resultFrom > 0) c.fillRect(resultX(r.resultFrom) - 1.5, top - 4, 2, height + 4);
  drawDissolves(c, scene, top, height);
  drawFrameLines(c, scene, top, height);
  if (scene.selected) outline(c, scene, scene.selected, top, height);
  for (const at of scene.doubled) drawDoubled(c, resultX(at), top);
  for (const { at } of scene.skips) drawSkip(c, resultX(at), top, height);
  drawReady(c, scene, top);
  drawLost(c, scene, top, height);
  if (scene.range) drawRange(c, scene);
  if (scene.totalFrames > 0)
    drawRuler(c, {
      scale: resultX,
      width: layout.width,
      frames: scene.totalFrames,
      y: layout.resultBottom + 4,
      side: 1,
      unit: Math.round(rateHz),
      label: (n) => secondsText(n, rateHz),
    });
}

/** Pixels a segment has on the mean below which single ones are not told apart. */
const NARROW = 3;

/** Far out: for each few pixels the share that runs forward above, backward below, holds between. */
function drawDense(
  c: CanvasRenderingContext2D,
  { resultX, pieceId, layout }: WeaveScene,
  ribbons: readonly Ribbon[],
  top: number,
  height: number,
): void {
  let i = 0;
  for (let x = Math.max(0, Math.floor(resultX(ribbons[0]!.resultFrom))); x < layout.width; x += NARROW) {
    const [from, to] = [resultX.invert(x), resultX.invert(x + NARROW)];
    const share = { forward: 0, backward: 0, hold: 0 };
    let quiet = false;
    while (i > 0 && ribbons[Math.min(i, ribbons.length - 1)]!.resultFrom > from) i--;
    for (; i < ribbons.length && ribbons[i]!.resultFrom < to; i++) {
      const r = ribbons[i]!;
      const frames = Math.min(to, r.resultTo) - Math.max(from, r.resultFrom);
      if (frames <= 0) continue;
      share[r.kind === 'hold' ? 'hold' : r.speed < 0 ? 'backward' : 'forward'] += frames;
      quiet = pieceId !== null && r.pieceId !== pieceId;
      if (r.resultTo > to) break;
    }
    c.globalAlpha = quiet ? 0.25 : 0.5;
    let y = top;
    for (const [way, color] of DENSE) {
      const part = (height * share[way]) / (to - from);
      c.fillStyle = color;
      c.fillRect(x, y, NARROW, part);
      y += part;
    }
  }
  c.globalAlpha = 1;
}

const DENSE = [
  ['forward', colors.forward],
  ['hold', colors.hold],
  ['backward', colors.backward],
] as const;

function drawSegment(
  c: CanvasRenderingContext2D,
  scene: WeaveScene,
  r: Ribbon,
  top: number,
  height: number,
): void {
  const x0 = scene.resultX(r.resultFrom);
  const full = scene.resultX(r.resultTo) - x0;
  const width = Math.max(1, full > 4 ? full - 1 : full);
  const color = colorOf(r);
  const quiet = scene.pieceId !== null && r.pieceId !== scene.pieceId ? 0.5 : 1;
  c.globalAlpha = (r === scene.hovered || r === scene.selected ? 0.62 : 0.34) * quiet;
  c.fillStyle = color;
  c.fillRect(x0, top, width, height);
  c.globalAlpha = quiet;
  if (r.speed < 0 && width >= 4) drawHatch(c, x0, top, width, height, color);
  drawSegmentLabel(c, r, x0, top, width, height, scene.layout.width);
  c.globalAlpha = 1;
}

/** Close up, every frame has its own line. */
function drawFrameLines(c: CanvasRenderingContext2D, scene: WeaveScene, top: number, height: number): void {
  const { resultX, layout, totalFrames } = scene;
  if (resultX(1) - resultX(0) < 10) return;
  c.strokeStyle = 'rgba(18,18,18,0.55)';
  c.lineWidth = 1;
  c.beginPath();
  const end = Math.min(totalFrames, Math.ceil(resultX.invert(layout.width)));
  for (let n = Math.max(0, Math.floor(resultX.invert(0))); n < end; n++) {
    const x = Math.round(resultX(n)) + 0.5;
    c.moveTo(x, top + height - 8);
    c.lineTo(x, top + height);
  }
  c.stroke();
}

function outline(
  c: CanvasRenderingContext2D,
  scene: WeaveScene,
  r: Ribbon,
  top: number,
  height: number,
): void {
  const x0 = scene.resultX(r.resultFrom);
  const x1 = scene.resultX(r.resultTo);
  c.strokeStyle = colors.ink;
  c.lineWidth = 2;
  c.strokeRect(x0 + 1, top + 1, Math.max(2, x1 - x0 - 3), height - 2);
}

/** A thin line over what has its looks drawn already, so that it plays whatever they cost. */
function drawReady(c: CanvasRenderingContext2D, { ready, resultX }: WeaveScene, top: number): void {
  if (!ready) return;
  c.fillStyle = colors.good;
  for (const [first, end] of ready) c.fillRect(resultX(first), top - 3, resultX(end) - resultX(first), 2);
}

/** Where pieces run into each other: a darker stretch that one line falls and the other rises through. */
function drawDissolves(
  c: CanvasRenderingContext2D,
  { dissolves, resultX, layout }: WeaveScene,
  top: number,
  height: number,
): void {
  for (const { first, end } of dissolves) {
    const [x0, x1] = [resultX(first), resultX(end)];
    if (x1 < 0 || x0 > layout.width) continue;
    c.fillStyle = 'rgba(18,18,18,0.45)';
    c.fillRect(x0, top, x1 - x0, height);
    c.strokeStyle = colors.ink;
    c.lineWidth = 1.25;
    c.beginPath();
    c.moveTo(x0, top + 1);
    c.lineTo(x1, top + height - 1);
    c.moveTo(x0, top + height - 1);
    c.lineTo(x1, top + 1);
    c.stroke();
  }
}

/** Part of what moves at which a bar of lost motion is as high as it gets. */
const MOST_LOST = 0.3;

/** From the strip's foot, a bar a frame: the part of what moves in its picture whose motion was lost. */
function drawLost(
  c: CanvasRenderingContext2D,
  { lost, resultX, layout }: WeaveScene,
  top: number,
  height: number,
): void {
  c.fillStyle = colors.attention;
  for (const [at, share] of lost) {
    const x = resultX(at);
    if (x > layout.width || resultX(at + 1) < 0) continue;
    const high = Math.max(1, (height - 8) * Math.min(1, share / MOST_LOST));
    c.globalAlpha = share < WEAK ? 0.55 : 1;
    c.fillRect(x, top + height - high, Math.max(1, resultX(at + 1) - x - 0.5), high);
  }
  c.globalAlpha = 1;
}

/** A bracket under the stretch that playing keeps to. */
function drawRange(c: CanvasRenderingContext2D, { range, resultX, layout }: WeaveScene): void {
  const y = layout.resultBottom + 1.5;
  c.strokeStyle = colors.good;
  c.lineWidth = 3;
  c.beginPath();
  c.moveTo(resultX(range!.first), y);
  c.lineTo(resultX(range!.end), y);
  c.stroke();
}

function drawHatch(
  c: CanvasRenderingContext2D,
  x: number,
  y: number,
  width: number,
  height: number,
  color: string,
): void {
  c.save();
  c.beginPath();
  c.rect(x, y, width, height);
  c.clip();
  c.strokeStyle = color;
  c.globalAlpha *= 0.5;
  c.lineWidth = 1;
  c.beginPath();
  const end = Math.min(x + width, c.canvas.width);
  for (let d = Math.floor((Math.max(-height, x) - height) / 7) * 7; d < end; d += 7) {
    c.moveTo(d, y + height);
    c.lineTo(d + height, y);
  }
  c.stroke();
  c.restore();
}

function drawSegmentLabel(
  c: CanvasRenderingContext2D,
  r: Ribbon,
  x: number,
  y: number,
  width: number,
  height: number,
  room: number,
): void {
  const left = Math.max(0, x);
  const seen = Math.min(room, x + width) - left;
  if (seen < 26) return;
  const arrow = r.kind === 'hold' ? '=' : r.speed < 0 ? '‹' : '›';
  const speed =
    r.kind === 'hold'
      ? 'hold'
      : r.kind === 'ramp'
        ? `${percentText(Math.abs(r.speedAtResult(r.resultFrom)) * 100)} to ${percentText(Math.abs(r.speedAtResult(r.resultTo)) * 100)}`
        : percentText(Math.abs(r.speed) * 100);
  c.font = `500 12px ${mono}`;
  const long = `${arrow} ${speed}`;
  const text = seen < c.measureText(long).width + 26 ? arrow : long;
  c.textBaseline = 'middle';
  const textWidth = c.measureText(text).width;
  c.fillStyle = 'rgba(18,18,18,0.78)';
  c.beginPath();
  c.roundRect(left + 5, y + 7, textWidth + 10, height - 14, 4);
  c.fill();
  c.fillStyle = colorOf(r);
  c.fillText(text, left + 10, y + height / 2 + 0.5);
}

function drawSkip(c: CanvasRenderingContext2D, x: number, top: number, height: number): void {
  c.fillStyle = colors.attention;
  c.beginPath();
  c.moveTo(x - 6, top - 7);
  c.lineTo(x + 6, top - 7);
  c.lineTo(x, top + 3);
  c.closePath();
  c.fill();
  c.fillRect(x - 0.75, top, 1.5, height);
}

/** A turn that rests on its frame: two small bars over the strip. */
function drawDoubled(c: CanvasRenderingContext2D, x: number, top: number): void {
  c.fillStyle = colors.quiet;
  c.fillRect(x - 3, top - 7, 2, 6);
  c.fillRect(x + 1, top - 7, 2, 6);
}
