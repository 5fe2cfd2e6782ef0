import { type TimePath, pathLength, speedUp } from '../path/path';
import { withoutTurns } from '../path/turns';

/**
 * A path played at the pace that makes it last exactly `length` frames. `paced` plays it at a pace; what it gives
 * may be a little off `before / pace` (turns shown once take or give a frame), so the pace is looked for. In a few
 * frames there may be none: then the length comes first, and the turns lie as they fall.
 */
export function atLength(paced: (pace: number) => TimePath, before: number, length: number): TimePath {
  const close = (path: TimePath) => Math.abs(pathLength(path) - length) < 1e-8;
  let path = paced(before / length);
  if (close(path)) return path;
  // Longer at the lower pace, shorter at the higher: halve what lies between.
  let low = before / length / 2;
  let high = (before / length) * 2;
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    path = paced(middle);
    if (close(path)) return path;
    if (pathLength(path) > length) low = middle;
    else high = middle;
  }
  return withoutTurns(speedUp(path, pathLength(path) / length));
}
