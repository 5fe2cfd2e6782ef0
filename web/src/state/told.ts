import type { Flashing } from '@skipback/core/looks/flashing';
import type { SeamLooks } from '@skipback/media/import/seam';
import type { MotionReady, PreviewStats, Spans } from '@skipback/media/preview/messages';
import { create } from 'zustand';

/** What the picture said of itself. */
interface ToldStats extends PreviewStats {
  /** When, milliseconds of the page's clock. */
  readonly at: number;
  /** How far the sound was off then. */
  readonly soundOff: { readonly nowMs: number; readonly worstMs: number } | undefined;
}

/** What workers told of the result and its picture. */
export interface Told {
  /** Result frames whose looks are drawn already; null where there are none to draw. */
  readonly ready: Spans | null;
  /** How far pictures along the motion are, and where it was not trusted; null where there are none. */
  readonly motion: MotionReady | null;
  /** The picture as each treatment would show it, by their ids. */
  readonly tried: Readonly<Record<string, ImageBitmap>>;
  /** What looks draw on the last frame and on the first, where that is not the same. */
  readonly ends: SeamLooks | undefined;
  /** Where the result flashes fast, if it does. */
  readonly flashing: Flashing | null;
  readonly stats: ToldStats | null;
  readonly trouble: string | null;
  /** Whether the picture shows another frame until the one asked for is decoded. */
  readonly standsIn: boolean;
  /** Whether a frame of the result was on the screen since the project was opened. */
  readonly seen: boolean;
  /** Counts the pictures that were begun, each with a worker and a canvas of its own. */
  readonly picture: number;
}

export const UNTOLD: Told = {
  ready: null,
  motion: null,
  tried: {},
  ends: undefined,
  flashing: null,
  stats: null,
  trouble: null,
  standsIn: false,
  seen: false,
  picture: 0,
};

export const useTold = create<Told>(() => UNTOLD);
export const setTold = (change: Partial<Told>): void => useTold.setState(change);
