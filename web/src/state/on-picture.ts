import type { LookPlace } from '@skipback/core/project/look-actions';
import type { Place, TrackKind } from '@skipback/core/tracks/track';
import { create } from 'zustand';

/** What is edited on the picture; one thing at a time. */
export type Editing =
  /** A place to track is being chosen; a look whose region goes on it. */
  | {
      readonly kind: 'new-track';
      readonly clipId: string;
      readonly trackKind: TrackKind;
      readonly carries?: { readonly where: LookPlace; readonly lookId: string };
    }
  | { readonly kind: 'track'; readonly clipId: string; readonly trackId: string }
  | { readonly kind: 'region'; readonly where: LookPlace; readonly lookId: string }
  /** Where what a look draws lies. */
  | { readonly kind: 'placing'; readonly where: LookPlace; readonly lookId: string }
  /** The corners of a polygon are being pressed. */
  | { readonly kind: 'new-polygon'; readonly where: LookPlace; readonly lookId: string };

/** Something being followed: how far, and what was found so far. */
export interface UnderWay {
  readonly clipId: string;
  readonly trackId: string;
  readonly done: number;
  readonly total: number;
  readonly found: readonly { readonly frame: number; readonly place: Place }[];
}

interface OnPicture {
  readonly editing: Editing | null;
  readonly underWay: UnderWay | null;
  /** The corner of the edited polygon that is selected. */
  readonly corner: number | null;
}

const nothing: OnPicture = { editing: null, underWay: null, corner: null };

export const useOnPicture = create<OnPicture>(() => nothing);

/** Begins to edit something on the picture, or ends it. */
export const editOnPicture = (editing: Editing | null): void =>
  useOnPicture.setState({ editing, corner: null });

export const leavePicture = (): void => useOnPicture.setState({ editing: null, corner: null });
