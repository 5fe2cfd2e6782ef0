import { AT_FIRST, setOpen, useOpen } from './open';
import { STILL, setPlaying, usePlaying } from './playing';
import { NOTHING, useSelection } from './selection';
import { BEATS_AT_FIRST, useBeatsView } from './beats-view';
import { UNTOLD, setTold, useTold } from './told';
import { fitViews } from './views';

/** For another project: everything is as at first. */
export function resetBench(): void {
  usePlaying.setState(STILL, true);
  useSelection.setState(NOTHING, true);
  useOpen.setState(AT_FIRST, true);
  useTold.setState(UNTOLD, true);
  useBeatsView.setState(BEATS_AT_FIRST, true);
  fitViews();
}

/** The bench is left for another view of the project: only what its picture's worker told is over. */
export function leaveBench(): void {
  setPlaying({ step: 0, peek: null, audition: null });
  setTold({ ready: null, motion: null, stats: null, standsIn: false, trouble: null });
  setOpen({ savingRecipe: false, varies: null, byHand: false });
}
