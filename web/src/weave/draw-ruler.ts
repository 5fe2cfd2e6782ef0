import { colors, mono } from '../theme';
import { type Scale, tickStep } from './scales';

export interface Ruler {
  readonly scale: Scale;
  readonly width: number;
  /** Frames of the strip. */
  readonly frames: number;
  readonly y: number;
  /** 1 stands under its strip, -1 over it. */
  readonly side: 1 | -1;
  /** Frames that make one of what is labelled. */
  readonly unit: number;
  label(frame: number): string;
  /** Pixels that other things cover, left and right ends; no label stands there. */
  readonly covered?: readonly (readonly [number, number])[];
}

/** Pixels a frame must have for its own tick. */
const FRAME_TICKS_FROM = 7;

/** Ticks and labels along a strip, as dense as there is room. */
export function drawRuler(c: CanvasRenderingContext2D, ruler: Ruler): void {
  const { scale, width, frames, y, side, unit } = ruler;
  const perFrame = scale(1) - scale(0);
  const step = stepOf(1 / perFrame, unit);
  c.font = `400 11px ${mono}`;
  c.textBaseline = side === 1 ? 'top' : 'alphabetic';
  c.lineWidth = 1;
  if (perFrame >= FRAME_TICKS_FROM) {
    c.strokeStyle = colors.line;
    c.beginPath();
    const end = Math.min(frames, Math.ceil(scale.invert(width)));
    for (let n = Math.max(0, Math.floor(scale.invert(0))); n <= end; n++) {
      const x = Math.round(scale(n)) + 0.5;
      c.moveTo(x, y + (side === 1 ? -4 : 4));
      c.lineTo(x, y + (side === 1 ? -1 : 7));
    }
    c.stroke();
  }
  c.strokeStyle = colors.faint;
  c.fillStyle = colors.faint;
  for (
    let i = Math.max(0, Math.ceil(scale.invert(0) / step));
    i * step <= frames && scale(i * step) < width;
    i++
  ) {
    const x = Math.round(scale(i * step)) + 0.5;
    c.beginPath();
    c.moveTo(x, y + (side === 1 ? -4 : 1));
    c.lineTo(x, y + (side === 1 ? 2 : 6));
    c.stroke();
    const text = ruler.label(i * step);
    const end = x + 4 + c.measureText(text).width;
    if (end > width || ruler.covered?.some(([left, right]) => x < right && end > left)) continue;
    c.fillText(text, x + 4, side === 1 ? y : y + 1);
  }
}

/** Frames between labels: round in units where they are far apart, whole frames close up. */
function stepOf(framesPerPixel: number, unit: number): number {
  const least = framesPerPixel * 80;
  if (unit === 1 || least >= unit) return tickStep(framesPerPixel / unit, 80) * unit;
  const parts = [1, 2, 5, 10, 15, 20, 30].filter((s) => s < unit && unit % s === 0);
  return parts.find((s) => s >= least) ?? unit;
}

/** A result frame as seconds and, between them, frames. */
export function secondsText(frame: number, rateHz: number): string {
  const unit = Math.round(rateHz);
  if (frame % unit === 0) return `${frame / unit} s`;
  return `${Math.floor(frame / unit)} s ${frame % unit} f`;
}
