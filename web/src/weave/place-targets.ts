import { type Music, frameOn } from '@skipback/core/beats/music';
import { type SnapTarget, snap } from '@skipback/core/edit/snap';
import type { Place } from '@skipback/core/places/place';
import { pathLength } from '@skipback/core/path/path';
import { type Ground, resolvePlace } from '@skipback/core/places/resolve';
import { markText } from '@skipback/core/places/words';
import type { CompiledPiece } from '@skipback/core/project/compile';
import { framesBefore } from '@skipback/core/time/units';
import { usePlaying } from '../state/playing';

/** Something a dragged place is drawn to, and what it becomes there; a plain frame where that is not said. */
export interface PlaceTarget extends SnapTarget {
  readonly place?: Place;
}

/**
 * What a place of a piece is drawn to: the playhead, marks each time they are shown, beats, accents strong enough to
 * count. Values are frames of the piece's result.
 */
export function placeTargets(piece: CompiledPiece, startFrame: number): PlaceTarget[] {
  const { path, table, clip, music, shown } = piece;
  const { position, showing } = usePlaying.getState();
  const at = position - startFrame;
  const playhead =
    showing === 'source' || at < 0 || at > shown.length ? [] : [{ value: at, words: 'playhead' }];
  return [...targetsOn({ path, table, marks: clip.marks, music }), ...playhead];
}

/** The same for a place on any path, in frames of that; without the playhead, which is elsewhere. */
export function targetsOn(ground: Ground): PlaceTarget[] {
  const { path, music } = ground;
  const length = pathLength(path);
  const inside = ({ value }: SnapTarget) => value >= 0 && value <= length;
  const marks = ground.marks.flatMap((mark) => {
    const { at, said } = resolvePlace({ mark: mark.id, showing: 'every' }, ground);
    if (said) return [];
    return at.map((position, i): PlaceTarget => {
      const place: Place = i === 0 ? { mark: mark.id } : { mark: mark.id, showing: i + 1 };
      return { value: framesBefore(position), words: markText(mark.name), place };
    });
  });
  const beats = beatTargets(music);
  // The first of equals wins: a mark on a beat is the mark.
  return [...marks, ...beats].filter(inside);
}

/** The beats of the song, as places. */
export const beatTargets = (
  music: Music | undefined,
): (SnapTarget & { readonly place: { beat: number } })[] =>
  (music?.beats ?? []).map((beat, i) => ({
    value: frameOn(beat, music),
    words: `beat ${i + 1}`,
    place: { beat: i + 1 },
  }));

/** A place dragged to a frame of the piece's result: drawn to what is near, it becomes that. */
export function snappedPlace(
  wanted: number,
  targets: readonly PlaceTarget[],
  reach: number,
): { readonly place: Place; readonly frame: number; readonly words: string | undefined } {
  const { value, words } = snap(wanted, targets, reach);
  const frame = Math.max(0, Math.round(value));
  const target =
    words === undefined ? undefined : targets.find((t) => t.value === value && t.words === words);
  return { place: target?.place ?? frame, frame, words };
}
