import type { Song } from '@skipback/core/project/schema';
import type { Scale } from '../scales';
import type { WeaveModel } from '../weave-model';

/** What lies in a lane under the result is told: the lane's place, in CSS pixels, and the result's scale. */
export interface LaneProps {
  readonly model: WeaveModel;
  readonly resultX: Scale;
  readonly top: number;
  readonly bottom: number;
  readonly width: number;
}

/** The same in the song's lane. */
export interface SongLaneProps extends LaneProps {
  readonly song: Song;
}
