import { placeAt } from '@skipback/core/tracks/track';
import { colors } from '../theme';
import { drawRuler } from './draw-ruler';
import type { Thumbnails, WeaveScene } from './scene';

/** The clip along the top: ruler, thumbnails, what is outside the span dimmed, how often frames are used. */
export function drawSourceStrip(c: CanvasRenderingContext2D, scene: WeaveScene): void {
  const { layout, sourceX, thumbnails, clipFrames, span } = scene;
  const top = layout.rulerBottom;
  const height = layout.sourceBottom - top;
  c.fillStyle = colors.panel;
  c.fillRect(0, top, layout.width, height);
  if (clipFrames === 0) return;
  drawRuler(c, {
    scale: sourceX,
    width: layout.width,
    frames: clipFrames,
    y: layout.rulerBottom - 6,
    side: -1,
    unit: 1,
    label: (n) => String(n + scene.firstFrame),
    covered: scene.covered,
  });
  const left = Math.max(0, sourceX(0));
  c.save();
  c.beginPath();
  c.rect(left, top, Math.min(layout.width, sourceX(clipFrames)) - left, height);
  c.clip();
  if (thumbnails) drawThumbnails(c, scene, thumbnails, top, height);
  else {
    c.fillStyle = colors.faint;
    c.font = `400 12.5px "Instrument Sans Variable", sans-serif`;
    c.textBaseline = 'middle';
    c.fillText('Drawing the pictures of this clip', left + 12, top + height / 2);
  }
  if (span) {
    c.fillStyle = 'rgba(18,18,18,0.68)';
    c.fillRect(0, top, sourceX(span.in), height);
    c.fillRect(sourceX(span.out), top, layout.width, height);
  }
  drawHeat(c, scene);
  drawTrack(c, scene);
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

/** Sureness below which a followed place is worth a look. */
const SURE = 50;

/** Along the top of the strip where a track is known, and how surely; where it is lost nothing; its keys as dots. */
function drawTrack(c: CanvasRenderingContext2D, { layout, sourceX, track, clipFrames }: WeaveScene): void {
  if (!track) return;
  const top = layout.rulerBottom;
  const [left, right] = [Math.max(0, Math.floor(sourceX(0))), Math.min(layout.width, sourceX(clipFrames))];
  c.fillStyle = 'rgba(18,18,18,0.75)';
  c.fillRect(left, top, right - left, 7);
  for (let x = left; x < right; x++) {
    const place = placeAt(track, Math.min(clipFrames - 1, Math.max(0, Math.floor(sourceX.invert(x + 0.5)))));
    if (!place) continue;
    c.fillStyle = place.sure < SURE ? colors.attention : colors.good;
    c.fillRect(x, top + 2, 1, 3);
  }
  c.fillStyle = colors.forward;
  for (const key of track.keys) {
    c.beginPath();
    c.arc(sourceX(key.frame + 0.5), top + 3.5, 3, 0, 2 * Math.PI);
    c.fill();
  }
}

function drawThumbnails(
  c: CanvasRenderingContext2D,
  { sourceX, layout, clipFrames }: WeaveScene,
  sheet: Thumbnails,
  top: number,
  height: number,
): void {
  const cell = (height * sheet.cellWidth) / sheet.cellHeight;
  // Cells keep to the clip, not to the window, so panning moves them with it.
  const first = sourceX(0) + Math.floor((Math.max(0, sourceX(0)) - sourceX(0)) / cell) * cell;
  const end = Math.min(layout.width, sourceX(clipFrames));
  let place = 0;
  for (let x = first; x < end; x += cell) {
    const middle = sourceX.invert(x + cell / 2);
    while (place + 1 < sheet.frames.length && sheet.frames[place + 1]! <= middle) place++;
    const sx = (place % sheet.columns) * sheet.cellWidth;
    const sy = Math.floor(place / sheet.columns) * sheet.cellHeight;
    c.drawImage(sheet.bitmap, sx, sy, sheet.cellWidth, sheet.cellHeight, x, top, cell, height);
  }
}
