import type { PreviewStats } from '@skipback/media/preview/messages';
import { create } from 'zustand';

/** Where the eye is: what the picture shows and whether it moves. Nothing of this is part of the project. */
interface Playback {
  /** Whether the picture shows the result or scrubs the source. */
  readonly showing: 'result' | 'source';
  /** Result frame under the playhead. */
  readonly position: number;
  /** Clip and frame when scrubbing the source. */
  readonly sourceFrame: number;
  /** Result frames a step while playing, negative backward; 0 when still. */
  readonly step: number;
  readonly loops: boolean;
  readonly pieceId: string | null;
  readonly stepId: string | null;
  readonly stats: PreviewStats | null;
  readonly showStats: boolean;
  readonly trouble: string | null;
}

const fresh: Playback = {
  showing: 'result',
  position: 0,
  sourceFrame: 0,
  step: 0,
  loops: true,
  pieceId: null,
  stepId: null,
  stats: null,
  showStats: false,
  trouble: null,
};

export const usePlayback = create<Playback>(() => fresh);

export const resetPlayback = (): void => usePlayback.setState(fresh, true);
export const setPlayback = (change: Partial<Playback>): void => usePlayback.setState(change);
