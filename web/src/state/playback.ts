import type { SeamLooks } from '@skipback/media/import/look-closer';
import type { MotionReady, PreviewStats, Spans } from '@skipback/media/preview/messages';
import type { Flashing } from '@skipback/core/looks/flashing';
import { type Frame, frame } from '@skipback/core/time/units';
import { create } from 'zustand';

export type WeaveMode = 'threads' | 'curve' | 'speed' | 'grid';

export type Peek =
  | { readonly kind: 'source'; readonly clipId: string; readonly frame: Frame }
  | { readonly kind: 'result'; readonly position: Frame };

/** What the picture said of itself. */
interface ToldStats extends PreviewStats {
  /** When, milliseconds of the page's clock. */
  readonly at: number;
  /** How far the sound was off then. */
  readonly soundOff: { readonly nowMs: number; readonly worstMs: number } | undefined;
}

/** Where the eye is: what the picture shows and whether it moves. Nothing of this is part of the project. */
interface Playback {
  /** Whether the picture shows the result or scrubs the source. */
  readonly showing: 'result' | 'source';
  /** Result frame under the playhead. */
  readonly position: Frame;
  /** Clip and frame when scrubbing the source. */
  readonly sourceFrame: Frame;
  readonly sourceClipId: string | null;
  /** Result frames a step while playing, negative backward; 0 when still. */
  readonly step: number;
  readonly loops: boolean;
  /** 1, or 0.5 for half speed. */
  readonly pace: number;
  readonly muted: boolean;
  /** Playing keeps to the neighbourhood of what is selected, this many frames around it; null plays all. */
  readonly nearFrames: number | null;
  /** Playing keeps to these beats of the song, [from, to) by their places; it comes before `nearFrames`. */
  readonly beats: { readonly from: number; readonly to: number } | null;
  readonly pieceId: string | null;
  readonly stepId: string | null;
  /** The selected look, whose values are open. */
  readonly lookId: string | null;
  /** The look whose region and matte are seen themselves, as grey. */
  readonly greyLook: string | null;
  /** What looks draw on the last frame and on the first, where that is not the same. */
  readonly ends: SeamLooks | undefined;
  /** The value of the selected look whose driver is looked at. */
  readonly drivenKey: string | null;
  /** What was selected last, for the key of variations. */
  readonly selectedLast: 'move' | 'look';
  /** Of what the sheet of variations is open. */
  readonly varies: 'move' | 'look' | null;
  /** Where the result flashes fast, if it does. */
  readonly flashing: Flashing | null;
  /** What the left column offers. */
  readonly offered: 'moves' | 'looks' | 'recipes';
  /** Whether the sheet that saves a recipe is open. */
  readonly savingRecipe: boolean;
  /** Whether lines around what is safe to be seen lie over the picture. */
  readonly safeAreas: boolean;
  /** Result frames whose looks are drawn already; null where there are none to draw. */
  readonly ready: Spans | null;
  /** How far pictures along the motion are, and where it was not trusted; null where there are none. */
  readonly motion: MotionReady | null;
  /** The picture as each treatment would show it, by their ids. */
  readonly tried: Readonly<Record<string, ImageBitmap>>;
  /** The selected segment, by its place in the selected piece. */
  readonly segment: number | null;
  /** What the lower half shows. */
  readonly mode: WeaveMode;
  /** Whether the strips move along with the playhead. */
  readonly follows: boolean;
  /** What the pointer rests on, shown in the picture for that long. */
  readonly peek: Peek | null;
  /** What is tried out in the picture without being in the project: its words. */
  readonly audition: string | null;
  readonly stats: ToldStats | null;
  readonly showStats: boolean;
  readonly trouble: string | null;
  /** Whether the picture shows another frame until the one asked for is decoded. */
  readonly standsIn: boolean;
  /** Whether a frame of the result was on the screen since the project was opened. */
  readonly seen: boolean;
  /** Counts the pictures that were begun, each with a worker and a canvas of its own. */
  readonly picture: number;
}

const fresh: Playback = {
  showing: 'result',
  position: frame(0),
  sourceFrame: frame(0),
  sourceClipId: null,
  step: 0,
  loops: true,
  pace: 1,
  muted: false,
  nearFrames: null,
  beats: null,
  pieceId: null,
  stepId: null,
  lookId: null,
  greyLook: null,
  ends: undefined,
  drivenKey: null,
  selectedLast: 'move',
  varies: null,
  flashing: null,
  offered: 'moves',
  savingRecipe: false,
  safeAreas: false,
  ready: null,
  motion: null,
  tried: {},
  segment: null,
  mode: 'threads',
  follows: true,
  peek: null,
  audition: null,
  stats: null,
  showStats: false,
  trouble: null,
  picture: 0,
  standsIn: false,
  seen: false,
};

/** Frames around what is selected when playing near it begins. */
export const NEAR_FRAMES = 12;

export const usePlayback = create<Playback>(() => fresh);

/** For another project: everything is as at first. */
export const resetPlayback = (): void => usePlayback.setState(fresh, true);
/** The bench is left for another view of the project: only what its picture's worker told is over. */
export const leaveBench = (): void =>
  setPlayback({
    ...{ step: 0, peek: null, audition: null, ready: null, motion: null, stats: null, standsIn: false },
    ...{ trouble: null, savingRecipe: false, varies: null },
  });
export const setPlayback = (change: Partial<Playback>): void => usePlayback.setState(change);

/** Selects a piece, and one of its segments or none; one selection for the strips, the threads and the chain. */
export function selectPiece(pieceId: string | null, segment: number | null = null): void {
  const now = usePlayback.getState();
  if (now.pieceId === pieceId && now.segment === segment) return;
  setPlayback({ pieceId, segment, ...(now.pieceId !== pieceId && { stepId: null }) });
}
