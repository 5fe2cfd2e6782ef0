import { type BeatGrid, placeOf } from './grid';

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
 * begins. Gives a sentence where fewer than two lines can be read.
 */
export function readMarkers(
  text: string,
  before: BeatGrid,
): { ok: true; grid: BeatGrid } | { ok: false; sentence: string } {
  const rows = text.split(/\r?\n/).flatMap((line) => {
    const cells = line.split(/[,;\t]/).map((c) => c.trim());
    const match = /^(?:(\d+):)?(\d+(?:\.\d+)?)$/.exec(cells[0] ?? '');
    if (!match) return [];
    return [{ at: Number(match[1] ?? 0) * 60 + Number(match[2]), beat: Number(cells[2] ?? NaN) }];
  });
  rows.sort((a, b) => a.at - b.at);
  if (rows.length < 2)
    return {
      ok: false,
      sentence:
        'No markers could be read: each line should begin with an instant, such as 12.345 or 0:12.345.',
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
