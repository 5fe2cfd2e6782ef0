import { fittedNetworks, scoreOf } from './fitted';
import type { OnsetCurves } from './onsets';
import { FOLD_BEATS, evidenceOf, patternsOf } from './pattern';
import type { TempoPath } from './tempo';
import { type Way, waysToHear } from './ways';

/** One way to hear the beats of a song, and how likely it is the one people would tap to, 0 to 1. */
export interface Reading {
  readonly beats: readonly number[];
  readonly likely: number;
  /** The beat that begins the bars, if there are four to a bar, and how likely that is against the other three. */
  readonly firstOfFour: number;
  readonly fourLikely: number;
}

/** Ways less apart than this are the same: by their tempo, in octaves, and by their place, as a share of the beat. */
const SAME_OCTAVES = 0.05;
const SAME_PLACE = 0.1;

function same(a: Way, b: Way): boolean {
  if (Math.abs(Math.log2(a.bpm / b.bpm)) > SAME_OCTAVES) return false;
  // In the middle of the song, where neither begins or ends.
  const at = a.beats[a.beats.length >> 1]!;
  const step = (a.beats[a.beats.length - 1]! - a.beats[0]!) / Math.max(1, a.beats.length - 1);
  return b.beats.some((beat) => Math.abs(beat - at) < SAME_PLACE * step);
}

/**
 * The ways to hear a song, the likeliest first, told by the pattern that each makes of it: what is struck and what changes
 * at each place of the bar. None is the same as one before it. Places in the curves, with fractions.
 */
export function likeliestBeats(curves: OnsetCurves, heard: TempoPath): readonly Reading[] {
  const networks = fittedNetworks();
  const evidence = evidenceOf(curves);
  const weighed = waysToHear(curves, heard).map((way) => {
    const scores = patternsOf(evidence, way).map(
      (pattern) => networks.reduce((sum, n) => sum + scoreOf(n, pattern), 0) / networks.length,
    );
    return { way, scores };
  });
  const top = Math.max(...weighed.flatMap(({ scores }) => scores));
  const told = weighed
    .map(({ way, scores }) => {
      // The networks make odds of patterns: a way has those of its four.
      const odds = scores.map((s) => Math.exp(s - top));
      const sum = odds.reduce((a, b) => a + b, 0);
      const most = Math.max(...odds);
      return { way, odds: sum, firstOfFour: odds.indexOf(most), fourLikely: most / (sum || 1) };
    })
    .sort((a, b) => b.odds - a.odds);
  const apart: typeof told = [];
  for (const reading of told) {
    const like = apart.find(({ way }) => same(way, reading.way));
    if (like) like.odds += reading.odds;
    else apart.push(reading);
  }
  // What was taken together may have passed what stood before it.
  apart.sort((a, b) => b.odds - a.odds);
  const all = apart.reduce((sum, { odds }) => sum + odds, 0);
  return apart.map(({ way, odds, firstOfFour, fourLikely }) => ({
    ...{ beats: way.beats, likely: odds / all },
    ...{ firstOfFour: firstOfFour % FOLD_BEATS, fourLikely },
  }));
}
