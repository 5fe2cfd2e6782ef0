import { accentsIn, denseBars } from './accents';
import { analyse } from './analyse';
import { bandSongs } from './fixtures/bands';
import { type MadeSong, madeSongs } from './fixtures/songs';
import {
  type BeatGrid,
  BeatGridSchema,
  addedBeat,
  barAt,
  doubled,
  evenGrid,
  gridFromTaps,
  halved,
  meanBpm,
  movedBeat,
  nearestBeat,
  placeOf,
  removedBeat,
  shiftedGrid,
} from './grid';
import { biasOf, fMeasure } from './score';

/** How well the beginnings of bars were found. */
const barsMatch = (song: MadeSong, grid: BeatGrid): number =>
  fMeasure(
    grid.beats.filter((_, i) => placeOf(grid, i).beat === 0),
    song.beats.filter((_, i) => i % song.beatsPerBar === 0),
  );

describe('beats from the sound alone', () => {
  const songs = madeSongs(1, 30);
  const results = songs.map((song) => ({ song, found: analyse(song.mono, song.rateHz) }));
  const scores = results.map(({ song, found }) => fMeasure(found.grid.beats, song.beats));

  it('reach an F-measure of 0.95 for every song of the set, at 70 ms', () => {
    const wrong = results.filter((_, i) => scores[i]! < 0.95).map(({ song }) => song.name);
    expect(wrong).toEqual([]);
    expect(scores.reduce((a, b) => a + b, 0) / scores.length).toBeGreaterThan(0.98);
  });

  it('are counted in bars of three where they are three, and begin where they begin', () => {
    for (const { song, found } of results) expect(found.grid.beatsPerBar).toBe(song.beatsPerBar);
    const wrong = results.filter(({ song, found }) => barsMatch(song, found.grid) < 0.8);
    expect(wrong.map(({ song }) => song.name)).toEqual([]);
  });

  it('are no more than ten milliseconds early or late on the median', () => {
    for (const { song, found } of results)
      expect(Math.abs(biasOf(found.grid.beats, song.beats))).toBeLessThan(0.01);
  });

  it('go on through silence, and follow drift', () => {
    const silent = results.find((r) => r.song.silence)!;
    expect(meanBpm(silent.found.grid)).toBeCloseTo(126, 0);
    const drifting = results.find((r) => r.song.name.startsWith('speeding up'))!.found.grid.beats;
    const bpm = (i: number) => (60 * 8) / (drifting[i + 8]! - drifting[i]!);
    expect(bpm(2)).toBeLessThan(99);
    expect(bpm(drifting.length - 12)).toBeGreaterThan(105);
  });

  it('are none before the song, which may begin with one', () => {
    const clicks = new Float32Array(20 * 22_050);
    for (let at = 0; at < clicks.length; at += 11_025)
      for (let i = 0; i < 600; i++) clicks[at + i] = Math.sin(i * 0.4) * Math.exp(-i / 150);
    const { grid, accents } = analyse(clicks, 22_050);
    expect(BeatGridSchema.safeParse(grid).success).toBe(true);
    expect(grid.beats[0]).toBeLessThan(0.02);
    expect(accents.every((a) => a.at >= 0)).toBe(true);
  });

  it('kicks, snares and hats are accents of their bands', () => {
    const { found, song } = results[0]!;
    const low = accentsIn(found.accents, 'low', 0.5).map((a) => a.at);
    const kicks = song.beats.filter((_, i) => i % 2 === 0);
    expect(
      kicks.filter((k) => low.some((a) => Math.abs(a - k) < 0.03)).length / kicks.length,
    ).toBeGreaterThan(0.95);
    const high = accentsIn(found.accents, 'high', 0.2);
    expect(high.length).toBeGreaterThan(song.beats.length);
  });

  it('stay on the beat for bands: loud off the beat, swung, early, without drums, fast, in three; in six eight where it is longer', () => {
    const names = [
      'funk with ghost notes, 102',
      'shuffle, 112',
      'bossa, 128',
      'one drop, 76',
      'house with a long pad, 124',
      'drum and bass, 174',
      'guitar and voice, 96',
      'waltz by a band, 150',
    ];
    for (const song of [...bandSongs(3, 30, names), ...bandSongs(3, 45, ['six eight, 60'])]) {
      const { grid } = analyse(song.mono, song.rateHz);
      expect([song.name, fMeasure(grid.beats, song.beats) > 0.93]).toEqual([song.name, true]);
      expect([song.name, grid.beatsPerBar]).toEqual([song.name, song.beatsPerBar]);
      expect([song.name, barsMatch(song, grid) > 0.8]).toEqual([song.name, true]);
    }
  });

  it('begin their bars where they do in songs that were cut at the front, and say where that is a guess', () => {
    const judged = songs.map((song, i) => {
      const cutS = 4.2 + 0.37 * i;
      const { grid, barsLikely } = analyse(song.mono.subarray(Math.round(cutS * song.rateHz)), song.rateHz);
      const first = song.beats.findIndex((b) => b >= cutS);
      const beats = song.beats.map((b) => b - cutS);
      const bars = beats.filter((_, k) => k >= first && k % song.beatsPerBar === 0);
      const found = grid.beats.filter((_, k) => placeOf(grid, k).beat === 0);
      return { right: fMeasure(found, bars) > 0.8, barsLikely };
    });
    expect(judged.filter((j) => j.right).length).toBeGreaterThanOrEqual(0.85 * judged.length);
    const sure = judged.filter((j) => j.barsLikely >= 0.75);
    expect(sure.length).toBeGreaterThan(judged.length / 3);
    expect(sure.filter((j) => j.right).length).toBeGreaterThanOrEqual(0.9 * sure.length);
  });

  it('silence has no beats', () => {
    expect(analyse(new Float32Array(44_100), 22_050).grid.beats).toEqual([]);
  });
});

describe('the F-measure', () => {
  it.each([
    [[1, 2, 3], [1, 2, 3], 1],
    [[1.06, 2, 3.06], [1, 2, 3], 1],
    [[1.08, 2], [1, 2], 0.5],
    [[1, 1.01, 2], [1, 2], 0.8],
    [[], [1], 0],
  ])('of %j against %j is %d', (found, truth, f) => {
    expect(fMeasure(found, truth)).toBeCloseTo(f, 6);
  });
});

describe('the grid by hand', () => {
  const grid: BeatGrid = { beats: [0.5, 1, 1.5, 2, 2.5, 3, 3.5, 4], firstBar: 2, beatsPerBar: 4 };

  it('tells bars and beats', () => {
    expect(placeOf(grid, 2)).toEqual({ bar: 0, beat: 0 });
    expect(placeOf(grid, 7)).toEqual({ bar: 1, beat: 1 });
    expect(placeOf(grid, 0)).toEqual({ bar: -1, beat: 2 });
    expect(meanBpm(grid)).toBeCloseTo(120, 6);
    expect(nearestBeat(grid, 2.2)).toEqual({ place: 3, offS: expect.closeTo(0.2, 6) as number });
  });

  it('twice as many beats, or half, keep where bars begin', () => {
    const twice = doubled(grid);
    expect(twice.beats).toHaveLength(15);
    expect(twice.beats[twice.firstBar]).toBe(0.5);
    expect((4 - twice.firstBar) % 4).toBe(0);
    const half = halved(grid);
    expect(half.beats).toEqual([0.5, 1.5, 2.5, 3.5]);
    expect(half.beats[half.firstBar]).toBe(1.5);
  });

  it('beats are moved between their neighbours, added, taken away', () => {
    expect(movedBeat(grid, 2, 1.6).beats[2]).toBe(1.6);
    expect(movedBeat(grid, 2, 5).beats[2]).toBe(1.98);
    const more = addedBeat(grid, 0.2);
    expect([more.beats[0], more.beats[more.firstBar]]).toEqual([0.2, 1.5]);
    expect(addedBeat(grid, 1.01)).toBe(grid);
    const less = removedBeat(grid, 0);
    expect([less.beats.length, less.beats[less.firstBar]]).toEqual([7, 1.5]);
    expect(barAt(grid, 5).firstBar).toBe(1);
    expect(shiftedGrid(grid, -0.25).beats[0]).toBe(0.25);
  });

  it('a typed tempo makes an even grid through an instant', () => {
    const even = evenGrid(100, 5, 10, grid);
    expect(meanBpm(even)).toBeCloseTo(100, 3);
    expect(even.beats[0]).toBeCloseTo(0.2, 5);
    expect(even.beats).toContain(5);
    expect(placeOf(even, even.beats.indexOf(5)).beat).toBe(0);
  });

  it('taps, a little off, one missed and one twice, give the tempo and the place', () => {
    const taps = [10.03, 10.48, 11.02, 11.51, 12.5, 12.51, 13.01, 13.49].map((t) => t + 0.08);
    const tapped = gridFromTaps(taps, 0.08, 20, grid)!;
    expect(meanBpm(tapped)).toBeGreaterThan(119);
    expect(meanBpm(tapped)).toBeLessThan(121);
    expect(Math.abs(nearestBeat(tapped, 12)!.offS)).toBeLessThan(0.03);
    expect(gridFromTaps([1, 2], 0, 20, grid)).toBeUndefined();
  });

  it('bars crowded with onsets are proposed', () => {
    const even = evenGrid(120, 0, 16, { ...grid, firstBar: 0 });
    const accents = Array.from({ length: 160 }, (_, i) => i * 0.1)
      .filter((t) => (t >= 8 && t < 10) || Math.abs(t % 0.5) < 0.01)
      .map((at) => ({ at, band: 'mid' as const, strength: 1 }));
    expect(denseBars(even, accents, 3)).toEqual([{ fromS: 8, toS: 10, perBeat: 5 }]);
  });
});
