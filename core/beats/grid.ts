import { z } from 'zod';

/** The last instant of a song that is counted, seconds. */
export const LAST_S = 36_000;
const seconds = z.number().min(-600).max(LAST_S);

/** Beats a grid may have. */
export const MOST_BEATS = 20_000;

/** An onset of the song in one band. */
export const AccentSchema = z.object({
  at: seconds,
  band: z.enum(['low', 'mid', 'high']),
  /** About 1 for a strong one of its band. */
  strength: z.number().min(0).max(10),
  /** Set where a person made it, or made it what it is: it stays when accents are found again. */
  hand: z.literal(true).optional(),
});
export type Accent = z.infer<typeof AccentSchema>;
export type Band = Accent['band'];

/** The song's grid: every beat as an instant of the song, in seconds, ascending. */
export const BeatGridSchema = z.object({
  beats: z.array(seconds).max(MOST_BEATS),
  /** Which beat begins a bar: the place of the first that does. */
  firstBar: z.int().min(0).max(64),
  beatsPerBar: z.int().min(1).max(16),
});
export type BeatGrid = z.infer<typeof BeatGridSchema>;

export const NO_GRID: BeatGrid = { beats: [], firstBar: 0, beatsPerBar: 4 };

/** Mean tempo, beats a minute, from the middle half of the beats' distances; 0 without beats. */
export function meanBpm({ beats }: BeatGrid): number {
  if (beats.length < 2) return 0;
  const steps = beats.slice(1).map((b, i) => b - beats[i]!);
  steps.sort((a, b) => a - b);
  const middle = steps.slice(Math.floor(steps.length / 4), Math.max(1, Math.ceil((steps.length * 3) / 4)));
  return 60 / (middle.reduce((a, b) => a + b, 0) / middle.length);
}

/** Where a beat stands in its bars: bar from 0, beat of it from 0; before the first bar, bar -1. */
export function placeOf(grid: BeatGrid, beat: number): { bar: number; beat: number } {
  const from = beat - grid.firstBar;
  const bar = Math.floor(from / grid.beatsPerBar);
  return { bar, beat: from - bar * grid.beatsPerBar };
}

/** The place of the beat that begins the bar around a beat; the grid's own ends stand in for bars cut off. */
export function barStart(grid: BeatGrid, place: number): number {
  return Math.max(0, place - placeOf(grid, place).beat);
}

const withBeats = (grid: BeatGrid, beats: readonly number[]): BeatGrid => ({
  ...grid,
  beats: beats.map((b) => Number(b.toFixed(5))).sort((a, b) => a - b),
});

/** The fastest tempo a person would mean, beats a minute. */
const FASTEST_BPM = 640;

/** Whether twice as many beats are still beats. */
export const canDouble = (grid: BeatGrid): boolean =>
  grid.beats.length * 2 <= MOST_BEATS && meanBpm(grid) * 2 <= FASTEST_BPM;

/** Twice as many beats: one more in the middle of each two. The same grid where they would be too many. */
export function doubled(grid: BeatGrid): BeatGrid {
  if (!canDouble(grid)) return grid;
  const { beats } = grid;
  const all = beats.flatMap((b, i) => (i + 1 < beats.length ? [b, (b + beats[i + 1]!) / 2] : [b]));
  return { ...withBeats(grid, all), firstBar: (grid.firstBar * 2) % grid.beatsPerBar };
}

/** Half as many: every second, keeping those that bars begin with. */
export function halved(grid: BeatGrid): BeatGrid {
  const odd = grid.firstBar % 2;
  const kept = grid.beats.filter((_, i) => i % 2 === odd);
  return { ...withBeats(grid, kept), firstBar: Math.floor(grid.firstBar / 2) % grid.beatsPerBar };
}

/** The beat nearest to an instant: its place, and how far it is; undefined without beats. */
export function nearestBeat({ beats }: BeatGrid, at: number): { place: number; offS: number } | undefined {
  if (beats.length === 0) return undefined;
  let low = 0;
  let high = beats.length - 1;
  while (low < high) {
    const middle = (low + high) >> 1;
    if (beats[middle]! < at) low = middle + 1;
    else high = middle;
  }
  const place = low > 0 && at - beats[low - 1]! < beats[low]! - at ? low - 1 : low;
  return { place, offS: at - beats[place]! };
}

/** A beat moved, kept between its neighbours. */
export function movedBeat(grid: BeatGrid, place: number, to: number): BeatGrid {
  const low = (grid.beats[place - 1] ?? -Infinity) + 0.02;
  const high = (grid.beats[place + 1] ?? Infinity) - 0.02;
  if (grid.beats[place] === undefined || low > high) return grid;
  return withBeats(grid, grid.beats.with(place, Math.min(high, Math.max(low, to))));
}

/** A beat added, unless one is there already; bars begin where they began. */
export function addedBeat(grid: BeatGrid, at: number): BeatGrid {
  const near = nearestBeat(grid, at);
  if (near && Math.abs(near.offS) < 0.02) return grid;
  const before = grid.beats.filter((b) => b < at).length;
  const moved = before <= grid.firstBar && grid.beats.length > 0 ? grid.firstBar + 1 : grid.firstBar;
  return { ...withBeats(grid, [...grid.beats, at]), firstBar: moved % grid.beatsPerBar };
}

export function removedBeat(grid: BeatGrid, place: number): BeatGrid {
  const moved = place < grid.firstBar ? grid.firstBar - 1 : grid.firstBar;
  return {
    ...withBeats(
      grid,
      grid.beats.filter((_, i) => i !== place),
    ),
    firstBar: moved,
  };
}

/** Bars begin at another beat. */
export function barAt(grid: BeatGrid, place: number): BeatGrid {
  return { ...grid, firstBar: place % grid.beatsPerBar };
}

/** An even grid of a tempo through an instant, over a song of a length. */
export function evenGrid(bpm: number, through: number, lengthS: number, grid: BeatGrid): BeatGrid {
  const step = 60 / bpm;
  const first = through - Math.floor(through / step) * step;
  const count = Math.min(MOST_BEATS, Math.max(0, Math.floor((lengthS - first) / step) + 1));
  const beats = Array.from({ length: count }, (_, i) => first + i * step);
  const barBeat = Math.round((through - first) / step);
  return { ...withBeats(grid, beats), firstBar: barBeat % grid.beatsPerBar };
}

/** All beats earlier or later. */
export function shiftedGrid(grid: BeatGrid, byS: number): BeatGrid {
  return withBeats(
    grid,
    grid.beats.map((b) => b + byS),
  );
}

/**
 * An even grid from taps: the tempo and place that fit them best (medians, so a missed or doubled tap does no
 * harm), after `latencyS` is taken off each. Undefined for fewer than four taps.
 */
export function gridFromTaps(
  taps: readonly number[],
  latencyS: number,
  lengthS: number,
  grid: BeatGrid,
): BeatGrid | undefined {
  const on = taps.map((t) => t - latencyS).sort((a, b) => a - b);
  if (on.length < 4) return undefined;
  const gaps = on.slice(1).map((t, i) => t - on[i]!);
  const usual = gaps.toSorted((a, b) => a - b)[gaps.length >> 1]!;
  if (usual < 0.2 || usual > 2) return undefined;
  // Each tap gets its beat number; then the line through them (least squares).
  let number = 0;
  const numbered = on.map((t, i) => {
    if (i > 0) number += Math.max(0, Math.round((t - on[i - 1]!) / usual));
    return [number, t] as const;
  });
  const n = numbered.length;
  const meanX = numbered.reduce((s, [x]) => s + x, 0) / n;
  const meanY = numbered.reduce((s, [, y]) => s + y, 0) / n;
  const spread = numbered.reduce((s, [x]) => s + (x - meanX) ** 2, 0);
  if (spread === 0) return undefined;
  const step = numbered.reduce((s, [x, y]) => s + (x - meanX) * (y - meanY), 0) / spread;
  return evenGrid(60 / step, meanY - meanX * step, lengthS, grid);
}

/** How one way to hear a song's beats differs from another, in words: its tempo, or how far its beats lie beside the others'. */
export function differenceOf(other: BeatGrid, grid: BeatGrid): string {
  const [bpm, now] = [meanBpm(other), meanBpm(grid)];
  if (Math.abs(bpm / now - 1) > 0.02) return `${bpm.toFixed(bpm < 100 ? 1 : 0)} a minute`;
  const middle = other.beats[other.beats.length >> 1] ?? 0;
  const before = grid.beats.findLast((b) => b <= middle + 1e-6) ?? 0;
  const share = ((middle - before) * now) / 60;
  const apart = ([, at]: readonly [string, number]) => Math.abs(share - at);
  return PLACES.reduce((best, place) => (apart(place) < apart(best) ? place : best))[0];
}

/** How far on in a beat other beats lie, in words. */
const PLACES = [
  ['other bars', 0],
  ['a quarter beat later', 1 / 4],
  ['a third of a beat later', 1 / 3],
  ['half a beat later', 1 / 2],
  ['a third of a beat earlier', 2 / 3],
  ['a quarter beat earlier', 3 / 4],
  ['other bars', 1],
] as const;
