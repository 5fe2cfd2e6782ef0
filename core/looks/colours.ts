import { z } from 'zod';
import type { Rgb } from '../pixels/surface';

/** A colour as it is stored: #rrggbb. */
export const ColourSchema = z.string().regex(/^#[0-9a-f]{6}$/i);

export function rgbOf(colour: string): Rgb {
  const n = Number.parseInt(colour.slice(1), 16);
  return [n >> 16, (n >> 8) & 255, n & 255];
}

/** A table of 256 from a function of 0 to 1, rounded and clamped. */
export const tableOf = (f: (x: number) => number): Uint8Array =>
  Uint8Array.from({ length: 256 }, (_, i) => Math.round(255 * Math.min(1, Math.max(0, f(i / 255)))));

/** Shares of red, green and blue in brightness (BT.709). */
export const LUMA = [0.2126, 0.7152, 0.0722] as const;
export const GREY = [LUMA, LUMA, LUMA] as const;
