import type { SnapTarget } from '@skipback/core/edit/snap';
import { usePlaying } from '../state/playing';
import type { WeaveModel } from './weave-model';

/** Joins that are drawn to at most: more lie closer than a hand can tell. */
const MOST_JOINS = 400;

/** The playhead, in result frames after `start`. */
export const playheadTarget = (start = 0, words = 'playhead'): SnapTarget => ({
  value: usePlaying.getState().position - start,
  words,
});

/** Where pieces and segments meet, in result frames. */
export const joinTargets = ({ ribbons }: Pick<WeaveModel, 'ribbons'>, words = 'join'): SnapTarget[] =>
  ribbons.slice(0, MOST_JOINS).map((r) => ({ value: r.resultFrom, words }));
