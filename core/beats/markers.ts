import { type BeatGrid, LAST_S, MOST_BEATS, placeOf } from './grid';

/** The grid as markers: a line for each beat, its instant in seconds, its bar and its beat in it. */
export function writeMarkers(grid: BeatGrid): string {
  const lines = grid.beats.map((at, i) => {
    const { bar, beat } = placeOf(grid, i);
    return `${at.toFixed(4)},${bar + 1},${beat + 1}`;
  });
  return ['seconds,bar,beat', ...lines, ''].join('\n');
}

/**
 * A grid from markers: lines that begin with an instant, as seconds or m:s; where a third column says 1, a bar
 * begins. Those of one instant are one; those after ten hours are none. Gives a sentence where fewer than two are left,
 * or more than a grid holds.
 */
export function readMarkers(
  text: string,
  before: BeatGrid,
): { ok: true; grid: BeatGrid } | { ok: false; sentence: string } {
  const found = text.split(/\r?\n/).flatMap((line) => {
    const cells = line.split(/[,;\t]/).map((c) => c.trim());
    const match = /^(?:(\d+):)?(\d+(?:\.\d+)?)$/.exec(cells[0] ?? '');
    if (!match) return [];
    const at = Number(match[1] ?? 0) * 60 + Number(match[2]);
    return at <= LAST_S ? [{ at, beat: Number(cells[2] ?? NaN) }] : [];
  });
  found.sort((a, b) => a.at - b.at);
  const rows = found.filter((r, i) => r.at !== found[i - 1]?.at);
  if (rows.length < 2)
    return {
      ok: false,
      sentence:
        'No markers could be read: each line should begin with an instant, such as 12.345 or 0:12.345.',
    };
  if (rows.length > MOST_BEATS)
    return {
      ok: false,
      sentence: `These are ${rows.length} markers; a song has ${MOST_BEATS} beats at most. Save fewer, and read them again.`,
    };
  const bar = rows.findIndex((r) => r.beat === 1);
  const next = rows.findIndex((r, i) => i > bar && r.beat === 1);
  const beatsPerBar = bar >= 0 && next > bar && next - bar <= 16 ? next - bar : before.beatsPerBar;
  return {
    ok: true,
    grid: {
      beats: rows.map((r) => r.at),
      // Bars go on before the first one that is marked.
      firstBar: Math.max(0, bar) % beatsPerBar,
      beatsPerBar,
    },
  };
}
