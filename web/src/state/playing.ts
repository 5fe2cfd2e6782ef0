import { type Frame, frame } from '@skipback/core/time/units';
import { create } from 'zustand';

export type Peek =
  | { readonly kind: 'source'; readonly clipId: string; readonly frame: Frame }
  | { readonly kind: 'result'; readonly position: Frame };

/** Where the eye is, whether it moves, and how playing goes. Nothing of this is part of the project. */
export interface Playing {
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
  /** What the pointer rests on, shown in the picture for that long. */
  readonly peek: Peek | null;
  /** What is tried out in the picture without being in the project: its words. */
  readonly audition: string | null;
}

export const STILL: Playing = {
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
  peek: null,
  audition: null,
};

/** Frames around what is selected when playing near it begins. */
export const NEAR_FRAMES = 12;

export const usePlaying = create<Playing>(() => STILL);
export const setPlaying = (change: Partial<Playing>): void => usePlaying.setState(change);
