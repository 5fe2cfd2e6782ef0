import { type Notice, failure } from '../notice';
import { toNumber } from '../time/rational';
import { formatTimecode } from '../time/timecode';
import { frame } from '../time/units';
import { type TimePath, pathLength } from './path';

/** A result lasts no longer than this, seconds. */
export const LONGEST_S = 6 * 3600;
/** Segments a path may have: more are only ever a slip, and would take all the memory there is. */
const MOST_SEGMENTS = 500_000;

/** The sentence that refuses what would make a path too long, or of too many parts: `times` copies of it. */
export function tooMuch(path: TimePath, times = 1): Notice | undefined {
  const length = pathLength(path) * times;
  if (length > LONGEST_S * toNumber(path.rate))
    return failure(
      'too-long',
      `This would last ${formatTimecode(frame(Math.round(Math.min(length, 1e12))), path.rate)}; a result lasts six hours at most.`,
      'Repeat it less often, or play it faster.',
    );
  if (path.segments.length * times > MOST_SEGMENTS)
    return failure(
      'too-many-parts',
      `This would have ${path.segments.length * times} segments; ${MOST_SEGMENTS} are the most.`,
      'Repeat it less often.',
    );
  return undefined;
}
