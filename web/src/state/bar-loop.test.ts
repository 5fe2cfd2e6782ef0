import { frame } from '@skipback/core/time/units';
import { DEFAULT_ENVELOPES } from '@skipback/core/beats/envelope';
import { newProject } from '@skipback/core/project/new-project';
import type { Song } from '@skipback/core/project/schema';
import { rational } from '@skipback/core/time/rational';
import { barsAt, framesOfBeats, toggleBars, wordsOf } from './bar-loop';
import { resetBench } from './bench';
import { setPlaying, usePlaying } from './playing';

const rate = rational(30);
/** Two beats a second from half a second on; the first beat is the last of a bar. */
const song: Song = {
  mediaId: 'm',
  name: 'lamplighter.ogg',
  lengthS: 30,
  startFrame: 0,
  fromS: 0,
  gainDb: 0,
  grid: { beats: Array.from({ length: 58 }, (_, i) => 0.5 + i / 2), firstBar: 1, beatsPerBar: 4 },
  accents: [],
  accentsGone: [],
  likely: null,
  barsLikely: null,
  second: null,
  envelopes: DEFAULT_ENVELOPES,
};
const project = { ...newProject('p', 'Pier', 0), song };

describe('bars of the song on the weave', () => {
  beforeEach(resetBench);

  it.each([
    [30, { from: 1, to: 5 }],
    [89, { from: 1, to: 5 }],
    [90, { from: 5, to: 9 }],
    [16, { from: 0, to: 4 }],
  ])('the one at frame %d is %j', (frame, wanted) => {
    expect(barsAt(song, frame, rate, 1)).toEqual(wanted);
  });

  it('several in a row end with the song', () => {
    expect(barsAt(song, 100, rate, 4)).toEqual({ from: 5, to: 21 });
    expect(barsAt(song, 860, rate, 4)!.to).toBe(57);
    expect(barsAt({ ...song, grid: { ...song.grid, beats: [] } }, 0, rate, 1)).toBeUndefined();
  });

  it('are result frames that follow the song, cut at the ends of the result', () => {
    const bar = { from: 1, to: 5 };
    expect(framesOfBeats(song, bar, rate, 300)).toEqual({ first: 30, end: 90 });
    expect(framesOfBeats({ ...song, startFrame: 7 }, bar, rate, 300)).toEqual({ first: 37, end: 97 });
    expect(framesOfBeats({ ...song, startFrame: -50 }, bar, rate, 300)).toEqual({ first: 0, end: 40 });
    expect(framesOfBeats(song, bar, rate, 60)).toEqual({ first: 30, end: 60 });
    expect(framesOfBeats({ ...song, startFrame: 900 }, bar, rate, 300)).toBeUndefined();
    expect(framesOfBeats(song, { from: 50, to: 99 }, rate, 900)).toBeUndefined();
  });

  it.each([
    [{ from: 1, to: 5 }, 'bar 1'],
    [{ from: 1, to: 17 }, 'bars 1 to 4'],
    [{ from: 1, to: 7 }, '6 beats from bar 1, beat 1'],
    [{ from: 3, to: 4 }, '1 beat from bar 1, beat 3'],
  ])('%j in words is %s', (beats, words) => {
    expect(wordsOf(song, beats)).toBe(words);
  });

  it('are switched on at the playhead and off again, and say why they cannot be', () => {
    setPlaying({ position: frame(100) });
    expect(toggleBars(project, 1)).toBe('Loops bar 2');
    expect(usePlaying.getState().beats).toEqual({ from: 5, to: 9 });
    expect(toggleBars(project, 4)).toBe('Plays all of it');
    expect(usePlaying.getState().beats).toBeNull();
    expect(toggleBars({ ...project, song: null }, 1)).toMatch(/^There is no song with beats/);
    expect(usePlaying.getState().beats).toBeNull();
  });
});
