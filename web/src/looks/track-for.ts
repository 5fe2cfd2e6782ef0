import type { LookPlace } from '@skipback/core/project/look-actions';
import { frame } from '@skipback/core/time/units';
import { editOnPicture } from '../state/on-picture';
import { transport } from '../state/transport';

/** Begins to choose a point to track on the picture; a region of a look is put on it then. */
export function chooseOn(of: {
  readonly clipId: string;
  readonly where: LookPlace;
  readonly lookId: string;
  /** The frame of the clip at which it is chosen. */
  readonly frame: number;
}): void {
  transport.seekSource(of.clipId, frame(of.frame));
  editOnPicture({
    kind: 'new-track',
    clipId: of.clipId,
    trackKind: 'point',
    carries: { where: of.where, lookId: of.lookId },
  });
}
