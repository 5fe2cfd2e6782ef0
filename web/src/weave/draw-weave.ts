import type { ThumbnailSheet } from '@skipback/media/import/messages';
import { percentText } from '@skipback/core/time/entry';
import { colors, mono } from '../theme';
import type { Ribbon } from './ribbons';
import { type Scale, tickStep } from './scales';

/** Heights of the weave's parts, CSS pixels from its top. */
export interface WeaveLayout {
  readonly width: number;
  readonly height: number;
  readonly rulerBottom: number;
  readonly sourceBottom: number;
  readonly resultTop: number;
  readonly resultBottom: number;
}

export function layoutFor(width: number, height: number): WeaveLayout {
  const rulerBottom = 24;
  const sourceBottom = rulerBottom + 56;
  const resultBottom = height - 24;
  return { width, height, rulerBottom, sourceBottom, resultTop: resultBottom - 32, resultBottom };
}

export interface WeaveScene {
  readonly layout: WeaveLayout;
  readonly sourceX: Scale;
  readonly resultX: Scale;
  readonly ribbons: readonly Ribbon[];
  /** Only ribbons of the clip on the source strip have a place there. */
  readonly clipId: string | undefined;
  readonly clipFrames: number;
  readonly span: { readonly in: number; readonly out: number } | undefined;
  readonly thumbnails: (ThumbnailSheet & { bitmap: ImageBitmap }) | undefined;
  readonly pieceId: string | null;
  readonly hovered: Ribbon | undefined;
  readonly rateHz: number;
  /** Result frames at which a skip is. */
  readonly skips: readonly number[];
  /** How often each frame of the clip is shown in the result. */
  readonly uses: Uint32Array;
  /** Pixels along the source ruler that flags cover, left and right ends. */
  readonly covered: readonly (readonly [number, number])[];
}

const COLOR = {
  forward: colors.forward,
  ramp: colors.forward,
  backward: colors.backward,
  hold: colors.hold,
} as const;
const colorOf = (r: Ribbon) => (r.kind === 'ramp' && r.speed < 0 ? colors.backward : COLOR[r.kind]);

/** Draws everything of the weave that stands still while it plays. */
export function drawWeave(c: CanvasRenderingContext2D, scene: WeaveScene): void {
  c.clearRect(0, 0, scene.layout.width, scene.layout.height);
  drawSourceStrip(c, scene);
  drawThreads(c, scene);
  drawResultStrip(c, scene);
}

function drawSourceStrip(c: CanvasRenderingContext2D, scene: WeaveScene): void {
  const { layout, sourceX, thumbnails, clipFrames, span } = scene;
  const top = layout.rulerBottom;
  const height = layout.sourceBottom - top;
  c.fillStyle = colors.panel;
  c.fillRect(0, top, layout.width, height);
  if (clipFrames === 0) return;
  drawRuler(
    c,
    sourceX,
    layout.width,
    clipFrames,
    layout.rulerBottom - 6,
    (n) => String(n),
    -1,
    1,
    scene.covered,
  );
  c.save();
  c.beginPath();
  c.rect(
    Math.max(0, sourceX(0)),
    top,
    Math.min(layout.width, sourceX(clipFrames)) - Math.max(0, sourceX(0)),
    height,
  );
  c.clip();
  if (thumbnails) drawThumbnails(c, scene, thumbnails, top, height);
  if (span) {
    c.fillStyle = 'rgba(18,18,18,0.68)';
    c.fillRect(0, top, sourceX(span.in), height);
    c.fillRect(sourceX(span.out), top, layout.width, height);
  }
  drawHeat(c, scene);
  c.restore();
}

/** A line along the foot of the source strip, brighter where frames are shown more often. */
function drawHeat(c: CanvasRenderingContext2D, { layout, sourceX, uses }: WeaveScene): void {
  const most = uses.reduce((a, b) => Math.max(a, b), 0);
  if (most === 0) return;
  c.fillStyle = colors.forward;
  for (let x = Math.max(0, Math.floor(sourceX(0))); x < Math.min(layout.width, sourceX(uses.length)); x++) {
    const first = Math.max(0, Math.floor(sourceX.invert(x)));
    const end = Math.max(first + 1, Math.floor(sourceX.invert(x + 1)));
    let here = 0;
    for (let n = first; n < Math.min(end, uses.length); n++) here = Math.max(here, uses[n]!);
    if (here === 0) continue;
    c.globalAlpha = 0.3 + (0.7 * here) / most;
    c.fillRect(x, layout.sourceBottom - 4, 1, 4);
  }
  c.globalAlpha = 1;
}

function drawThumbnails(
  c: CanvasRenderingContext2D,
  { sourceX, layout, clipFrames }: WeaveScene,
  sheet: ThumbnailSheet & { bitmap: ImageBitmap },
  top: number,
  height: number,
): void {
  const cell = (height * sheet.cellWidth) / sheet.cellHeight;
  const first = Math.max(0, sourceX(0));
  const end = Math.min(layout.width, sourceX(clipFrames));
  let place = 0;
  for (let x = first; x < end; x += cell) {
    const middle = sourceX.invert(Math.min(end, x + cell / 2));
    while (place + 1 < sheet.frames.length && sheet.frames[place + 1]! <= middle) place++;
    const sx = (place % sheet.columns) * sheet.cellWidth;
    const sy = Math.floor(place / sheet.columns) * sheet.cellHeight;
    c.drawImage(sheet.bitmap, sx, sy, sheet.cellWidth, sheet.cellHeight, x, top, cell, height);
  }
}

/** Traces one thread from the source strip to the result strip. */
export function traceThread(
  path: CanvasPath,
  fromX: number,
  toX: number,
  top: number,
  bottom: number,
  moves: boolean,
): void {
  const middle = (top + bottom) / 2;
  if (moves) path.moveTo(fromX, top);
  path.bezierCurveTo(fromX, middle, toX, middle, toX, bottom);
}

function drawThreads(c: CanvasRenderingContext2D, scene: WeaveScene): void {
  const { layout, sourceX, resultX, ribbons, hovered } = scene;
  const top = layout.sourceBottom;
  const bottom = layout.resultTop;
  const mine = ribbons.filter((r) => r.clipId === scene.clipId);
  const fill = Math.min(0.26, 0.09 + 1 / (4 + 2 * mine.length));
  c.save();
  c.beginPath();
  c.rect(0, top, layout.width, bottom - top);
  c.clip();
  for (const r of mine) {
    const lit = r === hovered;
    const quiet = scene.pieceId !== null && r.pieceId !== scene.pieceId;
    const color = colorOf(r);
    const [s0, s1] = [sourceX(r.sourceFrom), sourceX(r.sourceTo)];
    const [x0, x1] = [resultX(r.resultFrom), resultX(r.resultTo)];
    const ribbon = new Path2D();
    ribbon.moveTo(s0, top);
    traceThread(ribbon, s0, x0, top, bottom, false);
    ribbon.lineTo(x1, bottom);
    const middle = (top + bottom) / 2;
    ribbon.bezierCurveTo(x1, middle, s1, middle, s1, top);
    ribbon.closePath();
    c.globalAlpha = (lit ? 0.42 : fill) * (quiet ? 0.4 : 1);
    c.fillStyle = color;
    c.fill(ribbon);
    const threads = new Path2D();
    for (const at of threadsOf(r, x1 - x0))
      traceThread(threads, sourceX(r.sourceAtResult(at)), resultX(at), top, bottom, true);
    c.globalAlpha = (lit ? 0.95 : 0.34) * (quiet ? 0.4 : 1);
    c.strokeStyle = color;
    c.lineWidth = lit ? 1.25 : 0.8;
    c.stroke(threads);
  }
  c.restore();
}

/** Result frames at which a ribbon shows a thread: its ends, and evenly between as room allows. */
function threadsOf(r: Ribbon, width: number): number[] {
  const frames = r.resultTo - r.resultFrom;
  const count = Math.max(1, Math.min(frames, Math.floor(width / 11)));
  return Array.from({ length: count + 1 }, (_, i) => r.resultFrom + (frames * i) / count);
}

function drawResultStrip(c: CanvasRenderingContext2D, scene: WeaveScene): void {
  const { layout, resultX, ribbons, hovered, rateHz } = scene;
  const top = layout.resultTop;
  const height = layout.resultBottom - top;
  c.fillStyle = colors.panel;
  c.fillRect(0, top, layout.width, height);
  for (const r of ribbons) {
    const x0 = resultX(r.resultFrom);
    const width = Math.max(1, resultX(r.resultTo) - x0 - 1);
    const color = colorOf(r);
    const quiet = scene.pieceId !== null && r.pieceId !== scene.pieceId;
    c.globalAlpha = (r === hovered ? 0.62 : 0.34) * (quiet ? 0.5 : 1);
    c.fillStyle = color;
    c.fillRect(x0, top, width, height);
    c.globalAlpha = quiet ? 0.5 : 1;
    if (r.speed < 0) drawHatch(c, x0, top, width, height, color);
    drawSegmentLabel(c, r, x0, top, width, height);
    c.globalAlpha = 1;
  }
  c.fillStyle = colors.ink;
  for (const [i, r] of ribbons.entries())
    if (i > 0 && ribbons[i - 1]!.pieceId !== r.pieceId)
      c.fillRect(resultX(r.resultFrom) - 1.5, top - 4, 2, height + 4);
  for (const at of scene.skips) drawSkip(c, resultX(at), top, height);
  const total = ribbons[ribbons.length - 1]?.resultTo ?? 0;
  if (total > 0)
    drawRuler(
      c,
      resultX,
      layout.width,
      total,
      layout.resultBottom + 4,
      (n) => secondsText(n, rateHz),
      1,
      rateHz,
    );
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
  for (let d = Math.floor((x - height) / 7) * 7; d < x + width; d += 7) {
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
): void {
  if (width < 26) return;
  const arrow = r.kind === 'hold' ? '=' : r.speed < 0 ? '‹' : '›';
  const speed = r.kind === 'hold' ? 'hold' : percentText(Math.abs(r.speed) * 100);
  const text = width < 84 ? arrow : `${arrow} ${speed}`;
  c.font = `500 12px ${mono}`;
  c.textBaseline = 'middle';
  const textWidth = c.measureText(text).width;
  c.fillStyle = 'rgba(18,18,18,0.78)';
  c.beginPath();
  c.roundRect(x + 5, y + 7, textWidth + 10, height - 14, 4);
  c.fill();
  c.fillStyle = colorOf(r);
  c.fillText(text, x + 10, y + height / 2 + 0.5);
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

function secondsText(frames: number, rateHz: number): string {
  return `${Number((frames / rateHz).toFixed(2))} s`;
}

/** Ticks and labels along a strip; `unit` frames make one of what is labelled, `side` 1 is below. */
function drawRuler(
  c: CanvasRenderingContext2D,
  scale: Scale,
  width: number,
  frames: number,
  y: number,
  label: (n: number) => string,
  side: 1 | -1,
  unit = 1,
  covered: readonly (readonly [number, number])[] = [],
): void {
  const perPixel = (scale.invert(1) - scale.invert(0)) / unit;
  const step =
    perPixel * 80 < 1 && unit > 1
      ? [0.1, 0.2, 0.5, 1].find((s) => s >= perPixel * 80)! * unit
      : tickStep(perPixel, 80) * unit;
  c.font = `400 11px ${mono}`;
  c.textBaseline = side === 1 ? 'top' : 'alphabetic';
  c.strokeStyle = colors.line;
  c.lineWidth = 1;
  const first = Math.max(0, Math.ceil(scale.invert(0) / step));
  for (let i = first; i * step <= frames && scale(i * step) < width; i++) {
    const x = Math.round(scale(i * step)) + 0.5;
    c.beginPath();
    c.moveTo(x, y + (side === 1 ? -4 : 1));
    c.lineTo(x, y + (side === 1 ? 2 : 6));
    c.stroke();
    c.fillStyle = colors.faint;
    const text = label(i * step);
    const end = x + 4 + c.measureText(text).width;
    if (end > width || covered.some(([left, right]) => x < right && end > left)) continue;
    c.fillText(text, x + 4, side === 1 ? y : y + 1);
  }
}

/** What moves while it plays: the playhead, and the white thread to the source frame shown. */
export function drawPlayhead(
  c: CanvasRenderingContext2D,
  { layout, sourceX, resultX }: WeaveScene,
  at: { readonly resultFrame?: number; readonly sourceFrame?: number },
): void {
  c.clearRect(0, 0, layout.width, layout.height);
  c.strokeStyle = '#ffffff';
  c.fillStyle = '#ffffff';
  c.lineWidth = 1.5;
  const sx = at.sourceFrame === undefined ? undefined : sourceX(at.sourceFrame);
  const rx = at.resultFrame === undefined ? undefined : resultX(at.resultFrame);
  c.beginPath();
  if (sx !== undefined) {
    c.moveTo(sx, layout.rulerBottom);
    c.lineTo(sx, layout.sourceBottom);
  }
  if (rx !== undefined) {
    if (sx !== undefined) traceThread(c, sx, rx, layout.sourceBottom, layout.resultTop, true);
    c.moveTo(rx, layout.resultTop);
    c.lineTo(rx, layout.height - 18);
  }
  c.stroke();
  if (rx === undefined) return;
  c.beginPath();
  c.moveTo(rx - 6, layout.resultTop - 5);
  c.lineTo(rx + 6, layout.resultTop - 5);
  c.lineTo(rx, layout.resultTop + 4);
  c.fill();
}

/** Height, 0 to 1, between the strips; outside of them undefined. */
export function heightBetween(layout: WeaveLayout, y: number): number | undefined {
  const v = (y - layout.sourceBottom) / (layout.resultTop - layout.sourceBottom);
  return v >= 0 && v <= 1 ? v : undefined;
}
