import { type Track, placeAt } from '../tracks/track';
import type { Region } from './region';

/** The track of a region that is put on whichever track there is. */
export const ANY_TRACK = 'any';

/** What a region has beside its shape and where that is, at first. */
export const freshRegion = (counts: Region['counts']) =>
  ({ feather: 24, grow: 0, inverted: false, carried: null, counts }) as const;

/**
 * An ellipse on what a track follows, which goes along with it, at a frame of the clip that is `height` pixels high. A
 * box tells how large it is; a point stands for something of about half the picture's height.
 */
export function regionOn(track: Track, frame: number, height: number): Region {
  // Where it is known: at the frame that is looked at, or the first of its own.
  const at = placeAt(track, frame) ? frame : track.keys[0]!.frame;
  const [x, y] = placeAt(track, at)?.values ?? track.keys[0]!.values;
  const [across, down] =
    track.kind === 'box' ? [track.width * 1.3, track.height * 1.3] : [height / 2.2, height / 2.2];
  return {
    ...freshRegion('clip'),
    ...{ shape: 'ellipse', keys: [{ at, ease: 'even', values: [x!, y!, across, down, 0] }] },
    carried: { track: track.id, from: at, turns: true },
  };
}
